import type { ReactNode } from 'react'
import { useInspect } from '../ledger/inspect'
import { amountWords, counted, dayWords, shortDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import type { Picked } from './picked'
import type { Reconciliation, SpineRow } from './queries'

interface RowProps {
  name: string
  row: SpineRow
  state: Reconciliation
  picked: Picked
  isActive: boolean
  onActive: () => void
  onPick: (kind: 'entries' | 'lines', id: string) => void
  onSettle: () => void
  onApart: () => void
  onPoint: (point: string) => void
}

const DAY = 24 * 3600 * 1000

/** One height of the spine: tied, likely the same, or alone opposite a gap. */
export function Row(props: RowProps) {
  const { row, isActive, name, onActive } = props
  const quiet = row.kind === 'agreed'
  const both = row.entries.length > 0 && row.lines.length > 0
  const look = isActive ? 'bg-wash' : quiet ? '' : 'bg-sheet'
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: arrows do it by keys
    // biome-ignore lint/a11y/noStaticElementInteractions: it only says which row is looked at
    <div data-row={name} className="contents" onClick={onActive}>
      <Side quiet={quiet} className={`${look} ${mark(row, isActive, 'left')}`}>
        {row.entries.length > 0 ? <Entries {...props} /> : <Gap {...props} />}
      </Side>
      <div
        className={`relative border-x border-b border-x-edge border-b-rule bg-wash py-0.5 text-center text-[13px] leading-6 text-quiet ${both ? tie(row) : ''}`}
      >
        <span className="relative bg-wash px-1.5">{shortDayWords(row.day)}</span>
      </div>
      <Side quiet={quiet} className={`${look} ${mark(row, isActive, 'right')}`}>
        {row.lines.length > 0 ? <Lines {...props} /> : <Gap {...props} />}
      </Side>
      {row.kind === 'differs' || (row.kind === 'proposed' && (isActive || row.point)) ? (
        <Between {...props} />
      ) : null}
      {quiet && isActive ? <Agreed {...props} /> : null}
    </div>
  )
}

function mark(row: SpineRow, isActive: boolean, side: 'left' | 'right'): string {
  if (row.kind === 'agreed' || row.kind === 'proposed') {
    return isActive && side === 'left' ? 'shadow-[inset_3px_0_0_var(--cork)]' : ''
  }
  const has = side === 'left' ? row.entries.length > 0 : row.lines.length > 0
  if (!has) return ''
  return side === 'left'
    ? 'shadow-[inset_3px_0_0_var(--rust)]'
    : 'shadow-[inset_-3px_0_0_var(--rust)]'
}

/** The tie across the spine: whole where agreed, broken where it is only likely or differs. */
function tie(row: SpineRow): string {
  const line = 'before:absolute before:inset-x-[-9px] before:top-[14px] before:border-t-2'
  if (row.kind === 'agreed') return `${line} before:border-moss`
  if (row.kind === 'differs') return `${line} before:border-dashed before:border-rust`
  return `${line} before:border-dotted before:border-tide`
}

function Side({
  quiet,
  className,
  children,
}: {
  quiet: boolean
  className: string
  children: ReactNode
}) {
  return (
    <div
      className={`min-w-0 border-b border-rule px-2.5 py-0.5 leading-6 ${quiet ? 'text-quiet' : ''} ${className}`}
    >
      {children}
    </div>
  )
}

function Entries({ row, state, picked, onPick }: RowProps) {
  const inspect = useInspect()
  return row.entries.map((entry) => {
    const id = `${entry.transaction}\u0000${entry.line}`
    return (
      <div key={id} className="grid min-h-6 grid-cols-[20px_76px_minmax(0,1fr)_auto] gap-2">
        {row.kind === 'agreed' || state.finished ? (
          <span />
        ) : (
          <input
            type="checkbox"
            className="mt-[5px] size-3.5"
            aria-label={`Pick ${entry.transaction}`}
            checked={picked.entries.includes(id)}
            onChange={() => onPick('entries', id)}
          />
        )}
        <button
          type="button"
          className="truncate text-left text-tide hover:underline"
          onClick={() => inspect({ kind: 'transaction', name: entry.transaction })}
        >
          {entry.transaction}
        </button>
        <span className="truncate">
          <b className={row.kind === 'agreed' ? 'font-normal' : 'font-semibold'}>{entry.who}</b>
          {entryWords(entry)}
          {entry.date !== row.day && <span className="text-quiet"> · {dayWords(entry.date)}</span>}
        </span>
        <span className={row.kind === 'agreed' ? '' : 'font-semibold'}>
          {amountWords(entry.amount)}
        </span>
      </div>
    )
  })
}

