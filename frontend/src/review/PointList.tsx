import { type ReactNode, useEffect, useRef } from 'react'
import { CertaintyPin } from '../ledger/CertaintyPin'
import { amountWords } from '../ledger/words'
import type { PointView } from './queries'
import type { Order, Showing } from './showing'

/** Its points are settled one by one, beside their statement lines. */
const IN_PLACE = 'The bank'

interface PointListProps {
  counts: Record<Showing, number>
  showing: Showing
  onShow: (showing: Showing) => void
  order: Order
  onOrder: (order: Order) => void
  points: PointView[]
  selectedId: string | undefined
  onSelect: (point: PointView) => void
  /** Called with the check whose sure points are to be taken at once. */
  onTakeTogether: (check: string) => void
  filter: ReactNode
  since: ReactNode
  /** What moved since the person was last here. */
  moved: Set<string>
}

export function PointList(props: PointListProps) {
  const { counts, showing, order, points } = props
  const families = [...new Set(points.map((point) => point.family))]
  return (
    <section
      aria-label="Review points"
      className="flex min-h-0 flex-col border-r border-edge pt-2.5"
    >
      <div className="flex items-baseline gap-3.5 px-5 pb-1">
        {(['open', 'asked', 'done'] as const).map((choice) => (
          <button
            key={choice}
            type="button"
            aria-pressed={choice === showing}
            className={choice === showing ? 'font-semibold' : 'text-quiet hover:text-ink'}
            onClick={() => props.onShow(choice)}
          >
            {counts[choice]} {choice}
          </button>
        ))}
        <label className="ml-auto text-quiet">
          by{' '}
          <select
            aria-label="Order of the points"
            className="bg-transparent text-quiet"
            value={order}
            onChange={(event) => props.onOrder(event.target.value as Order)}
          >
            <option value="amount">amount</option>
            <option value="certainty">certainty</option>
            <option value="date">date</option>
          </select>
        </label>
      </div>
      {props.filter}
      {props.since}
      <div className="min-h-0 flex-1 overflow-auto pb-4">
        {families.map((family) => (
          <Family key={family} {...props} family={family} />
        ))}
      </div>
    </section>
  )
}

export function isSureOf(point: PointView, check: string | null): boolean {
  return point.level === 'sure' && point.check === check
}

/** The check that has most sure points here: only points of one kind are taken together. */
function mostSure(points: PointView[]): string | null {
  const counts = new Map<string, number>()
  for (const point of points) {
    if (point.level === 'sure') counts.set(point.check, (counts.get(point.check) ?? 0) + 1)
  }
  const [first] = [...counts].sort((a, b) => b[1] - a[1])
  return first?.[0] ?? null
}

function Family(props: PointListProps & { family: string }) {
  const { family, showing, selectedId, onSelect, onTakeTogether } = props
  const points = props.points.filter((point) => point.family === family)
  const kind = mostSure(points)
  const sure = points.filter((point) => isSureOf(point, kind)).length
  return (
    <div>
      <h2 className="flex items-baseline gap-2 whitespace-nowrap px-5 pt-2.5 pb-1 font-sans text-[13px] font-semibold text-deep">
        {family}
        {showing === 'open' && sure > 1 && family !== IN_PLACE && (
          <button
            type="button"
            className="font-normal whitespace-nowrap text-tide hover:underline"
            onClick={() => kind && onTakeTogether(kind)}
          >
            take {sure} sure together
          </button>
        )}
        <span className="ml-auto">{points.length}</span>
      </h2>
      <ul>
        {points.map((point) => (
          <PointRow
            key={point.id}
            point={point}
            isSelected={point.id === selectedId}
            isNew={props.moved.has(point.id)}
            onSelect={() => onSelect(point)}
          />
        ))}
      </ul>
    </div>
  )
}

interface PointRowProps {
  point: PointView
  isSelected: boolean
  isNew: boolean
  onSelect: () => void
}

function PointRow({ point, isSelected, isNew, onSelect }: PointRowProps) {
  const ref = useRef<HTMLLIElement>(null)
  useEffect(() => {
    if (isSelected) ref.current?.scrollIntoView({ block: 'nearest' })
  }, [isSelected])
  return (
    <li
      ref={ref}
      // Rows out of sight are not laid out: a large client has hundreds.
      className={`border-t border-rule [contain-intrinsic-size:auto_58px] [content-visibility:auto] ${isSelected ? 'bg-sheet shadow-[inset_4px_0_0_var(--cork)]' : 'hover:bg-wash'}`}
    >
      <button
        type="button"
        aria-current={isSelected || undefined}
        className="grid w-full grid-cols-[20px_1fr_auto] gap-1 py-1.5 pr-3.5 pl-5 text-left leading-[18px]"
        onClick={onSelect}
      >
        <CertaintyPin level={point.level} />
        <span className="min-w-0">
          <span className="block truncate font-semibold">{point.headline}</span>
          <span className="block truncate text-[13px] text-quiet">{point.short}</span>
          {point.state !== 'open' && (
            <span className="block text-[13px] text-moss">
              {point.state}
              {point.decision && ` by ${point.decision.by}`}
            </span>
          )}
          {point.query && point.state === 'open' && (
            <span className="block text-[13px] text-tide">
              {point.query.state === 'answered' ? 'the client answered' : 'no answer in time'}
            </span>
          )}
          {point.handed_in && (
            <span className="block text-[13px] text-tide">waits for approval</span>
          )}
          {isNew && <span className="block text-[13px] text-tide">moved since you were here</span>}
          {point.changed && (
            <span className="block text-[13px] text-rust">changed since it was decided</span>
          )}
        </span>
        <span className={isSelected ? 'font-semibold' : ''}>{amountWords(point.amount)}</span>
      </button>
    </li>
  )
}
