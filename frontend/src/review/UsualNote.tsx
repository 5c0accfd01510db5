import { useInspect } from '../ledger/inspect'
import { amountWords, dayWords } from '../ledger/words'
import type { Case } from './queries'

/** What the party usually is in these books: in one line, its latest papers behind it. */
export function UsualNote({ usual }: { usual: NonNullable<Case['usual']> }) {
  const inspect = useInspect()
  return (
    <details>
      <summary>
        <span className="text-quiet">{usual.name} usually:</span> {usual.says.join(' · ')}
      </summary>
      <table className="mt-1 w-full border-collapse">
        <caption className="sr-only">Others of {usual.name}</caption>
        <tbody>
          {usual.rows.map((row) => (
            <tr key={row.transaction} className="h-7 border-b border-rule">
              <td className="w-28 text-quiet">{dayWords(row.date)}</td>
              <th scope="row" className="text-left font-normal">
                <button
                  type="button"
                  className="hover:text-tide hover:underline"
                  onClick={() => inspect({ kind: 'transaction', name: row.transaction })}
                >
                  {row.reference ?? row.transaction}
                </button>
              </th>
              <td>{row.account ?? 'several accounts'}</td>
              <td className="text-right">{amountWords(row.amount)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  )
}