function Lines({ row, state, picked, onPick }: RowProps) {
  return row.lines.map((line) => (
    <div key={line.ref} className="grid min-h-6 grid-cols-[20px_56px_minmax(0,1fr)_auto] gap-2">
      {row.kind === 'agreed' || state.finished ? (
        <span />
      ) : (
        <input
          type="checkbox"
          className="mt-[5px] size-3.5"
          aria-label={`Pick line ${line.number}, ${line.text}`}
          checked={picked.lines.includes(line.ref)}
          onChange={() => onPick('lines', line.ref)}
        />
      )}
      <span className="text-quiet" title={line.path}>
        line {line.number}
      </span>
      <span
        className={`truncate ${row.kind === 'agreed' ? '' : 'font-semibold'}`}
        title={line.text}
      >
        {line.text || 'no text'}
        {line.date !== row.day && (
          <span className="font-normal text-quiet"> · {dayWords(line.date)}</span>
        )}
      </span>
      <span className={row.kind === 'agreed' ? '' : 'font-semibold'}>
        {amountWords(line.amount)}
      </span>
    </div>
  ))
}

/** After whose it is: its text and number. */
function entryWords(entry: SpineRow['entries'][number]): string {
  const words = [entry.text, entry.reference].filter(Boolean).join(', ')
  return entry.who && words ? `, ${words}` : words
}

/** What lies between two that are likely one: why, and the deed. */
function Between({ row, state, isActive, onSettle, onPoint }: RowProps) {
  if (state.finished) return null
  return (
    <div
      className={`col-span-3 flex items-center justify-center gap-3 border-b border-rule px-3 py-1 text-[13px] ${row.kind === 'differs' ? 'bg-rust-wash' : isActive ? 'bg-wash' : ''}`}
    >
      <span className="truncate">
        {row.level && <b className="font-semibold">{row.level}: </b>}
        <span className={row.kind === 'differs' ? '' : 'text-quiet'}>
          {row.summary ?? row.why.join(' · ')}
        </span>
      </span>
      {row.kind === 'proposed' ? (
        <Button
          className="px-2.5! py-0.5!"
          look={isActive ? 'post' : 'plain'}
          hint={isActive ? '↵' : undefined}
          onClick={onSettle}
        >
          Agree
        </Button>
      ) : null}
      {row.point && (
        <Button
          className="px-2.5! py-0.5!"
          look={row.kind === 'differs' && isActive ? 'post' : 'plain'}
          hint={row.kind === 'differs' && isActive ? '↵' : undefined}
          onClick={() => onPoint(row.point ?? '')}
        >
          Put it right…
        </Button>
      )}
    </div>
  )
}

function Agreed({ row, state, onApart }: RowProps) {
  return (
    <div className="col-span-3 flex items-center justify-center gap-3 border-b border-rule bg-wash px-3 py-1 text-[13px] text-quiet">
      {row.by_program ? 'Agreed by the program' : 'Agreed by a person'}
      {row.why.length > 0 && `: ${row.why.join(' · ')}`}
      {!state.finished && row.group && (
        <Button className="px-2.5! py-0.5!" hint="⌫" onClick={onApart}>
          Take apart
        </Button>
      )}
    </div>
  )
}

/** The empty side: what is missing there, and how to put it right. */
function Gap({ row, state, isActive, onPoint }: RowProps) {
  const entry = row.entries[0]
  const says = entry ? waiting(entry.date, state.last_day, entry.amount) : 'Not in the books.'
  return (
    <div className="flex items-center gap-3 text-[13px] text-quiet">
      <span className="hatched size-4 shrink-0" aria-hidden="true" />
      <span className="truncate">{says}</span>
      {row.point && !state.finished && (
        <Button
          className="px-2.5! py-0.5! ml-auto"
          look={isActive ? 'post' : 'plain'}
          hint={isActive ? '↵' : undefined}
          onClick={() => onPoint(row.point ?? '')}
        >
          {entry ? 'Put it right…' : 'Record it…'}
        </Button>
      )}
    </div>
  )
}

function waiting(day: string, end: string, amount: string): string {
  const days = Math.round((Date.parse(end) - Date.parse(day)) / DAY)
  const what = amount.startsWith('-') ? 'presented' : 'credited'
  if (days === 0) return `Booked on the statement's last day: likely not ${what} yet.`
  if (days <= 10)
    return `Booked ${counted(days, 'day')} before the statement ends: likely not ${what} yet.`
  return `Not ${what} in ${days} days: it is carried over.`
}
