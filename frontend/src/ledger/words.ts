/** Amounts and days as people read them. Amounts come as plain decimals and are never summed here. */

/** `1234.50` as 1,234.50; a credit in brackets. */
export function amountWords(amount: string): string {
  const bare = amount.replace(/^-/, '')
  const [whole = '0', places] = bare.split('.')
  const grouped = whole.replace(/\B(?=(\d{3})+(?!\d))/g, ',')
  const text = places === undefined ? grouped : `${grouped}.${places}`
  return amount.startsWith('-') ? `(${text})` : text
}

/** `-246.00` as −246.00 and `200.00` as +200.00: how a figure moves. */
export function changeWords(amount: string): string {
  const bare = amountWords(amount.replace(/^-/, ''))
  return amount.startsWith('-') ? `−${bare}` : `+${bare}`
}

/** The same sum with its sign turned. */
export function negated(amount: string): string {
  if (amount === '' || isNil(amount)) return amount
  return amount.startsWith('-') ? amount.slice(1) : `-${amount}`
}

export function isNil(amount: string): boolean {
  return /^-?0*(\.0*)?$/.test(amount)
}

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const LONG = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
]

/** `2026-04-05` as 5 Apr 2026. */
export function dayWords(day: string): string {
  return `${shortDayWords(day)} ${day.slice(0, 4)}`
}

/** `2026-04-05` as 5 Apr. */
export function shortDayWords(day: string): string {
  return `${Number(day.slice(8, 10))} ${MONTHS[Number(day.slice(5, 7)) - 1]}`
}

/** `2026-04-05` as 5 April 2026. */
export function longDayWords(day: string): string {
  return `${Number(day.slice(8, 10))} ${LONG[Number(day.slice(5, 7)) - 1]} ${day.slice(0, 4)}`
}

/** `purchase-bill` as purchase bill. */
export function plainWords(kind: string): string {
  return kind.replace(/-/g, ' ')
}

/** With a capital at the beginning. */
export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}

/** 1 point, 2 points. */
export function counted(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`
}

/** Who keyed a transaction: one of ours, or somebody that the client's books name. */
export function keyerWords(slip: { entered_by: string | null; change: number | null }): string {
  if (!slip.entered_by) return ''
  return slip.change === null ? `“${slip.entered_by}” in the client’s books` : slip.entered_by
}

/** What a person calls a field of a transaction. */
export function fieldWords(field: string): string {
  return field === 'memo' ? 'text' : field
}

/** The sections of the worksheet and their totals. */
export const SECTION_TITLES: Record<string, string> = {
  income: 'Income',
  expense: 'Costs',
  asset: 'What the business owns',
  liability: 'What it owes',
  equity: 'Owners’ capital',
  profit: 'Profit',
  all: 'All accounts',
}
