import { useSearchParams } from 'react-router'
import { useClient } from './queries'

export interface Span {
  first: string
  last: string
  /** Whether it is what the year shows unless somebody chose: its first day to the day under review. */
  isDefault: boolean
}

/** The months being looked at. Kept in the address, so that a view can be bookmarked. */
export function useSpan(): [Span, (span: { first: string; last: string } | null) => void] {
  const client = useClient()
  const [search, setSearch] = useSearchParams()
  const from = search.get('from')
  const to = search.get('to')
  // It ends in the year that is looked at, and may begin in an earlier one.
  const begins = client.years[0]?.first_day ?? client.year.first_day
  const ends = to && to >= client.year.first_day && to <= client.year.last_day
  const chosen = from && from >= begins && ends && from <= to
  const span = chosen
    ? { first: from, last: to, isDefault: false }
    : { first: client.year.first_day, last: client.as_at, isDefault: true }
  return [
    span,
    (next) =>
      setSearch((old) => {
        const params = new URLSearchParams(old)
        params.delete('from')
        params.delete('to')
        if (next) {
          params.set('from', next.first)
          params.set('to', next.last)
        }
        return params
      }),
  ]
}

/** The part of the address that goes along from page to page: year and months. */
export function useSpanSearch(): string {
  const [search] = useSearchParams()
  const kept = new URLSearchParams()
  for (const name of ['year', 'from', 'to']) {
    const value = search.get(name)
    if (value) kept.set(name, value)
  }
  const text = kept.toString()
  return text ? `?${text}` : ''
}
