import { Popover } from 'radix-ui'
import { type ReactNode, useEffect, useRef } from 'react'
import type { Schemas } from '../api/client'
import { SmallMark } from '../ledger/SmallMark'
import { amountWords, capital, dayWords, plainWords, shortDayWords } from '../ledger/words'
import type { Order } from './ordering'

type Row = Schemas['ClientRow']

const BANDS = ['Overdue', 'This week', 'This month', 'Later', 'Signed']
const STEPS = [
  ['books', 'books'],
  ['bank', 'bank'],
  ['review', 'review'],
  ['tie-outs', 'proof'],
  ['sign-off', 'sign'],
] as const

interface ClientBandsProps {
  rows: Row[]
  active: string | undefined
  /** Codes of the clients that are chosen, for what is done with several. */
  chosen: ReadonlySet<string>
  order: Order
  onOrder: (order: Order) => void
  onOpen: (row: Row) => void
  onChoose: (code: string) => void
}

/** One row a client, in bands by deadline, the soonest first; or in one, by what one chose. */
export function ClientBands(props: ClientBandsProps) {
  const { rows, active, chosen, order, onOpen, onChoose } = props
  return (
    <table className="mt-3 w-full border-collapse">
      <caption className="sr-only">
        Clients, {order === 'due' ? 'the soonest deadline first' : 'as chosen'}
      </caption>
      <thead>
        <tr className="border-b border-ink text-left text-deep">
          <SortHead by="name" {...props} className="py-1.5 pr-2">
            Client
          </SortHead>
          <SortHead by="year_end" {...props} className="px-2">
            Year-end
          </SortHead>
          <SortHead by="as_at" {...props} className="px-2">
            To sign as at
          </SortHead>
          <SortHead by="due" {...props} className="px-2 text-right">
            Due
          </SortHead>
          <th scope="col" className="px-3 font-normal text-quiet">
            <span className="flex w-[190px] text-[12px]">
              {STEPS.map(([, head]) => (
                <span key={head} className="w-1/5">
                  {head}
                </span>
              ))}
            </span>
          </th>
          <SortHead by="points" {...props} className="px-2 text-right">
            Points
          </SortHead>
          <SortHead by="at_stake" {...props} className="px-2 text-right">
            At stake
          </SortHead>
          <SortHead by="move" {...props} className="px-2">
            Whose move
          </SortHead>
          <th scope="col" className="px-2 font-semibold">
            Who
          </th>
          <th scope="col" className="pl-2">
            <span className="sr-only">Open</span>
          </th>
        </tr>
      </thead>
      {(order === 'due' ? BANDS : [null]).map((band) => (
        <Band
          key={band}
          band={band}
          rows={band ? rows.filter((row) => row.band === band) : rows}
          active={active}
          chosen={chosen}
          onOpen={onOpen}
          onChoose={onChoose}
        />
      ))}
    </table>
  )
}

interface BandProps extends Omit<ClientBandsProps, 'order' | 'onOrder'> {
  band: string | null
}

function Band({ band, rows, active, chosen, onOpen, onChoose }: BandProps) {
  if (rows.length === 0) return null
  return (
    <tbody>
      {band && (
        <tr>
          <th
            scope="rowgroup"
            colSpan={10}
            className="pt-3 pb-1 text-left font-display font-semibold"
          >
            {band} <span className="font-sans font-normal text-quiet">{rows.length}</span>
          </th>
        </tr>
      )}
      {rows.map((row) => (
        <ClientRow
          key={row.code}
          row={row}
          isActive={row.code === active}
          isChosen={chosen.has(row.code)}
          onOpen={onOpen}
          onChoose={onChoose}
        />
      ))}
    </tbody>
  )
}

interface ClientRowProps {
  row: Row
  isActive: boolean
  isChosen: boolean
  onOpen: (row: Row) => void
  onChoose: (code: string) => void
}

