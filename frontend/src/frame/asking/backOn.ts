/** When a question comes back without an answer, by what a person chooses. */
export const BACK_AFTER: [string, number | null][] = [
  ['with the answer', null],
  ['or after 3 days', 3],
  ['or after a week', 7],
  ['or after two weeks', 14],
]
export const USUAL_WAIT = 7

/** The day so many days after *today*; null for no day. */
export function backOn(today: string, days: number | null): string | null {
  if (days === null) return null
  const day = new Date(`${today}T12:00:00Z`)
  day.setUTCDate(day.getUTCDate() + days)
  return day.toISOString().slice(0, 10)
}
