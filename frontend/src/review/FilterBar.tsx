import { leaveFilter } from '../ui/focus'
import { type Filters, isFiltering, NO_FILTERS } from './filters'

interface FilterBarProps {
  filters: Filters
  onFilter: (filters: Filters) => void
  families: string[]
}

const LEVELS = ['sure', 'likely', 'look']

/** Narrows the list of points: by any word, a sum or a bound, the family, the certainty. */
export function FilterBar({ filters, onFilter, families }: FilterBarProps) {
  return (
    <div className="space-y-1 px-5 pb-1.5">
      <input
        type="search"
        aria-label="Filter the points"
        onKeyDown={leaveFilter}
        title="A party, account, reference or sum; >500 for what is above it. f goes here."
        placeholder="party, account, sum, >500"
        className="w-full border border-edge bg-sheet px-2 py-1"
        value={filters.text}
        onChange={(event) => onFilter({ ...filters, text: event.target.value })}
      />
      <div className="flex gap-2">
        <select
          aria-label="Only this family"
          className="min-w-0 grow bg-transparent text-quiet"
          value={filters.family}
          onChange={(event) => onFilter({ ...filters, family: event.target.value })}
        >
          <option value="">every family</option>
          {families.map((family) => (
            <option key={family}>{family}</option>
          ))}
        </select>
        <select
          aria-label="Only this certainty"
          className="bg-transparent text-quiet"
          value={filters.level}
          onChange={(event) => onFilter({ ...filters, level: event.target.value })}
        >
          <option value="">any certainty</option>
          {LEVELS.map((level) => (
            <option key={level}>{level}</option>
          ))}
        </select>
        {isFiltering(filters) && (
          <button
            type="button"
            className="text-tide hover:underline"
            onClick={() => onFilter(NO_FILTERS)}
          >
            clear
          </button>
        )}
      </div>
    </div>
  )
}
