import { useInspect } from '../ledger/inspect'
import { amountWords, dayWords, isNil } from '../ledger/words'
import type { End, Taken, Threads } from './queries'

const ROW = 40

interface WeaveProps {
  threads: Threads
  /** The end that is taken, waiting for its other; it may be another party's. */
  picked: Taken | null
  onPick: (end: End | null) => void
  onTie: (one: string, other: string) => void
  onTakeOff: (transaction: string, allocation: string) => void
}

/** Debits left, credits right, a curve for each allocation, as thick as its part of the larger end. */
export function Weave({ threads, picked, onPick, onTie, onTakeOff }: WeaveProps) {
  const height = ROW * Math.max(threads.debits.length, threads.credits.length, 1)
  const side = (end: End) => (threads.debits.includes(end) ? 'debit' : 'credit')
  const ends = [...threads.debits, ...threads.credits]
  const own = ends.find((end) => end.transaction === picked?.transaction)
  function take(end: End) {
    if (!picked) return onPick(end)
    if (own === end) return onPick(null)
    return picked.side === side(end) ? onPick(end) : onTie(picked.transaction, end.transaction)
  }
  return (
    <div>
      <div className="grid grid-cols-[1fr_120px_1fr] border-b border-ink pb-1 font-semibold text-deep">
        <span>Debits</span>
        <span />
        <span>Credits</span>
      </div>
      <div className="grid grid-cols-[1fr_120px_1fr]">
        <Side ends={threads.debits} picked={picked?.transaction} onTake={take} onTie={onTie} />
        <svg
          aria-hidden="true"
          width="120"
          height={height}
          viewBox={`0 0 120 ${height}`}
          className="overflow-visible"
        >
          {threads.threads.map((thread) => (
            <Curve
              key={thread.allocation}
              from={placeOf(threads.debits, thread.debit)}
              to={placeOf(threads.credits, thread.credit)}
              weight={weightOf(threads, thread.amount)}
            />
          ))}
        </svg>
        <Side ends={threads.credits} picked={picked?.transaction} onTake={take} onTie={onTie} />
      </div>
      {threads.threads.length > 0 && (
        <ul aria-label="What settles what" className="mt-3 border-t border-rule">
          {threads.threads.map((thread) => (
            <li key={thread.allocation} className="flex gap-3 border-b border-rule py-1">
              <span className="w-24 text-quiet">{dayWords(thread.date)}</span>
              <span className="grow">
                {thread.debit} and {thread.credit}
              </span>
              <span>{amountWords(thread.amount)}</span>
              <button
                type="button"
                aria-label={`Take ${thread.debit} and ${thread.credit} apart`}
                className="text-tide hover:underline"
                onClick={() => onTakeOff(thread.credit, thread.allocation)}
              >
                Take off
              </button>
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

function placeOf(ends: End[], transaction: string): number {
  return ROW * ends.findIndex((end) => end.transaction === transaction) + ROW / 2
}

/** From one to nine, by how much of the largest end it is. */
function weightOf(threads: Threads, amount: string): number {
  const ends = [...threads.debits, ...threads.credits].map((end) => Number(end.amount))
  return 1 + (8 * Number(amount)) / Math.max(1, ...ends)
}

function Curve({ from, to, weight }: { from: number; to: number; weight: number }) {
  return (
    <path
      d={`M 0 ${from} C 60 ${from}, 60 ${to}, 120 ${to}`}
      fill="none"
      stroke="var(--moss-fill)"
      strokeWidth={weight}
    />
  )
}

interface SideProps {
  ends: End[]
  picked: string | undefined
  onTake: (end: End) => void
  onTie: (one: string, other: string) => void
}

function Side({ ends, picked, onTake, onTie }: SideProps) {
  return (
    <ul>
      {ends.map((end) => (
        <li key={end.transaction} style={{ height: ROW }} className="py-0.5">
          <EndCard end={end} isPicked={picked === end.transaction} onTake={onTake} onTie={onTie} />
        </li>
      ))}
    </ul>
  )
}

interface EndCardProps {
  end: End
  isPicked: boolean
  onTake: (end: End) => void
  onTie: (one: string, other: string) => void
}

/** One item: settled in full it is quiet; a loose end is told by an open edge, a word and its sum. */
function EndCard({ end, isPicked, onTake, onTie }: EndCardProps) {
  const inspect = useInspect()
  const loose = !isNil(end.left)
  const look = isPicked
    ? 'border-tide bg-straw'
    : loose
      ? 'border-dashed border-rust bg-sheet'
      : 'border-rule'
  return (
    <div className={`flex h-9 items-stretch border ${look}`}>
      <button
        type="button"
        draggable
        aria-pressed={isPicked}
        className="flex min-w-0 grow items-center gap-2 px-2 text-left"
        onClick={() => onTake(end)}
        onDragStart={(event) => {
          event.dataTransfer.setData('text/plain', end.transaction)
          if (!isPicked) onTake(end)
        }}
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault()
          const other = event.dataTransfer.getData('text/plain')
          if (other && other !== end.transaction) onTie(other, end.transaction)
        }}
      >
        <span className="sr-only">
          {`${end.reference ?? end.transaction}, ${end.amount}, ${loose ? `${end.left} open` : 'settled'}`}
        </span>
        <span aria-hidden="true" className="min-w-0 grow truncate leading-4">
          {end.reference ?? end.text ?? end.transaction}
          <span className="block truncate text-[12px] text-quiet">
            {dayWords(end.date)}
            {loose && end.days > 0 && ` · ${end.days} days`}
          </span>
        </span>
        <span aria-hidden="true" className="text-right leading-4">
          {amountWords(end.amount)}
          {loose && (
            <span className="block text-[12px] font-semibold text-rust">
              {end.left === end.amount ? 'open' : `${amountWords(end.left)} open`}
            </span>
          )}
        </span>
      </button>
      <button
        type="button"
        aria-label={`Open ${end.transaction}`}
        title={`Open ${end.transaction}`}
        className="w-6 shrink-0 border-l border-rule text-tide"
        onClick={() => inspect({ kind: 'transaction', name: end.transaction })}
      >
        ›
      </button>
    </div>
  )
}
