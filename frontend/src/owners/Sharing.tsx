import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { PostPanel } from '../frame/PostPanel'
import { useClient } from '../frame/queries'
import { useAct } from '../frame/useAct'
import { useSpan } from '../frame/useSpan'
import { amountWords, isNil, longDayWords } from '../ledger/words'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { useSettled } from '../ui/useSettled'
import { Waiting } from '../ui/Waiting'

const FIGURE = 'w-24 border border-edge bg-sheet px-1.5 py-0.5 text-right'

/** A partnership's profit shared: salaries and interest first, the rest by share; then entered. */
export function Sharing({ onDone }: { onDone: () => void }) {
  const client = useClient()
  const [span] = useSpan()
  const [salaries, pay] = useState<Record<string, string>>({})
  const [rate, setRate] = useState('')
  const body = useSettled(JSON.stringify({ day: span.last, salaries, rate }), 200)
  const terms = JSON.parse(body) as { day: string; salaries: typeof salaries; rate: string }
  const { data, error } = useQuery({
    queryKey: ['client', client.code, 'sharing', terms],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/sharing', {
          params: { path: { client: client.code } },
          body: terms,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const acting = useAct({ act: { act: 'sharing', ...terms }, keepsLast: true, onDone })
  if (!data) return error ? <ProblemNote problem={error} /> : <Waiting />
  const before = data.rows.some((row) => !isNil(row.before))
  return (
    <div className="space-y-4">
      <p className="flex items-end gap-6">
        <span className="grow">
          Profit of the year up to {longDayWords(span.last)}:{' '}
          <strong className="text-lg">{amountWords(data.profit)}</strong> {client.currency}.
          Salaries and interest are taken off first; the rest goes by share.
        </span>
        <TextField
          className="w-56"
          label="Interest, % a year"
          inputMode="decimal"
          placeholder={data.rate === '0' ? 'none' : data.rate}
          value={rate}
          onChange={(event) => setRate(event.target.value)}
        />
      </p>
      <table className="w-full border-collapse">
        <caption className="sr-only">What each partner gets</caption>
        <thead>
          <tr className="border-b border-ink text-right text-deep">
            <th scope="col" className="py-1 text-left font-semibold">
              Partner
            </th>
            {['Stood at first', 'Salary', 'Interest', 'Share', 'Together'].map((head) => (
              <th key={head} scope="col" className="font-semibold">
                {head}
              </th>
            ))}
            {before && (
              <th scope="col" className="font-semibold">
                Shared before
              </th>
            )}
            <th scope="col" className="font-semibold">
              Stands then at
            </th>
          </tr>
        </thead>
        <tbody>
          {data.rows.map((row) => (
            <tr key={row.account} className="h-8 border-b border-rule text-right">
              <th scope="row" className="text-left font-normal">
                {row.name} <span className="text-quiet">{row.percent}%</span>
              </th>
              <td>{amountWords(row.opening)}</td>
              <td>
                <input
                  aria-label={`Salary of ${row.name}`}
                  className={FIGURE}
                  inputMode="decimal"
                  placeholder={isNil(row.salary) ? 'none' : amountWords(row.salary)}
                  value={salaries[row.account] ?? ''}
                  onChange={(event) => pay({ ...salaries, [row.account]: event.target.value })}
                />
              </td>
              <td>{amountWords(row.interest)}</td>
              <td>{amountWords(row.share)}</td>
              <td className="font-semibold">{amountWords(row.total)}</td>
              {before && <td>{amountWords(row.before)}</td>}
              <td>{amountWords(row.after)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {acting.refused ? (
        <p className="text-quiet">{acting.refused.message}</p>
      ) : (
        <PostPanel label="Enter it" acting={acting} />
      )}
    </div>
  )
}
