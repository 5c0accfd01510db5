import { useState } from 'react'
import { amountWords, isNil } from '../ledger/words'
import { type Column, DataTable } from '../ui/DataTable'
import type { OpenItems, PartyAges, Which } from './queries'

interface PartiesProps {
  items: OpenItems
  which: Which
  selected: string | null
  onOpen: (party: string | null) => void
  /** Something that is dragged or taken comes to this party. */
  onBring: (party: string | null) => void
}

/** How old a debt is, told by how dark the bar is and by the words of its title. */
const SHADES = ['bg-moss-fill', 'bg-straw', 'bg-cork', 'bg-rust-fill', 'bg-rust']

export function Parties({ items, which, selected, onOpen, onBring }: PartiesProps) {
  const [text, setText] = useState('')
  const wanted = text.trim().toLowerCase()
  const most = Math.max(1, ...items.parties.map((party) => Math.abs(Number(party.total))))
  const columns: Column<PartyAges>[] = [
    {
      head: which === 'receivables' ? 'Customer' : 'Supplier',
      cell: (row) => row.name,
      value: (row) => row.name,
      as: 'row-header',
    },
    {
      head: 'Age',
      cell: (row) => <AgeBar row={row} heads={items.heads} most={most} />,
      value: (row) => row.oldest_days,
      width: '130px',
    },
    {
      head: 'On account',
      cell: (row) =>
        isNil(row.loose) ? '' : <span className="text-rust">{amountWords(row.loose)}</span>,
      value: (row) => Number(row.loose),
      text: (row) => row.loose,
      as: 'figure',
      width: '92px',
    },
    {
      head: 'Open',
      cell: (row) => amountWords(row.total),
      value: (row) => Number(row.total),
      text: (row) => row.total,
      as: 'figure',
      width: '100px',
    },
  ]
  return (
    <>
      <DataTable
        caption="Parties with open items"
        name={`open items ${which}`}
        columns={columns}
        rows={items.parties.filter((row) => row.name.toLowerCase().includes(wanted))}
        rowKey={(row) => row.party ?? ''}
        selectedKey={selected ?? ''}
        onOpen={(row) => onOpen(row.party)}
        onDragOver={(row) => onBring(row.party)}
        empty={
          wanted
            ? 'Nobody of that name has anything open on this day.'
            : 'Nothing is open on this day: every item is settled.'
        }
        tools={
          <input
            aria-label="Filter the parties"
            placeholder="Name"
            className="w-44 border border-edge bg-sheet px-2.5 py-1 text-ink"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        }
      />
      <p className="flex flex-wrap gap-x-4 border-t border-ink py-2 text-[13px] text-quiet">
        {items.heads.map((head, place) => (
          <span key={head} className="whitespace-nowrap">
            <span aria-hidden="true" className={`mr-1 inline-block size-2.5 ${SHADES[place]}`} />
            {place === 0 ? 'not due' : `${head} days`} {amountWords(items.ages[place] ?? '')}
          </span>
        ))}
        {!isNil(items.loose) && (
          <span className="whitespace-nowrap text-rust">
            less on account {amountWords(items.loose)}
          </span>
        )}
      </p>
    </>
  )
}

interface AgeBarProps {
  row: PartyAges
  heads: string[]
  most: number
}

/** One bar per party, as long as what is open, divided by age. */
function AgeBar({ row, heads, most }: AgeBarProps) {
  const parts = row.ages.map((age) => Math.max(0, Number(age)))
  const said = heads
    .map((head, place) => (isNil(row.ages[place] ?? '0') ? '' : `${head}: ${row.ages[place]}`))
    .filter(Boolean)
    .join(', ')
  return (
    <span role="img" aria-label={said || 'nothing owed'} title={said} className="flex h-3">
      {parts.map((part, place) => (
        <span
          key={heads[place]}
          className={SHADES[place]}
          style={{ width: `${(100 * part) / most}%` }}
        />
      ))}
    </span>
  )
}
