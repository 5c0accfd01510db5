import type { ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { differences } from './differences'
import { useInspect } from './inspect'
import { LateMark } from './LateMark'
import {
  amountWords,
  capital,
  dayWords,
  isNil,
  keyerWords,
  plainWords,
  shortDayWords,
} from './words'

export type SlipFacts = Schemas['SlipAnswer']

interface SlipProps {
  slip: SlipFacts
  /** A slip of the same kind, against which differing signs are marked. */
  beside?: SlipFacts
}

/** A transaction as evidence; its number opens all that hangs on it. */
export function Slip({ slip, beside }: SlipProps) {
  const inspect = useInspect()
  const dated = slip.document_date ?? slip.date
  const besideDated = beside ? (beside.document_date ?? beside.date) : undefined
  return (
    <article className="min-w-0 border border-edge bg-sheet px-3 pt-2 pb-2.5">
      <h2 className="mb-1 flex justify-between gap-2 border-b border-rule pb-1 text-[13.5px] leading-[18px] font-semibold">
        <span>{capital(plainWords(slip.kind))}</span>
        <button
          type="button"
          className="font-sans font-semibold text-tide hover:underline"
          onClick={() => inspect({ kind: 'transaction', name: slip.id })}
        >
          {slip.id}
        </button>
      </h2>
      <dl className="grid grid-cols-[76px_1fr] leading-[19px]">
        {(slip.reference || beside?.reference) && (
          <Fact name="Reference">
            <Marked text={slip.reference ?? 'none'} other={beside?.reference ?? undefined} />
          </Fact>
        )}
        {slip.memo && <Fact name="Text">{slip.memo}</Fact>}
        <Fact name="Dated">
          <Marked text={dayWords(dated)} other={besideDated ? dayWords(besideDated) : undefined} />
        </Fact>
        {slip.entered_at && (
          <Fact name="Keyed">
            {shortDayWords(slip.entered_at)}
            {slip.entered_by && `, ${keyerWords(slip)}`}
            {slip.late && <LateMark why={slip.late} />}
          </Fact>
        )}
        <Fact name={MONEY_WORDS[slip.kind] ?? 'Coded to'}>{codedTo(slip)}</Fact>
        <Fact name="Total">
          <strong>
            {amountWords(slip.total)}
            {standing(slip)}
          </strong>
        </Fact>
      </dl>
    </article>
  )
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-quiet">{name}</dt>
      <dd className="min-w-0 break-words">{children}</dd>
    </>
  )
}

function Marked({ text, other }: { text: string; other?: string }) {
  if (other === undefined) return text
  let place = 0
  return differences(text, other).map((piece) => {
    place += piece.text.length
    return piece.differs ? <mark key={place}>{piece.text}</mark> : piece.text
  })
}

const MONEY_WORDS: Record<string, string> = {
  'supplier-payment': 'Paid from',
  'customer-receipt': 'Paid into',
}

/** The lines besides those on a party or its money, in words: 5200 Fuel 200.00 + tax 46.00. */
function codedTo(slip: SlipFacts): string {
  const own = slip.lines.filter((line) => line.party === null)
  const lines = own.length > 1 ? own.filter((line) => !isMoney(slip, line)) : own
  // The tax line carries the code of the line that it belongs to, and comes after it.
  const taxes = lines.filter((line, place) => place > 0 && line.tax_code && hasCode(lines, place))
  const coded = lines.filter((line) => !taxes.includes(line))
  const words = coded.map((line) => `${line.account} ${line.name} ${sumOf(line)}`)
  const tax = taxes.map((line) => ` + tax ${sumOf(line)}`)
  return words.slice(0, 3).join(', ') + (words.length > 3 ? ' …' : '') + tax.join('')
}

function hasCode(lines: Schemas['LineAnswer'][], place: number): boolean {
  return lines.slice(0, place).some((line) => line.tax_code === lines[place]?.tax_code)
}

function sumOf(line: Schemas['LineAnswer']): string {
  return amountWords(line.debit ?? line.credit ?? '')
}

/** In a payment coded straight the money's own line is the one of the whole sum on the other side. */
function isMoney(slip: SlipFacts, line: Schemas['LineAnswer']): boolean {
  if (slip.kind === 'direct-payment') return line.credit === slip.total
  return slip.kind === 'direct-receipt' && line.debit === slip.total
}

function standing(slip: SlipFacts): string {
  if (slip.settled_on) return ` · settled ${shortDayWords(slip.settled_on)}`
  if (slip.open === null) return ''
  if (isNil(slip.open)) return ' · settled'
  const part = slip.open === slip.total ? 'open' : `${amountWords(slip.open)} open`
  return ` · ${part}${slip.days_open === null ? '' : `, ${slip.days_open} days`}`
}
