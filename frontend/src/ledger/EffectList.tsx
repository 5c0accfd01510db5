import type { Schemas } from '../api/client'
import { amountWords, changeWords, isNil, longDayWords } from './words'

/** Every account and party that moves, before and after. */
export function EffectList({ effect }: { effect: Schemas['EffectAnswer'] }) {
  const moved = effect.accounts.filter((row) => !isNil(row.change))
  const parties = effect.parties.filter((row) => !isNil(row.change))
  return (
    <details>
      <summary className="text-tide hover:underline">
        {moved.length === 0
          ? 'No account moves'
          : `What moves by ${longDayWords(effect.as_at)}: ${moved.length} accounts`}
      </summary>
      <table className="mt-1 w-full border-collapse">
        <caption className="sr-only">What moves</caption>
        <thead>
          <tr className="border-b border-ink text-right text-deep">
            <th scope="col" className="py-1 text-left font-semibold">
              Account or party
            </th>
            <th scope="col" className="font-semibold">
              Before
            </th>
            <th scope="col" className="font-semibold">
              Change
            </th>
            <th scope="col" className="font-semibold">
              After
            </th>
          </tr>
        </thead>
        <tbody>
          {moved.map((row) => (
            <Row key={row.account} code={row.account} {...row} />
          ))}
          {parties.map((row) => (
            <Row key={row.party} code={row.party} {...row} />
          ))}
        </tbody>
      </table>
    </details>
  )
}

interface RowProps {
  code: string
  name: string
  before: string
  change: string
  after: string
}

function Row({ code, name, before, change, after }: RowProps) {
  return (
    <tr className="h-7 border-b border-rule text-right">
      <th scope="row" className="text-left font-normal">
        <span className="mr-2 text-quiet">{code}</span>
        {name}
      </th>
      <td>{amountWords(before)}</td>
      <td className="font-semibold text-tide">{changeWords(change)}</td>
      <td>{amountWords(after)}</td>
    </tr>
  )
}
