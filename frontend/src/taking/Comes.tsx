import { counted, plainWords } from '../ledger/words'
import type { Listings } from './useListings'

const MONTHS = 'Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec'.split(' ')

function monthInWords(month: string): string {
  return `${MONTHS[Number(month.slice(5)) - 1]} ${month.slice(0, 4)}`
}

/** What would be in the books: months by kinds of events, and accounts with what each was taken for. */
export function Comes({ found }: { found: Listings }) {
  if (found.accounts.length === 0) return null
  const kinds = [...new Set(found.months.flatMap((month) => Object.keys(month.kinds)))].sort()
  const hasLedger = found.files.some((file) => file.read_as === 'ledger')
  const guessed = found.accounts.filter((account) => account.guessed).length
  return (
    <section aria-label="What comes" className="space-y-4">
      <h2 className="border-b border-ink pb-1 font-semibold">
        What comes: {counted(found.accounts.length, 'account')},{' '}
        {counted(found.parties, 'customer or supplier', 'customers and suppliers')},{' '}
        {counted(found.settled, 'settlement')} reckoned
      </h2>
      {!hasLedger && (
        <p className="border-l-4 border-cork bg-sheet px-3 py-2">
          There is no ledger among these files. Worksheet, entries, tie-outs and sign-off work on
          the trial balance; the checks that look at entries find nothing.
        </p>
      )}
      <div className="overflow-x-auto">
        <table>
          <thead>
            <tr className="text-left align-bottom text-quiet">
              <th className="pr-4 font-normal">Month</th>
              {kinds.map((kind) => (
                <th key={kind} className="max-w-24 px-2 text-right font-normal">
                  {plainWords(kind)}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.months.map((month) => (
              <tr key={month.month} className="border-t border-rule">
                <td className="pr-4 whitespace-nowrap">{monthInWords(month.month)}</td>
                {kinds.map((kind) => (
                  <td key={kind} className="px-2 text-right tabular-nums">
                    {month.kinds[kind] ?? ''}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <details open={guessed > 0 && found.accounts.length <= 40}>
        <summary className="cursor-pointer font-semibold">
          Accounts
          {guessed > 0 &&
            `, ${guessed} of them guessed: look them through, and put right on the Books page what is not so`}
        </summary>
        <table className="mt-2 w-full">
          <thead>
            <tr className="text-left text-quiet">
              <th className="font-normal">Account</th>
              <th className="font-normal">Name</th>
              <th className="font-normal">Taken for</th>
              {guessed > 0 && <th className="font-normal">Why</th>}
            </tr>
          </thead>
          <tbody>
            {found.accounts.map((account) => (
              <tr key={account.code} className="border-t border-rule">
                <td className="tabular-nums">{account.code}</td>
                <td>{account.name}</td>
                <td>
                  {account.type}
                  {account.role && `, ${plainWords(account.role)}`}
                </td>
                {guessed > 0 && (
                  <td className="text-quiet">{account.guessed ? account.why : ''}</td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </section>
  )
}
