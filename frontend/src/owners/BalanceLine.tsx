import type { Schemas } from '../api/client'
import { amountWords, shortDayWords } from '../ledger/words'

const WIDTH = 440
const HEIGHT = 150
const FOOT = 18

interface BalanceLineProps {
  account: Schemas['OwnerAccountAnswer']
}

/** The balance day by day as steps; where the owner owes, the stretch below nil is shaded. */
export function BalanceLine({ account }: BalanceLineProps) {
  const points = account.line.map((day) => ({
    at: Date.parse(day.day),
    balance: Number(day.balance),
  }))
  const first = points[0]?.at ?? 0
  const last = Math.max(points.at(-1)?.at ?? 1, first + 1)
  const values = [...points.map((point) => point.balance), 0]
  const low = Math.min(...values)
  const high = Math.max(...values)
  const span = Math.max(high - low, 1)
  const x = (at: number) => (WIDTH * (at - first)) / (last - first)
  const y = (balance: number) => 6 + ((HEIGHT - FOOT - 12) * (high - balance)) / span
  const steps = points
    .map((point, place) => {
      const next = points[place + 1]?.at ?? last
      return `L ${x(point.at)} ${y(point.balance)} L ${x(next)} ${y(point.balance)}`
    })
    .join(' ')
  const path = steps.replace(/^L/, 'M')
  const below = `M 0 ${y(0)} ${steps} L ${WIDTH} ${y(0)} Z`
  const says = `The balance ran from ${amountWords(account.opening)} to ${amountWords(account.closing)}; the lowest was ${amountWords(account.lowest.balance)} on ${shortDayWords(account.lowest.day)}`
  return (
    <svg
      role="img"
      aria-label={says}
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="w-full border-b border-rule bg-sheet"
    >
      <title>{says}</title>
      {account.can_owe && (
        <>
          <clipPath id={`below-${account.account}`}>
            <rect x="0" y={y(0)} width={WIDTH} height={HEIGHT} />
          </clipPath>
          <path
            d={below}
            fill="var(--rust-fill)"
            opacity="0.35"
            clipPath={`url(#below-${account.account})`}
          />
        </>
      )}
      <line x1="0" x2={WIDTH} y1={y(0)} y2={y(0)} stroke="var(--edge)" />
      <path d={path} fill="none" stroke="var(--tide)" strokeWidth="1.5" />
      <text x="4" y={HEIGHT - 5} fontSize="11" fill="var(--quiet)">
        {shortDayWords(account.line[0]?.day ?? '2000-01-01')}
      </text>
      <text x={WIDTH - 4} y={HEIGHT - 5} fontSize="11" textAnchor="end" fill="var(--quiet)">
        {shortDayWords(account.line.at(-1)?.day ?? '2000-01-01')}
      </text>
      <text x="4" y={Math.max(14, y(0) - 3)} fontSize="11" fill="var(--quiet)">
        0.00
      </text>
    </svg>
  )
}
