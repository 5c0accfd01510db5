import { Link } from 'react-router'
import { useClient } from '../frame/queries'
import { useSpanSearch } from '../frame/useSpan'
import { amountWords, isNil } from '../ledger/words'
import type { SignOff } from './queries'

/** What was waived, and what correcting it would have moved, against materiality. */
export function Unadjusted({ signOff }: { signOff: SignOff }) {
  const client = useClient()
  const search = useSpanSearch()
  const { rows, gross, profit, net_assets, materiality } = signOff.unadjusted
  return (
    <section aria-label="Unadjusted differences">
      <h2 className="mb-1 font-sans font-semibold text-deep">Unadjusted differences</h2>
      {rows.length === 0 ? (
        <p className="text-quiet">
          None: no error was waived. What is waived on the Review page is listed here with what it
          would have moved, against materiality of {amountWords(materiality)}.
        </p>
      ) : (
        <table className="w-full border-collapse">
          <caption className="sr-only">What was waived</caption>
          <thead>
            <tr className="border-b border-ink text-right text-deep">
              <th scope="col" className="py-1 text-left font-semibold">
                Waived
              </th>
              <th scope="col" className="w-24 font-semibold">
                Amount
              </th>
              <th scope="col" className="w-24 font-semibold">
                Profit
              </th>
              <th scope="col" className="w-24 font-semibold">
                Net assets
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <tr key={row.point} className="border-b border-rule text-right align-top">
                <th scope="row" className="py-1 pr-3 text-left font-normal">
                  <Link
                    className="hover:text-tide hover:underline"
                    to={`/clients/${client.code}/review/${row.point}${search}`}
                  >
                    {row.what}
                  </Link>
                  <span className="block text-quiet">
                    {row.by}: {row.reason}
                  </span>
                </th>
                <td className="py-1">{amountWords(row.amount)}</td>
                <td className="py-1">{moved(row.profit)}</td>
                <td className="py-1">{moved(row.net_assets)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="border-b-3 border-ink text-right font-semibold [border-bottom-style:double]">
              <th scope="row" className="py-1 text-left">
                In all, against materiality of {amountWords(materiality)}
              </th>
              <td>{amountWords(gross)}</td>
              <td>{moved(profit)}</td>
              <td>{moved(net_assets)}</td>
            </tr>
          </tfoot>
        </table>
      )}
    </section>
  )
}

function moved(amount: string | null): string {
  if (amount === null) return 'not known'
  return isNil(amount) ? 'nil' : amountWords(amount)
}
