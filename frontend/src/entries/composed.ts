import type { Schemas } from '../api/client'

export type Composed = Schemas['ComposedEntry']
export type ComposedLine = Schemas['ComposedLine']

/** A line of the composer: its key lasts while lines are put in and taken out around it. */
export interface KeyedLine extends ComposedLine {
  key: string
}

export interface Keyed extends Omit<Composed, 'lines'> {
  lines: KeyedLine[]
}

export function blankLine(): KeyedLine {
  return {
    key: crypto.randomUUID(),
    account: '',
    party: '',
    debit: '',
    credit: '',
    tax_code: '',
    tax: 'none',
    text: '',
    dimensions: '',
  }
}

export function blankEntry(): Keyed {
  return {
    kind: 'adjusting',
    date: 'pe',
    reverse_on: '',
    reference: '',
    reason: '',
    document_date: '',
    due_date: '',
    lines: [blankLine(), blankLine(), blankLine()],
  }
}

export function isBlank(entry: Keyed): boolean {
  const lines = entry.lines.some((line) => line.account || line.debit || line.credit || line.text)
  return !lines && !entry.reason && !entry.reference
}

/** What is sent: without the keys of the lines. */
export function sent(entry: Keyed): Composed {
  return { ...entry, lines: entry.lines.map(({ key: _, ...line }) => line) }
}

/** The day by which the short forms of days in a draft were keyed; none where it was kept without. */
export function nearOf(content: Record<string, unknown> | undefined): string | null {
  return typeof content?.near === 'string' ? content.near : null
}

/** What a recipe was told, where that is what was kept; none for an entry. */
export function recipeDraft(
  content: Record<string, unknown>,
): { recipe: string; said: Record<string, string> } | null {
  const { recipe, said } = content
  if (typeof recipe !== 'string' || typeof said !== 'object' || said === null) return null
  return { recipe, said: said as Record<string, string> }
}

/** A draft as it was kept, or a blank entry where it can't be read any more. */
export function fromDraft(content: Record<string, unknown>): Keyed {
  const blank = blankEntry()
  const { near: _, ...kept } = content
  const lines = Array.isArray(kept.lines) ? kept.lines : []
  return {
    ...blank,
    ...(kept as Partial<Keyed>),
    lines: [
      ...lines.map((line: Partial<ComposedLine>) => ({ ...blankLine(), ...line })),
      blankLine(),
    ],
  }
}

/** A copy of a posted entry: accounts, parties, tax and texts; the sums only where asked for. */
export function copyOf(slip: Schemas['SlipAnswer'], withSums: boolean): Keyed {
  const kind = slip.entry_kind === 'correcting' || slip.entry_kind === 'reclassifying'
  return {
    ...blankEntry(),
    kind: kind ? (slip.entry_kind as Composed['kind']) : 'adjusting',
    reason: slip.reason ?? slip.memo ?? '',
    lines: [...slip.lines, null].map((line) =>
      line === null
        ? blankLine()
        : {
            ...blankLine(),
            account: line.account,
            party: line.party ?? '',
            tax_code: line.tax_code ?? '',
            text: line.description ?? '',
            dimensions: line.dimensions ?? '',
            debit: withSums ? (line.debit ?? '') : '',
            credit: withSums ? (line.credit ?? '') : '',
          },
    ),
  }
}

const FIGURE = /^[-(]?\s*[\d.,' ]*\d[\d.,' ]*\)?-?$/

/** Rows pasted from a spreadsheet as lines: account, texts, then debit and credit, or one signed amount. None
 * where it is not a table. */
export function pastedLines(text: string): KeyedLine[] | null {
  const rows = text.split(/\r?\n/).filter((row) => row.trim())
  if (!rows.some((row) => row.includes('\t'))) return null
  const lines = rows.map((row) => {
    const [first = '', ...cells] = row.split('\t').map((cell) => cell.trim())
    const account = /^\d/.test(first) ? (first.split(/\s/)[0] ?? '') : first
    const sides = cells.slice(-2)
    const two = sides.length === 2 && sides.every((cell) => !cell || FIGURE.test(cell))
    const figures =
      two && sides.some(Boolean) ? sides : cells.slice(-1).filter((c) => FIGURE.test(c))
    const words = cells.slice(0, cells.length - figures.length).filter(Boolean)
    return { ...blankLine(), account, text: words.join(' '), ...sidesOf(figures) }
  })
  // A heading has no figures: it is no line.
  const kept = lines.filter((line) => line.debit || line.credit)
  return kept.length > 0 ? kept : null
}

function sidesOf(figures: string[]): { debit: string; credit: string } {
  if (figures.length === 2) return { debit: figures[0] ?? '', credit: figures[1] ?? '' }
  const amount = figures[0] ?? ''
  const below = /^[-(]|-$/.test(amount)
  const plain = amount.replace(/[-()]/g, '').trim()
  return below ? { debit: '', credit: plain } : { debit: plain, credit: '' }
}
