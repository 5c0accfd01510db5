import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import { useClient } from '../frame/queries'
import { useYearLabel } from '../frame/useYearLabel'
import { longDayWords } from '../ledger/words'

interface CoverageProps {
  intake: Schemas['IntakeAnswer']
}

/** How many rows of each table every month has; where one should be and is not, it says so. */
export function Coverage({ intake }: CoverageProps) {
  const client = useClient()
  const missing = intake.coverage.some((row) => row.missing.includes(true))
  return (
    <section aria-label="What is there by table and month">
      <table className="w-full table-fixed border-collapse">
        <caption className="pb-1.5 text-left text-quiet">
          {intake.books_from && intake.books_to
            ? `Books received for ${longDayWords(intake.books_from)} to ${longDayWords(intake.books_to)}. `
            : ''}
          Rows of {client.year.label} by table and month; each opens what it counts.
          {missing && (
            <span className="text-rust"> A month with a gap has no statement, or no summary.</span>
          )}
        </caption>
        <thead>
          <tr className="border-b border-ink text-deep">
            <th scope="col" className="w-[270px] py-1 text-left font-semibold">
              Table
            </th>
            {intake.months.map((month) => (
              <th key={month.first_day} scope="col" className="text-right font-semibold">
                {month.name.slice(0, 3)}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {intake.coverage.map((row) => (
            <tr key={`${row.name} ${row.account}`} className="h-7 border-b border-rule">
              <th scope="row" className="truncate pr-2 text-left font-normal">
                {row.name}
              </th>
              {intake.months.map((month, place) => (
                <Cell
                  key={month.first_day}
                  count={row.counts[place] ?? 0}
                  missing={row.missing[place] ?? false}
                  account={row.account}
                  month={month}
                />
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {intake.coverage.length === 0 && (
        <p className="p-6 text-quiet">
          Nothing in this year yet. Take in the client's books, and a line for each table stands
          here.
        </p>
      )}
    </section>
  )
}

interface CellProps {
  count: number
  missing: boolean
  account: string | null
  month: Schemas['MonthAnswer']
}

/** A figure opens what it counts: the postings of the month, or the account's statements. */
function Cell({ count, missing, account, month }: CellProps) {
  const client = useClient()
  const [year] = useYearLabel()
  if (missing) {
    return (
      <td className="text-right">
        <span className="bg-rust-wash px-1 text-rust">gap</span>
      </td>
    )
  }
  if (count === 0) return <td className="text-right text-edge">·</td>
  const search = new URLSearchParams({
    ...(year && { year }),
    from: month.first_day,
    to: month.last_day,
  })
  const to = account ? `bank/${account}` : 'entries/all'
  return (
    <td className="text-right">
      <Link
        to={`/clients/${client.code}/${to}?${search}`}
        className="hover:text-tide hover:underline"
      >
        {count}
      </Link>
    </td>
  )
}
