import { BACK_AFTER } from './backOn'

interface BackAfterProps {
  value: number | null
  onChoose: (days: number | null) => void
}

/** When a question comes back. */
export function BackAfter({ value, onChoose }: BackAfterProps) {
  return (
    <label className="text-quiet">
      Comes back{' '}
      <select
        className="border border-edge bg-sheet px-2 py-1 text-ink"
        value={String(value)}
        onChange={(event) =>
          onChoose(event.target.value === 'null' ? null : Number(event.target.value))
        }
      >
        {BACK_AFTER.map(([words, days]) => (
          <option key={words} value={String(days)}>
            {words}
          </option>
        ))}
      </select>
    </label>
  )
}
