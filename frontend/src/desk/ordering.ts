import type { Schemas } from '../api/client'

type Row = Schemas['ClientRow']
export type Order = 'due' | 'name' | 'year_end' | 'as_at' | 'points' | 'at_stake' | 'move'

const COMPARE: Record<Exclude<Order, 'due'>, (a: Row, b: Row) => number> = {
  name: (a, b) => a.name.localeCompare(b.name),
  year_end: (a, b) => a.year_end.localeCompare(b.year_end),
  as_at: (a, b) => a.as_at.localeCompare(b.as_at),
  points: (a, b) => b.open_points - a.open_points,
  at_stake: (a, b) => Number(b.at_stake) - Number(a.at_stake),
  move: (a, b) => a.move.localeCompare(b.move),
}

/** The rows in that order: by deadline as they come, in bands; all else with the most first. */
export function ordered(rows: Row[], order: Order): Row[] {
  return order === 'due' ? rows : [...rows].sort(COMPARE[order])
}

export interface Narrowed {
  text: string
  staff: string
  stage: string
  move: string | null
}

/** Whether the row is among those that were asked for. */
export function fits(row: Row, wanted: Narrowed): boolean {
  if (wanted.staff && !row.staff.includes(wanted.staff)) return false
  if (wanted.stage && row.stage !== wanted.stage) return false
  if (wanted.move && row.move !== wanted.move) return false
  const known = `${row.code} ${row.name} ${row.entity} ${row.staff.join(' ')}`.toLowerCase()
  return wanted.text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => known.includes(word))
}
