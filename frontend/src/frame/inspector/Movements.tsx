import type { Schemas } from '../../api/client'
import { Amount } from '../../ledger/Amount'
import { useInspect } from '../../ledger/inspect'
import { LateMark } from '../../ledger/LateMark'
import { amountWords, dayWords, longDayWords, plainWords, shortDayWords } from '../../ledger/words'

interface MovementsProps {
  ledger: Schemas['LedgerAnswer']
  /** Whether the other side is told by account or, in an account's own list, by party too. */
  caption: string
}

/** What a movement is, by what tells it best: its number, whose, its text; else its kind. */
function wordsOf(move: Schemas['MovementAnswer']): string {
  const words = [move.reference, move.party, move.text].filter(
    (word, at, all) => word && all.indexOf(word) === at,
  )
  return words.length > 0 ? words.join(' · ') : plainWords(move.kind)
}

/** Opening, each movement with its running balance, closing. */
export function Movements({ ledger, caption }: MovementsProps) {
  const inspect = useInspect()
  return (
    <table className="w-full border-collapse">
      <caption className="sr-only">{caption}</caption>
      <thead className="sticky top-0">
        <tr className="border-b border-ink text-left text-deep">
          <th scope="col" className="py-1 pr-2 font-semibold">
            Date
          </th>
          <th scope="col" className="px-2 font-semibold">
            What
          </th>
          <th scope="col" className="px-2 font-semibold">
            Against
          </th>
          <th scope="col" className="px-2 text-right font-semibold">
            Debit
          </th>
          <th scope="col" className="px-2 text-right font-semibold">
            Credit
          </th>
          <th scope="col" className="pl-2 text-right font-semibold">
            Balance
          </th>
        </tr>
      </thead>
      <tbody>
        <tr className="h-7 border-b border-rule text-quiet">
          <th scope="row" colSpan={5} className="text-left font-normal">
            Before {longDayWords(ledger.first)}
          </th>
          <td className="text-right">
            <Amount value={ledger.opening} />
          </td>
        </tr>
        {ledger.movements.map((move, place) => (
          <tr
            // biome-ignore lint/suspicious/noArrayIndexKey: two lines of one transaction may be alike
            key={place}
            className="h-7 cursor-pointer border-b border-rule align-top hover:bg-wash [&>td]:pt-[2px]"
            onClick={() => inspect({ kind: 'transaction', name: move.transaction })}
          >
            <td className="pr-2 whitespace-nowrap">{shortDayWords(move.date)}</td>
            <th scope="row" className="px-2 text-left font-normal">
              <button
                type="button"
                className={`min-h-6 w-full text-left hover:underline ${move.ours ? 'font-semibold text-tide' : ''}`}
              >
                {wordsOf(move)}
                {move.late && <LateMark why={move.late} />}
              </button>
            </th>
            <td className="px-2 text-quiet">{move.against}</td>
            <td className="px-2 text-right">{move.debit && amountWords(move.debit)}</td>
            <td className="px-2 text-right">{move.credit && amountWords(move.credit)}</td>
            <td className="pl-2 text-right">
              <Amount value={move.running} />
            </td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr className="h-8 border-t border-ink font-semibold">
          <th scope="row" colSpan={3} className="text-left font-semibold">
            At the end of {dayWords(ledger.last)}
          </th>
          <td className="px-2 text-right">{amountWords(ledger.debits)}</td>
          <td className="px-2 text-right">{amountWords(ledger.credits)}</td>
          <td className="pl-2 text-right">
            <Amount value={ledger.closing} />
          </td>
        </tr>
      </tfoot>
    </table>
  )
}
