import { useState } from 'react'
import { PostPanel } from '../frame/PostPanel'
import { counted, plainWords } from '../ledger/words'
import type { AccountRow } from './queries'
import { useChart } from './useChart'

interface ConfirmGuessesProps {
  guessed: AccountRow[]
  mayChange: boolean
  onDone: () => void
}

type Says = 'it is' | 'ordinary' | 'later'

/** Every guess with what speaks for it: confirmed, turned down, or left for later; kept in one go. */
export function ConfirmGuesses({ guessed, mayChange, onDone }: ConfirmGuessesProps) {
  const [said, setSaid] = useState<Record<string, Says>>({})
  const parts = guessed.flatMap((row) => {
    const says = said[row.code] ?? 'it is'
    if (says === 'later') return []
    return [{ account: row.code, role: says === 'it is' ? (row.guess?.role ?? '') : '' }]
  })
  const acting = useChart(mayChange ? parts : [], onDone)
  if (guessed.length === 0) {
    return (
      <p className="text-quiet">
        Nothing is guessed: every account that looks like something has its role.
      </p>
    )
  }
  return (
    <div className="space-y-3">
      <h2 className="text-[17px] font-semibold">
        {counted(guessed.length, 'guess', 'guesses')} to confirm
      </h2>
      {!mayChange && (
        <p className="text-quiet">A reviewer or partner confirms them: a role acts on everybody.</p>
      )}
      <table className="w-full border-collapse">
        <caption className="sr-only">Guesses</caption>
        <tbody>
          {guessed.map((row) => (
            <tr key={row.code} className="border-b border-rule align-baseline">
              <th scope="row" className="py-1.5 pr-2 text-left font-normal">
                <span className="mr-2 text-quiet">{row.code}</span>
                {row.name}
                <span className="block text-quiet">{row.guess?.why}</span>
              </th>
              <td className="w-[150px]">
                <select
                  aria-label={`What ${row.code} is`}
                  disabled={!mayChange}
                  className="w-full border border-edge bg-sheet px-1 py-1"
                  value={said[row.code] ?? 'it is'}
                  onChange={(event) => {
                    acting.reset()
                    setSaid({ ...said, [row.code]: event.target.value as Says })
                  }}
                >
                  <option value="it is">
                    {row.guess?.counts && `${row.type}, `}
                    {plainWords(row.guess?.role ?? '') || 'ordinary'}
                  </option>
                  {row.guess?.role && <option value="ordinary">ordinary</option>}
                  <option value="later">decide later</option>
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {mayChange && <PostPanel label="Confirm" acting={acting} />}
    </div>
  )
}
