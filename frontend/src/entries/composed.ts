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
