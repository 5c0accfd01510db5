import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { PrintedHead } from '../frame/PrintedHead'
import { useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { useInspect, useInspected } from '../ledger/inspect'
import { amountWords, capital, dayWords, longDayWords, plainWords } from '../ledger/words'
import { type Column, DataTable } from '../ui/DataTable'
import { ProblemNote } from '../ui/ProblemNote'
import { Waiting } from '../ui/Waiting'
import { type PostingRow, postingsOptions } from './queries'

type Kind = Schemas['TransactionKind']

const KINDS: Kind[] = [
  'opening',
  'sales-invoice',
  'sales-credit',
  'customer-receipt',
  'customer-refund',
  'purchase-bill',
  'purchase-credit',
  'supplier-payment',
  'supplier-refund',
  'banking',
  'transfer',
  'direct-receipt',
  'direct-payment',
  'takings',
  'payroll',
  'journal',
  'closing',
  'revaluation',
]

const COLUMNS: Column<PostingRow>[] = [
  { head: 'Date', cell: (row) => dayWords(row.date), value: (row) => row.date, width: '104px' },
  { head: 'No.', cell: (row) => row.id, value: (row) => row.id, as: 'row-header', width: '120px' },
  { head: 'Kind', cell: kindWords, value: kindWords, width: '150px' },
  {
    head: 'Reference',
    cell: (row) => row.reference,
    value: (row) => row.reference ?? '',
    width: '130px',
  },
  {
    head: 'Party',
    cell: (row) => row.party_name,
    value: (row) => row.party_name ?? '',
    width: '190px',
  },
  {
    head: 'Text',
    cell: (row) => (
      <span className={row.taken_back ? 'text-quiet line-through' : ''}>{textOf(row)}</span>
    ),
    value: textOf,
  },
  {
    head: 'Brought by',
    cell: (row) => (
      <span className={row.change === null ? 'text-quiet' : 'font-semibold text-tide'}>
        {broughtBy(row)}
      </span>
    ),
    value: broughtBy,
    width: '120px',
  },
  {
    head: 'Amount',
    cell: (row) => amountWords(row.total),
    value: (row) => Number(row.total),
    text: (row) => row.total,
    as: 'figure',
    width: '120px',
  },
]

/** What a reviewer reads first: with what is unusual about each. */
const WITH_SIGNS: Column<PostingRow>[] = [
  ...COLUMNS.filter((column) => !['Kind', 'Party', 'Reference'].includes(column.head)),
]
WITH_SIGNS.splice(3, 0, {
  head: 'What is unusual',
  cell: signsOf,
  value: signsOf,
  width: '360px',
})

function signsOf(row: PostingRow): string {
  return row.signs.join('; ')
}

function kindWords(row: PostingRow): string {
  return row.entry_kind ? `${row.entry_kind} entry` : plainWords(row.kind)
}

function textOf(row: PostingRow): string {
  return row.reason ?? row.memo ?? ''
}

function broughtBy(row: PostingRow): string {
  return row.change === null ? 'as received' : `change ${row.change}, ${row.by}`
}

/** Every posting of the months being looked at, wherever it began. */
export function Register({ onOurs }: { onOurs: () => void }) {
  const client = useClient()
  const [span] = useSpan()
  const inspect = useInspect()
  const inspected = useInspected()
  const [text, setText] = useState('')
  const [kind, setKind] = useState<Kind | 'signs' | ''>('')
  const signs = kind === 'signs'
  const { first, last } = span
  const wanted = kind === 'signs' ? { signs: true } : kind ? { kind } : {}
  const { data, error } = useQuery({
    ...postingsOptions(client.code, { first, last, q: text.trim(), ...wanted }),
    placeholderData: keepPreviousData,
  })
  return (
    <div className="flex min-h-0 flex-1 flex-col px-5 pt-3 print:block">
      <header className="mb-2 flex items-baseline gap-4">
        <h1 className="text-[21px] leading-7 font-semibold">All postings</h1>
        <p className="text-quiet">
          {longDayWords(first)} to {longDayWords(last)}, by posting date, closing entries in
          {data &&
            ` · ${data.count} with debits of ${amountWords(data.debits)}, which credits equal`}
          {data && data.rows.length < data.count && ` · the latest ${data.rows.length} are listed`}
        </p>
        <button
          type="button"
          className="screen-only ml-auto text-tide hover:underline"
          onClick={onOurs}
        >
          Back to our entries <span className="text-quiet">n</span>
        </button>
      </header>
      <ProblemNote problem={error} />
      {!data && !error && <Waiting />}
      <PrintedHead says="Postings" />
      {data && (
        <DataTable
          caption="Postings"
          name={signs ? 'postings-signs' : 'postings'}
          key={signs ? 'signs' : 'all'}
          columns={signs ? WITH_SIGNS : COLUMNS}
          rows={data.rows}
          rowKey={(row) => row.id}
          selectedKey={inspected?.kind === 'transaction' ? inspected.name : null}
          onOpen={(row) => inspect({ kind: 'transaction', name: row.id })}
          empty={
            signs
              ? 'No journal in these months has anything unusual about it: who keyed it, at what hour, how round its sum is, just under a limit, after filing, or between profit and clearing.'
              : 'No posting fits. Take something out of the filter, or choose more months above.'
          }
          tools={
            <>
              <input
                aria-label="Filter the postings"
                placeholder="Number, reference, party, word or amount"
                className="w-72 border border-edge bg-sheet px-2.5 py-1 text-ink"
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
              <select
                aria-label="Kind of posting"
                className="border border-edge bg-sheet px-2 py-1 text-ink"
                value={kind}
                onChange={(event) => setKind(event.target.value as typeof kind)}
              >
                <option value="">Every kind</option>
                <option value="signs">Journals with something unusual</option>
                {KINDS.map((choice) => (
                  <option key={choice} value={choice}>
                    {capital(plainWords(choice))}
                  </option>
                ))}
              </select>
            </>
          }
        />
      )}
    </div>
  )
}
