/** Words that no spreadsheet takes for a formula; figures stay as they are. */
function plain(text: string): string {
  return /^[=@]|^[+-](?![\d.,() ]*$)/.test(text) ? `'${text}` : text
}

/** Copies a table as it is shown, for a spreadsheet; how many rows it had besides its heading. */
export async function copyTable(table: HTMLTableElement): Promise<number> {
  const rows = [...table.rows].map((row) =>
    [...row.cells].map((cell) => plain(cell.innerText.replace(/\s+/g, ' ').trim())).join('\t'),
  )
  await navigator.clipboard.writeText(rows.join('\n'))
  return rows.length - 1
}
