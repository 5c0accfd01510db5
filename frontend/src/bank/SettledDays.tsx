import { useQuery } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'
import { useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { useInspect } from '../ledger/inspect'
import { amountWords, counted, dayWords, isNil } from '../ledger/words'

/** Takings that did not reach the bank as they were taken: short, over, or still to come, by day. */
export function SettledDays() {
  const client = useClient()
  const [span] = useSpan()
  const inspect = useInspect()
  const { data } = useQuery({
    queryKey: ['client', client.code, 'settled days', span.first, span.last],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/takings', {
          params: { path: { client: client.code }, query: { first: span.first, last: span.last } },
        }),
      ),
  })
  if (!data || (data.days.length === 0 && data.in_full === 0)) return null
  return (
    <section aria-label="Short or over, by day" className="mt-6">
      <h2 className="mb-1 text-[17px] font-semibold">Short or over, by day</h2>
      <p className="mb-2 text-quiet">
        {counted(data.in_full, 'sum', 'sums')} of cash or card reached the bank in full
        {data.days.length > 0 ? '; these did not.' : '.'}
      </p>
      {data.days.length > 0 && (
        <table className="w-full border-collapse">
          <caption className="sr-only">Takings that are short, over or still to come</caption>
          <thead>
            <tr className="border-b border-ink text-left text-deep">
              <th scope="col" className="py-1 font-semibold">
                Day
              </th>
              <th scope="col" className="font-semibold">
                Tender
              </th>
              <th scope="col" className="text-right font-semibold">
                Taken
              </th>
              <th scope="col" className="text-right font-semibold">
                Short or over
              </th>
            </tr>
          </thead>
          <tbody>
            {data.days.map((row) => (
              <tr key={`${row.transaction} ${row.tender}`} className="h-7 border-b border-rule">
                <td className="whitespace-nowrap">
                  <button
                    type="button"
                    className="text-tide hover:underline"
                    onClick={() => inspect({ kind: 'transaction', name: row.transaction })}
                  >
                    {dayWords(row.day)}
                  </button>
                </td>
                <td>{row.tender}</td>
                <td className="text-right">{isNil(row.taken) ? '' : amountWords(row.taken)}</td>
                <td className="text-right whitespace-nowrap">
                  <Outcome row={row} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}

function Outcome({ row }: { row: Schemas['DaySettledAnswer'] }) {
  if (!isNil(row.over)) return <strong className="text-rust">{amountWords(row.over)} over</strong>
  if (row.short) return <strong className="text-rust">{amountWords(row.left)} short</strong>
  const inHand = row.tender === 'cash' && row.left === row.taken
  return (
    <span className="text-quiet">
      {amountWords(row.left)} {inHand ? 'in hand' : 'to come'}
    </span>
  )
}