function ClientRow({ row, isActive, isChosen, onOpen, onChoose }: ClientRowProps) {
  const ref = useRef<HTMLTableRowElement>(null)
  useEffect(() => {
    if (isActive) ref.current?.scrollIntoView({ block: 'nearest' })
  }, [isActive])
  return (
    <tr
      ref={ref}
      aria-current={isActive || undefined}
      className={`h-[31px] cursor-pointer border-b border-rule ${isActive ? 'bg-sheet shadow-[inset_4px_0_0_var(--cork)]' : 'hover:bg-wash'}`}
      onClick={() => onOpen(row)}
    >
      <th scope="row" className="pr-2 pl-3 text-left font-normal">
        <input
          type="checkbox"
          className="mr-2.5 size-3.5 align-[-2px]"
          aria-label={`Choose ${row.name}`}
          checked={isChosen}
          onClick={(event) => event.stopPropagation()}
          onChange={() => onChoose(row.code)}
        />
        <strong className="font-semibold">{row.name}</strong>{' '}
        <span className="text-quiet">{plainWords(row.entity)}</span>
        {row.reopened && (
          <span title={row.reopened} className="ml-2 text-[13px] font-semibold text-rust">
            reopened
            <span className="sr-only">: {row.reopened}</span>
          </span>
        )}
      </th>
      <td className="px-2">{shortDayWords(row.year_end)}</td>
      <td className="px-2">{dayWords(row.as_at)}</td>
      <td className="px-2 text-right">
        <Due row={row} />
      </td>
      <td className="px-3">
        <Path row={row} />
      </td>
      <td className="px-2 text-right">
        <Points row={row} />
      </td>
      <td className="px-2 text-right">{amountWords(row.at_stake)}</td>
      <td className="px-2 whitespace-nowrap">
        {moveWords(row.move)}
        {row.since && <span className="text-quiet">, since {shortDayWords(row.since)}</span>}
      </td>
      <td className="px-2 text-quiet">{row.staff.map((name) => name.split(' ')[0]).join(', ')}</td>
      <td className="pl-2 text-right">
        <button
          type="button"
          aria-label={`${deedOf(row)} with ${row.name}`}
          className="border border-edge bg-sheet px-2.5 py-0.5 font-semibold whitespace-nowrap text-tide"
        >
          {deedOf(row)}
        </button>
      </td>
    </tr>
  )
}

/** How many points are open; broken down by family where one wants to know. */
function Points({ row }: { row: Row }) {
  const families = Object.entries(row.families)
  if (!row.current) {
    return (
      <span className="text-quiet" title="As it stood last; it is being counted anew">
        {row.open_points} …
      </span>
    )
  }
  if (families.length === 0 && row.asked_points === 0) return <span className="text-quiet">–</span>
  return (
    <Popover.Root>
      <Popover.Trigger
        aria-label={`${row.open_points} points of ${row.name}, by family`}
        className="underline decoration-edge decoration-dotted underline-offset-4 hover:decoration-ink"
        onClick={(event) => event.stopPropagation()}
      >
        {row.open_points}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          aria-label={`Points of ${row.name}`}
          className="z-50 border border-edge bg-sheet px-4 py-3 shadow-md"
          onClick={(event) => event.stopPropagation()}
        >
          <table>
            <tbody>
              {families.map(([family, count]) => (
                <tr key={family}>
                  <th scope="row" className="pr-6 text-left font-normal">
                    {family}
                  </th>
                  <td className="text-right">{count}</td>
                </tr>
              ))}
              {row.asked_points > 0 && (
                <tr className="text-quiet">
                  <th scope="row" className="pr-6 text-left font-normal">
                    asked, waiting for the client
                  </th>
                  <td className="text-right">{row.asked_points}</td>
                </tr>
              )}
            </tbody>
          </table>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}

interface SortHeadProps {
  by: Order
  order: Order
  onOrder: (order: Order) => void
  className: string
  children: ReactNode
}

/** A heading that puts the rows in order by its column. */
function SortHead({ by, order, onOrder, className, children }: SortHeadProps) {
  const isIt = by === order
  return (
    <th scope="col" aria-sort={isIt ? 'other' : 'none'} className={`font-semibold ${className}`}>
      <button
        type="button"
        className={isIt ? 'underline decoration-cork decoration-2 underline-offset-4' : ''}
        onClick={() => onOrder(by)}
      >
        {children}
      </button>
    </th>
  )
}

function deedOf(row: Row): string {
  return row.carry_on || row.seal ? 'Carry on' : 'Begin'
}

function moveWords(move: string): string {
  return (
    { us: 'us', client: 'client', reviewer: 'reviewer', nobody: 'nobody, signed' }[move] ?? move
  )
}

function Due({ row }: { row: Row }) {
  if (row.seal) {
    const broken = row.seal === 'broken'
    return (
      <span
        className={`inline-flex items-center gap-1.5 ${broken ? 'font-semibold text-rust' : 'text-moss'}`}
      >
        <SmallMark broken={broken} />
        {broken ? 'seal broken' : 'signed'}
      </span>
    )
  }
  if (row.days_left === null) return <span className="text-quiet">no date</span>
  const days = Math.abs(row.days_left)
  const many = days === 1 ? 'day' : 'days'
  if (row.days_left < 0) {
    return (
      <strong className="text-rust">
        {days} {many} late
      </strong>
    )
  }
  return `${days} ${many}`
}

/** The path: how far each step is done, as filled segments. */
function Path({ row }: { row: Row }) {
  const says = STEPS.map(([step, head]) => `${head} ${row.path[step] ?? 0}%`).join(', ')
  return (
    <span
      role="img"
      aria-label={capital(says)}
      title={capital(says)}
      className="flex w-[190px] gap-[3px]"
    >
      {STEPS.map(([step]) => (
        <span key={step} className="relative h-3 grow border border-edge bg-sheet">
          <span
            className={`absolute inset-y-0 left-0 ${step === 'sign-off' && row.seal === 'broken' ? 'bg-rust-fill' : 'bg-moss-fill'}`}
            style={{ width: `${row.path[step] ?? 0}%` }}
          />
        </span>
      ))}
    </span>
  )
}
