import { useSearchParams } from 'react-router'

/** The earlier year that the worksheet is set beside, as the address says it; null: the last one. */
export function useAgainst(): [string | null, (label: string | null) => void] {
  const [search, setSearch] = useSearchParams()
  return [
    search.get('against'),
    (label) =>
      setSearch((old) => {
        const next = new URLSearchParams(old)
        if (label) next.set('against', label)
        else next.delete('against')
        return next
      }),
  ]
}
