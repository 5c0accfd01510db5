/** Arrows go from row to row of a table or list whose rows each have one control marked `data-row`; and along a row,
 * to its figures marked `data-figure`, which stay out of the way of the Tab key. */
export function moveInRows(event: React.KeyboardEvent<HTMLElement>) {
  const at = document.activeElement
  if (!(at instanceof HTMLElement)) return
  const rows = [
    ...event.currentTarget.querySelectorAll<HTMLElement>('tr:has([data-row]), li:has([data-row])'),
  ]
  const row = rows.findIndex((listed) => listed.contains(at))
  const cells = stops(rows[row])
  const column = cells.indexOf(at)
  if (column < 0) return
  const next = {
    ArrowDown: stops(rows[row + 1])[column],
    ArrowUp: stops(rows[row - 1])[column],
    ArrowRight: cells[column + 1],
    ArrowLeft: cells[column - 1],
  }[event.key]
  if (!event.key.startsWith('Arrow')) return
  event.preventDefault()
  event.stopPropagation()
  next?.focus()
}

function stops(row: HTMLElement | undefined): HTMLElement[] {
  return row ? [...row.querySelectorAll<HTMLElement>('[data-row], [data-figure]')] : []
}
