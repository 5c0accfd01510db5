import { keepPreviousData, useQuery, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { sessionOptions } from '../frame/session'
import { dayWords } from '../ledger/words'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { useSettled } from '../ui/useSettled'
import { Waiting } from '../ui/Waiting'

const HEAD = 'border-b border-ink py-1 pr-4 text-left font-semibold text-deep'

/** What the practice's people did besides posting, the latest first: it is only ever added to. */
export function RecordList() {
  const { data: session } = useSuspenseQuery(sessionOptions)
  const [words, setWords] = useState('')
  const q = useSettled(words, 200)
  const first = `${Number(session.today.slice(0, 4)) - 1}${session.today.slice(4)}`
  const query = { first, last: session.today, q }
  const { data, error } = useQuery({
    queryKey: ['practice', 'record', query],
    queryFn: () => answered(api.GET('/api/practice/record', { params: { query } })),
    placeholderData: keepPreviousData,
  })
  const table = `/api/practice/record.csv?${new URLSearchParams(query)}`
  return (
    <section aria-label="Record" className="space-y-3">
      <div className="flex items-end gap-4">
        <TextField
          className="w-80"
          label="A word, a person, a client"
          autoFocus
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <p className="grow pb-1.5 text-quiet">
          Twelve months; the latest 200 are shown. Nothing of it is ever changed: each row is
          chained to the one before, and <em>verify</em> proves it.
        </p>
        <a className="pb-1.5 text-tide hover:underline" href={table}>
          All of it as a table
        </a>
      </div>
      <ProblemNote problem={error} />
      {!data && !error && <Waiting />}
      {data && (
        <table className="w-full border-collapse">
          <caption className="sr-only">Record</caption>
          <thead>
            <tr>
              {['When', 'Who', 'What', 'Client', 'About', 'From'].map((head) => (
                <th key={head} scope="col" className={HEAD}>
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {data.rows.map((row) => (
              <tr key={row.number} className="border-b border-rule align-baseline">
                <td className="py-1 pr-4 whitespace-nowrap">
                  {dayWords(row.at)} <span className="text-quiet">{row.at.slice(11, 19)}</span>
                </td>
                <td className="pr-4 font-semibold">{row.who}</td>
                <td className="pr-4 whitespace-nowrap">{row.kind}</td>
                <td className="pr-4">{row.client}</td>
                <td className="pr-4 break-all">{row.detail}</td>
                <td className="text-quiet">{row.address}</td>
              </tr>
            ))}
            {data.rows.length === 0 && (
              <tr>
                <td colSpan={6} className="py-3 text-quiet">
                  Nothing on record has these words in it.
                </td>
              </tr>
            )}
          </tbody>
        </table>
      )}
    </section>
  )
}
