import type { PointView } from './queries'

/** What a person filters the points by. *text*: part of a party, account, reference or sum, or `>500`. */
export interface Filters {
  text: string
  family: string
  level: string
}

export const NO_FILTERS: Filters = { text: '', family: '', level: '' }

export function isFiltering(filters: Filters): boolean {
  return filters.text.trim() !== '' || filters.family !== '' || filters.level !== ''
}

/** Whether the point has what is filtered by. */
export function fits(point: PointView, filters: Filters): boolean {
  if (filters.family && point.family !== filters.family) return false
  if (filters.level && point.level !== filters.level) return false
  return filters.text
    .trim()
    .toLowerCase()
    .split(/\s+/)
    .every((word) => word === '' || says(point, word))
}

/** A bound such as `>500` is about the amount, in major units; a word about all that the point says. */
function says(point: PointView, word: string): boolean {
  const bound = /^([<>])([\d.,]+)$/.exec(word)
  if (bound) {
    const at = Number((bound[2] as string).replace(/,/g, ''))
    return bound[1] === '>' ? Number(point.amount) > at : Number(point.amount) < at
  }
  const bare = word.replace(/,/g, '')
  return [
    point.headline,
    point.short,
    point.summary,
    point.check,
    point.amount,
    ...point.accounts,
    ...point.parties,
    ...point.transactions,
  ].some((text) => text.toLowerCase().includes(word) || text.includes(bare))
}
