import type { Schemas } from '../../api/client'
import { amountWords, counted, dayWords } from '../../ledger/words'

interface ComingProps {
  steps: Schemas['StepAnswer'][]
}

/** What follows from an entry by days: the steps to the end, and what is left after each. */
export function Coming({ steps }: ComingProps) {
  const last = steps.at(-1)
  if (!last) return null
  return (
    <details className="border-y border-rule py-1">
      <summary className="cursor-pointer">
        <strong>{counted(steps.length, 'step')}</strong> follow, the last on {dayWords(last.day)}
      </summary>
      <div className="max-h-72 overflow-auto">
        <table className="w-96">
          <caption className="sr-only">What follows</caption>
          <thead className="text-left text-deep">
            <tr>
              <th scope="col" className="font-semibold">
                On
              </th>
              <th scope="col" className="text-right font-semibold">
                Amount
              </th>
              <th scope="col" className="text-right font-semibold">
                Left
              </th>
            </tr>
          </thead>
          <tbody>
            {steps.map((step) => (
              <tr key={step.day} className="border-t border-rule">
                <th scope="row" className="text-left font-normal">
                  {dayWords(step.day)}
                </th>
                <td className="text-right">{amountWords(step.amount)}</td>
                <td className="text-right">{amountWords(step.left)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  )
}
