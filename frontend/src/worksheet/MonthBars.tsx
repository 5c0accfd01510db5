import type { Schemas } from '../api/client'
import { amountWords } from '../ledger/words'

const WIDE = 11
const TALL = 22
const NAMES = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

interface MonthBarsProps {
  row: Schemas['ReadingAnswer']
  /** The first days of the twelve months. */
  months: string[]
}

/** Twelve months as bars, the year before as a line over each; what broke the run in another ink. */
export function MonthBars({ row, months }: MonthBarsProps) {
  const values = row.months.map(Number)
  const earlier = row.earlier.map(Number)
  const most = Math.max(...values, ...earlier, 0)
  const least = Math.min(...values, ...earlier, 0)
  const scale = most - least ? TALL / (most - least) : 0
  const zero = most * scale
  return (
    <svg
      role="img"
      aria-label={`Month by month: ${sayBroken(row, months)}`}
      width={WIDE * 12}
      height={TALL + 2}
      className="block"
    >
      {values.map((value, place) => (
        <g key={months[place]}>
          <title>{`${nameOf(months[place])}: ${amountWords(row.months[place] ?? '')}; a year earlier ${amountWords(row.earlier[place] ?? '')}`}</title>
          <rect x={place * WIDE} y={0} width={WIDE} height={TALL + 2} fill="transparent" />
          <rect
            x={place * WIDE + 1}
            y={value >= 0 ? zero - value * scale : zero}
            width={WIDE - 3}
            height={Math.max(Math.abs(value) * scale, value ? 1 : 0)}
            className={row.broke.includes(place) ? 'fill-rust-fill' : 'fill-moss-fill'}
          />
          {earlier[place] !== 0 && (
            <path
              d={`M${place * WIDE} ${zero - (earlier[place] ?? 0) * scale}h${WIDE - 1}`}
              className="stroke-ink"
            />
          )}
        </g>
      ))}
    </svg>
  )
}

function nameOf(month: string | undefined): string {
  return month ? `${NAMES[Number(month.slice(5, 7)) - 1]} ${month.slice(0, 4)}` : ''
}

function sayBroken(row: Schemas['ReadingAnswer'], months: string[]): string {
  const broken = row.broke.map((place) => nameOf(months[place]))
  return broken.length ? `${broken.join(', ')} broke the run` : 'no month breaks the run'
}
