/** Arrows go from row to row of a table whose rows each have one control marked `data-row`. */
export function moveInRows(event: React.KeyboardEvent<HTMLElement>) {
  if (event.key !== 'ArrowDown' && event.key !== 'ArrowUp') return
  const rows = Array.from(event.currentTarget.querySelectorAll<HTMLElement>('[data-row]'))
  const place = rows.indexOf(document.activeElement as HTMLElement)
  if (place < 0) return
  event.preventDefault()
  event.stopPropagation()
  rows[place + (event.key === 'ArrowDown' ? 1 : -1)]?.focus()
}
