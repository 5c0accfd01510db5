import { Link } from 'react-router'
import { useClient } from '../frame/queries'
import { useSpanSearch } from '../frame/useSpan'
import { amountWords, isNil, longDayWords } from '../ledger/words'
import type { SignOff } from './queries'

/** Drafts and what waits for approval: none of it is in what would be signed. */
export function Unposted({ signOff }: { signOff: SignOff }) {
  const client = useClient()
  const search = useSpanSearch()
  if (signOff.unposted.length === 0) return null
  return (
    <section aria-label="Not posted">
      <h2 className="mb-1 font-sans font-semibold text-deep">Written and not posted</h2>
      <table className="w-full border-collapse">
        <caption className="pb-1 text-left text-quiet">
          Not in what would be signed; what posting it would add by {longDayWords(signOff.as_at)}
        </caption>
        <thead>
          <tr className="border-b border-ink text-right text-deep">
            <th scope="col" className="py-1 text-left font-semibold">
              Entry
            </th>
            {['Profit', 'Tax', 'Net assets'].map((head) => (
              <th key={head} scope="col" className="w-24 font-semibold">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {signOff.unposted.map((draft) => (
            <tr key={draft.name} className="border-b border-rule text-right align-top">
              <th scope="row" className="py-1 pr-3 text-left font-normal">
                <Link
                  className="hover:text-tide hover:underline"
                  to={`/clients/${client.code}/entries/${draft.name}${search}`}
                >
                  {draft.reason || 'no reason yet'}
                </Link>
                <span className="block text-quiet">
                  {draft.what}, by {draft.by}
                </span>
              </th>
              {draft.profit === null ? (
                <td colSpan={3} className="py-1 text-quiet">
                  not whole yet
                </td>
              ) : (
                [draft.profit, draft.tax ?? '', draft.net_assets ?? ''].map((amount, place) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the three figures have fixed places
                  <td key={place} className="py-1">
                    {isNil(amount) ? 'nil' : amountWords(amount)}
                  </td>
                ))
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
