import type { Schemas } from '../api/client'
import { amountWords, dayWords } from './words'

/** What the bank says: its lines as evidence. */
export function StatementLines({ lines }: { lines: Schemas['StatementLineAnswer'][] }) {
  if (lines.length === 0) return null
  return (
    <table className="w-full border-collapse bg-sheet text-left">
      <caption className="sr-only">On the statement</caption>
      <tbody>
        {lines.map((line) => (
          <tr key={line.ref} className="border border-edge">
            <td className="w-28 px-3 py-1.5">{dayWords(line.date)}</td>
            <td className="w-24 text-quiet" title={line.path}>
              line {line.number}
            </td>
            <td className="py-1.5 font-semibold">{line.text || 'no text'}</td>
            <td className="w-32 px-3 text-right font-semibold">{amountWords(line.amount)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
