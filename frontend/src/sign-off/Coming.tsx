import { useInspect } from '../ledger/inspect'
import { amountWords, dayWords } from '../ledger/words'
import type { SignOff } from './queries'

/** What the next span begins with: entries of ours dated after the day, mirrors above all. */
export function Coming({ signOff }: { signOff: SignOff }) {
  const inspect = useInspect()
  return (
    <section aria-label="What comes after it">
      <h2 className="mb-1 font-sans font-semibold text-deep">What comes after it by itself</h2>
      {signOff.coming.length === 0 ? (
        <p className="text-quiet">
          No entry of ours is dated later. An entry that reverses puts its mirror here.
        </p>
      ) : (
        <ul className="border-t border-ink">
          {signOff.coming.map((entry) => (
            <li key={entry.id} className="flex gap-4 border-b border-rule py-1">
              <button
                type="button"
                className="w-28 text-left font-semibold text-tide hover:underline"
                onClick={() => inspect({ kind: 'transaction', name: entry.id })}
              >
                {entry.id}
              </button>
              <span className="w-28">{dayWords(entry.date)}</span>
              <span className="grow truncate">{entry.reason}</span>
              <span>{amountWords(entry.total)}</span>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
