import { useSuspenseQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { DayField } from '../../frame/DayField'
import { PostPanel } from '../../frame/PostPanel'
import { useClient } from '../../frame/queries'
import { useAct } from '../../frame/useAct'
import { useSpan } from '../../frame/useSpan'
import { counted, longDayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { ProblemNote } from '../../ui/ProblemNote'
import { TextField } from '../../ui/TextField'
import { useSettled } from '../../ui/useSettled'
import { type Rate, ratesOptions, readRates } from './queries'

/** Exchange rates by day: those of a file, or one by one. */
export function Rates() {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useSuspenseQuery(ratesOptions(client.code))
  const [keyed, key] = useState<Rate>({ currency: '', day: span.last, rate: '' })
  const [taken, take] = useState<Rate[]>([])
  const [wrong, fail] = useState<Error | null>(null)
  const file = useRef<HTMLInputElement>(null)
  const one = keyed.currency.length === 3 && keyed.day && keyed.rate ? [keyed] : []
  const settled = useSettled(JSON.stringify(taken.length ? taken : one), 200)
  const rates = JSON.parse(settled) as Rate[]
  const acting = useAct({
    act: rates.length ? { act: 'rates', rates } : null,
    onDone: () => {
      take([])
      key({ ...keyed, rate: '' })
    },
  })
  async function read(picked: File | undefined) {
    if (!picked) return
    fail(null)
    try {
      take((await readRates(client.code, picked)).rates)
    } catch (problem) {
      fail(problem as Error)
    }
  }
  return (
    <section aria-label="Exchange rates" className="max-w-3xl space-y-4">
      <header className="flex items-baseline gap-4">
        <h1 className="text-[21px] leading-7 font-semibold">Exchange rates</h1>
        <span className="grow text-quiet">
          {client.currency} for one of the other; the nearest earlier day counts
        </span>
        <Button onClick={() => file.current?.click()}>Take in a table</Button>
        <input
          ref={file}
          hidden
          type="file"
          accept=".csv,text/csv"
          aria-label="A table of rates"
          onChange={(event) => read(event.target.files?.[0])}
        />
      </header>
      <ProblemNote problem={wrong} />
      {taken.length === 0 ? (
        <div className="grid grid-cols-[120px_160px_160px] gap-3">
          <TextField
            label="Currency"
            maxLength={3}
            value={keyed.currency}
            onChange={(event) => key({ ...keyed, currency: event.target.value.toUpperCase() })}
          />
          <DayField label="Day" value={keyed.day} onDay={(day) => key({ ...keyed, day })} />
          <TextField
            label="Rate"
            inputMode="decimal"
            value={keyed.rate}
            onChange={(event) => key({ ...keyed, rate: event.target.value })}
          />
        </div>
      ) : (
        <p>
          <strong>{counted(taken.length, 'rate')}</strong> in the table.
        </p>
      )}
      <PostPanel label={`Add ${counted(Math.max(rates.length, 1), 'rate')}`} acting={acting} />
      <table className="w-96">
        <caption className="sr-only">Rates by day</caption>
        <thead className="text-left text-deep">
          <tr>
            <th scope="col" className="font-semibold">
              Day
            </th>
            <th scope="col" className="font-semibold">
              Currency
            </th>
            <th scope="col" className="text-right font-semibold">
              Rate
            </th>
          </tr>
        </thead>
        <tbody>
          {data.rates.map((rate) => (
            <tr key={`${rate.currency} ${rate.day}`} className="border-t border-rule">
              <td>{longDayWords(rate.day)}</td>
              <td>{rate.currency}</td>
              <td className="text-right">{rate.rate}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {data.rates.length === 0 && (
        <p className="text-quiet">
          No rate is known yet. A CSV table has the columns date, currency, rate.
        </p>
      )}
    </section>
  )
}
