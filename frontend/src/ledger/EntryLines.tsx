import type { Schemas } from '../api/client'
import { useInspect } from './inspect'
import { amountWords, dayWords } from './words'

/** The double entry of a transaction; accounts and parties open to their movements. */
export function EntryLines({ lines }: { lines: Schemas['LineAnswer'][] }) {
  const inspect = useInspect()
  return (
    <table className="w-full border-collapse">
      <caption className="sr-only">Double entry</caption>
      <thead>
        <tr className="border-b border-ink text-left text-deep">
          <th scope="col" className="py-1 pr-2 font-semibold">
            Account
          </th>
          <th scope="col" className="px-2 font-semibold">
            Party
          </th>
          <th scope="col" className="px-2 font-semibold">
            Text
          </th>
          <th scope="col" className="px-2 text-right font-semibold">
            Debit
          </th>
          <th scope="col" className="pl-2 text-right font-semibold">
            Credit
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: lines of a posted entry never move
          <tr key={place} className="h-7 border-b border-rule">
            <th scope="row" className="pr-2 text-left font-normal">
              <button
                type="button"
                className="text-left hover:text-tide hover:underline"
                onClick={() => inspect({ kind: 'account', name: line.account })}
              >
                <span className="mr-2 text-quiet">{line.account}</span>
                {line.name}
              </button>
            </th>
            <td className="px-2">
              {line.party && (
                <button
                  type="button"
                  className="text-left hover:text-tide hover:underline"
                  onClick={() => inspect({ kind: 'party', name: line.party ?? '' })}
                >
                  {line.party_name}
                </button>
              )}
            </td>
            <td className="px-2 text-quiet">
              {[
                line.description,
                line.dimensions,
                line.tax_code && `tax ${line.tax_code}`,
                line.tax_date && `returned from ${dayWords(line.tax_date)}`,
              ]
                .filter(Boolean)
                .join(' · ')}
            </td>
            <td className="px-2 text-right">{line.debit && amountWords(line.debit)}</td>
            <td className="pl-2 text-right">{line.credit && amountWords(line.credit)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}
