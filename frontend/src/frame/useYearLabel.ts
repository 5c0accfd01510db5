import { useSearchParams } from 'react-router'

/** The year being looked at: none in the address means the one under review. */
export function useYearLabel(): [string | null, (label: string) => void] {
  const [search, setSearch] = useSearchParams()
  return [
    search.get('year'),
    (label) =>
      setSearch((old) => {
        const next = new URLSearchParams(old)
        next.set('year', label)
        next.delete('from')
        next.delete('to')
        return next
      }),
  ]
}
