import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { PostPanel } from '../frame/PostPanel'
import { chartOptions, useClient } from '../frame/queries'
import { useAct } from '../frame/useAct'
import { useInspect } from '../ledger/inspect'
import { amountWords, isNil, longDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { useKept } from '../ui/useKept'
import { useSettled } from '../ui/useSettled'

type Closing = Schemas['ClosingAnswer']

/** What was said of a closing that is not posted yet: it is there again when one comes back. */
interface Kept {
  shares: Record<string, string>
  salaries: Record<string, string>
  rate: string
  byDimension: boolean
  through: string
}

const NOTHING: Kept = { shares: {}, salaries: {}, rate: '', byDimension: false, through: '' }

/** The year's result to where it is kept: seen line by line, posted, and again for what came later. */
export function ClosingYear() {
  const client = useClient()
  const inspect = useInspect()
  const [seen, see] = useState(false)
  const [kept, keep] = useKept<Kept>(`closing ${client.code} ${client.year.label}`, NOTHING)
  const { shares, salaries, rate, byDimension, through } = kept
  const put = (changed: Partial<Kept>) => keep({ ...kept, ...changed })
  const { data: chart } = useQuery({ ...chartOptions(client.code, client.as_at), enabled: seen })
  const plain = chart?.accounts.filter((account) => account.type === 'equity' && !account.role)
  const asked = useSettled(
    JSON.stringify({
      year: client.year.label,
      shares,
      salaries,
      rate,
      by_dimension: byDimension,
      through: through || null,
    }),
    200,
  )
  const fields = JSON.parse(asked) as Omit<Schemas['CloseYearAct'], 'act'>
  const { data, error } = useQuery({
    queryKey: ['client', client.code, 'closing', fields],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/closing', {
          params: { path: { client: client.code } },
          body: fields,
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  })
  const acting = useAct({
    act: seen && data && data.lines.length > 0 ? { act: 'close-year', ...fields } : null,
    keepsLast: true,
    onDone: () => {
      see(false)
      keep(NOTHING)
    },
  })
  return (
    <section aria-label="Closing the year">
      <h2 className="mb-1 font-sans font-semibold text-deep">Closing the year</h2>
      <div className="space-y-3 border-t border-ink pt-2">
        <p className="flex items-baseline gap-4">
          <span className="grow">{data ? <Standing closing={data} onShow={inspect} /> : null}</span>
          {data && data.lines.length > 0 && !seen && (
            <Button onClick={() => see(true)}>
              {data.before.length > 0 ? 'See what is left to carry' : 'See the closing'}
            </Button>
          )}
          {seen && (
            <Button look="bare" onClick={() => see(false)}>
              Do nothing
            </Button>
          )}
        </p>
        <ProblemNote problem={error} />
        {seen && data && (
          <>
            <div className="flex flex-wrap items-end gap-5">
              {data.partners.map((partner) => (
                <label key={partner.account}>
                  <span className="block text-quiet">{partner.name}, %</span>
                  <input
                    className="w-24 border border-edge bg-sheet px-2 py-1 text-right"
                    inputMode="decimal"
                    placeholder={partner.percent}
                    value={shares[partner.account] ?? ''}
                    onChange={(event) =>
                      put({ shares: { ...shares, [partner.account]: event.target.value } })
                    }
                  />
                </label>
              ))}
              {data.partners.map((partner) => (
                <label key={`salary ${partner.account}`}>
                  <span className="block text-quiet">{partner.name}, salary first</span>
                  <input
                    className="w-32 border border-edge bg-sheet px-2 py-1 text-right"
                    inputMode="decimal"
                    value={salaries[partner.account] ?? ''}
                    onChange={(event) =>
                      put({ salaries: { ...salaries, [partner.account]: event.target.value } })
                    }
                  />
                </label>
              ))}
              {data.partners.length > 0 && (
                <label>
                  <span className="block text-quiet">interest on what they left, % a year</span>
                  <input
                    className="w-24 border border-edge bg-sheet px-2 py-1 text-right"
                    inputMode="decimal"
                    value={rate}
                    onChange={(event) => put({ rate: event.target.value })}
                  />
                </label>
              )}
              {data.has_dimensions && (
                <label className="flex items-baseline gap-2 py-1">
                  <input
                    type="checkbox"
                    checked={byDimension}
                    onChange={() => put({ byDimension: !byDimension })}
                  />
                  a line for each dimension
                </label>
              )}
              {plain && plain.length > 0 && (
                <label>
                  <span className="block text-quiet">over a closing account</span>
                  <select
                    className="border border-edge bg-sheet px-2 py-1"
                    value={through}
                    onChange={(event) => put({ through: event.target.value })}
                  >
                    <option value="">none, straight</option>
                    {plain.map((account) => (
                      <option key={account.code} value={account.code}>
                        {account.code} {account.name}
                      </option>
                    ))}
                  </select>
                </label>
              )}
            </div>
            <Lines closing={data} />
            <PostPanel brief label="Close the year" acting={acting} />
          </>
        )}
      </div>
    </section>
  )
}

interface StandingProps {
  closing: Closing
  onShow: ReturnType<typeof useInspect>
}

function Standing({ closing, onShow }: StandingProps) {
  const names = closing.before.map((earlier) => (
    <button
      key={earlier.transaction}
      type="button"
      className="mr-2 text-tide hover:underline"
      onClick={() => onShow({ kind: 'transaction', name: earlier.transaction })}
    >
      {earlier.transaction}
    </button>
  ))
  const profit = `profit ${amountWords(closing.profit)}`
  if (closing.is_closed) {
    return (
      <>
        The year to {longDayWords(closing.last_day)} is closed, {profit}, by {names}
      </>
    )
  }
  if (closing.before.length > 0) {
    return (
      <>
        The year to {longDayWords(closing.last_day)} was closed by {names} and has moved since:
        closing it again posts the difference.
      </>
    )
  }
  return (
    <>
      The year to {longDayWords(closing.last_day)} is not closed: {profit} stands in its income and
      costs. It may be closed at any time, and again.
    </>
  )
}

function Lines({ closing }: { closing: Closing }) {
  const inspect = useInspect()
  return (
    <table className="w-full border-collapse">
      <caption className="sr-only">What closing carries</caption>
      <thead>
        <tr className="border-b border-edge text-left text-deep">
          <th scope="col" className="py-1 font-semibold">
            Account
          </th>
          <th scope="col" className="font-semibold">
            Why
          </th>
          <th scope="col" className="text-right font-semibold">
            Debit
          </th>
          <th scope="col" className="text-right font-semibold">
            Credit
          </th>
        </tr>
      </thead>
      <tbody>
        {closing.lines.map((line) => {
          const credits = line.amount.startsWith('-')
          const sum = isNil(line.amount) ? '' : amountWords(line.amount.replace('-', ''))
          return (
            <tr
              key={`${line.account} ${line.why} ${line.dimensions}`}
              className="border-b border-rule"
            >
              <th scope="row" className="py-0.5 text-left font-normal">
                <button
                  type="button"
                  className="hover:underline"
                  title="Its movements, and remarks on it"
                  onClick={() => inspect({ kind: 'account', name: line.account })}
                >
                  <span className="mr-2 text-quiet">{line.account}</span>
                  {line.name}
                </button>
                {line.dimensions && <span className="ml-2 text-quiet">{line.dimensions}</span>}
              </th>
              <td className="text-quiet">{line.why}</td>
              <td className="w-28 text-right">{credits ? '' : sum}</td>
              <td className="w-28 text-right">{credits ? sum : ''}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}
