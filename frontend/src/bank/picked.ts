import { amountWords } from '../ledger/words'
import type { SpineRow } from './queries'
import type { WantedGroup } from './useBankDeeds'

/** Entries (transaction and line, a nought byte between) and statement lines that are picked. */
export interface Picked {
  entries: string[]
  lines: string[]
}

export function togglePicked(picked: Picked, kind: keyof Picked, id: string): Picked {
  const has = picked[kind].includes(id)
  return {
    ...picked,
    [kind]: has ? picked[kind].filter((other) => other !== id) : [...picked[kind], id],
  }
}

export function wantedOf(picked: Picked): WantedGroup {
  return {
    entries: picked.entries.map((id) => {
      const [transaction = '', line = '0'] = id.split('\u0000')
      return [transaction, Number(line)]
    }),
    lines: picked.lines,
    why: '',
  }
}

/** What is picked on either side, in whole minor units and never as fractions. */
export function pickedSums(picked: Picked, rows: SpineRow[]) {
  const places = placesOf(rows)
  let books = 0n
  let statement = 0n
  for (const row of rows) {
    for (const entry of row.entries) {
      if (picked.entries.includes(`${entry.transaction}\u0000${entry.line}`)) {
        books += minor(entry.amount)
      }
    }
    for (const line of row.lines) {
      if (picked.lines.includes(line.ref)) statement += minor(line.amount)
    }
  }
  const some = picked.entries.length + picked.lines.length > 1
  return {
    books: words(books, places),
    statement: words(statement, places),
    apart: words(books - statement, places),
    even: some && books === statement,
  }
}

function placesOf(rows: SpineRow[]): number {
  const amount = rows[0]?.lines[0]?.amount ?? rows[0]?.entries[0]?.amount ?? '0.00'
  return amount.split('.')[1]?.length ?? 0
}

function minor(amount: string): bigint {
  return BigInt(amount.replace('.', ''))
}

function words(amount: bigint, places: number): string {
  const bare = `${amount < 0n ? -amount : amount}`.padStart(places + 1, '0')
  const whole = places ? `${bare.slice(0, -places)}.${bare.slice(-places)}` : bare
  return amountWords(`${amount < 0n ? '-' : ''}${whole}`)
}
