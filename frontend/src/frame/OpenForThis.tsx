interface OpenForThisProps {
  /** The barred periods that this person may have opened, by name. */
  periods: string[]
  opens: boolean
  onChoose: (opens: boolean) => void
}

/** A barred period opened for one posting: it is barred again by itself, whatever happens. */
export function OpenForThis({ periods, opens, onChoose }: OpenForThisProps) {
  if (periods.length === 0) return null
  const named = periods.join(' and ')
  return (
    <label className="flex items-baseline gap-2 bg-sheet px-3 py-1.5">
      <input type="checkbox" checked={opens} onChange={() => onChoose(!opens)} />
      <span>
        <span className="font-semibold">Open {named} for this posting alone.</span>{' '}
        <span className="text-quiet">
          {periods.length > 1 ? 'They are' : 'It is'} barred, and barred again by itself in the same
          act; both are on the record.
        </span>
      </span>
    </label>
  )
}
