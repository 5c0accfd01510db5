import type { Schemas } from '../api/client'
import { dayWords } from '../ledger/words'

export type Since = Schemas['SinceAnswer']

interface SinceLastProps {
  since: Since
  only: boolean
  onOnly: (only: boolean) => void
}

/** What is otherwise than when the person was last here; pressing it shows only that. */
export function SinceLast({ since, only, onOnly }: SinceLastProps) {
  if (!since.at) return null
  const parts = [
    since.new.length > 0 && `${since.new.length} new`,
    since.changed.length > 0 && `${since.changed.length} back or changed`,
    since.decided.length > 0 && `${since.decided.length} decided`,
    since.gone > 0 && `${since.gone} no longer found`,
  ].filter(Boolean)
  const when = `${dayWords(since.at)} ${since.at.slice(11, 16)}`
  if (parts.length === 0) {
    return <p className="px-5 pb-1.5 text-quiet">Nothing moved since you were here, {when}.</p>
  }
  return (
    <p className="px-5 pb-1.5">
      <button
        type="button"
        aria-pressed={only}
        className="text-left text-tide hover:underline"
        onClick={() => onOnly(!only)}
      >
        {only ? 'Show all again' : `Since ${when}: ${parts.join(', ')}`}
      </button>
    </p>
  )
}

/** The points that moved since. */
export function movedSince(since: Since | undefined): Set<string> {
  return new Set(since ? [...since.new, ...since.changed, ...since.decided] : [])
}
