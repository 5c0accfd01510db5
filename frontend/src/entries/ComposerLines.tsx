import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import type { Schemas } from '../api/client'
import { NewAccountDialog } from '../frame/chart/NewAccountDialog'
import { PartyField } from '../frame/PartyField'
import { type Chart, chartOptions, useClient } from '../frame/queries'
import { usePerson } from '../frame/session'
import { useSpan } from '../frame/useSpan'
import { AccountPicker } from '../ledger/AccountPicker'
import { amountWords, isNil } from '../ledger/words'
import { blankLine, type Keyed, type KeyedLine, pastedLines } from './composed'

interface ComposerLinesProps {
  entry: Keyed
  worked: Schemas['ComposedAnswer'] | undefined
  onChange: (entry: Keyed) => void
}

const CELL = 'w-full bg-transparent px-2.5 py-1.5'
const EMPTY: Chart = { accounts: [], parties: [], taxes: [], dimensions: [] }

/** The lines: an account, whose, a text, a debit or a credit in which a sum may be worked out. */
export function ComposerLines({ entry, worked, onChange }: ComposerLinesProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart = EMPTY } = useQuery(chartOptions(client.code, span.last))
  const body = useRef<HTMLTableSectionElement>(null)
  const offered = offerOf(worked)
  const offeredAt = offered ? entry.lines.findIndex((line) => !line.debit && !line.credit) : -1

  function change(place: number, part: Partial<KeyedLine>) {
    const lines = entry.lines.map((line, at) => (at === place ? { ...line, ...part } : line))
    // There is always a line left to go on with.
    const last = lines.at(-1)
    if (last && (last.account || last.debit || last.credit)) lines.push(blankLine())
    onChange({ ...entry, lines })
  }
  function take(place: number) {
    const lines = entry.lines.filter((_, at) => at !== place)
    onChange({ ...entry, lines: lines.length > 0 ? lines : [blankLine()] })
  }
  /** Enter goes from field to field, and takes the sum that is offered. */
  function onKeyDown(event: React.KeyboardEvent) {
    if (event.key !== 'Enter' || event.ctrlKey || event.metaKey) return
    event.preventDefault()
    const field = event.target as HTMLElement
    const place = Number(field.dataset.place)
    const side = field.dataset.side
    if (offered && side === offered.side && place === offeredAt) {
      change(place, { [offered.side]: offered.amount })
    }
    const fields = Array.from(
      body.current?.querySelectorAll<HTMLElement>('[data-place], [role=combobox]') ?? [],
    )
    const next = fields[fields.indexOf(field) + 1]
    next?.focus()
  }
  /** Rows of a spreadsheet go on below the lines that there are. */
  function onPaste(event: React.ClipboardEvent) {
    const pasted = pastedLines(event.clipboardData.getData('text/plain'))
    if (!pasted) return
    event.preventDefault()
    const kept = entry.lines.filter((line) => line.account || line.debit || line.credit)
    onChange({ ...entry, lines: [...kept, ...pasted, blankLine()].slice(0, 500) })
  }
  const hasDimensions = chart.dimensions.length > 0
  return (
    <table
      className="w-full table-fixed border-collapse bg-sheet"
      onKeyDown={onKeyDown}
      onPaste={onPaste}
    >
      <caption className="sr-only">Lines of the entry</caption>
      <thead>
        <tr className="border-b border-ink bg-paper text-left text-deep">
          <th scope="col" className="w-[26%] px-2.5 py-1.5 font-semibold">
            Account
          </th>
          <th scope="col" className="w-[18%] px-2.5 font-semibold">
            Party
          </th>
          <th scope="col" className="px-2.5 font-semibold">
            Text
          </th>
          {hasDimensions && (
            <th scope="col" className="w-28 px-2.5 font-semibold">
              For
            </th>
          )}
          <th scope="col" className="w-24 px-2.5 font-semibold">
            Tax
          </th>
          <th scope="col" className="w-30 px-2.5 text-right font-semibold">
            Debit
          </th>
          <th scope="col" className="w-30 px-2.5 text-right font-semibold">
            Credit
          </th>
          <th scope="col" className="w-8">
            <span className="sr-only">Take out</span>
          </th>
        </tr>
      </thead>
      <tbody ref={body}>
        {entry.lines.map((line, place) => (
          <Line
            key={line.key}
            kind={entry.kind}
            line={line}
            place={place}
            chart={chart}
            hasDimensions={hasDimensions}
            worked={worked?.lines[place]}
            offered={place === offeredAt ? offered : null}
            onChange={(part) => change(place, part)}
            onTake={() => take(place)}
          />
        ))}
      </tbody>
    </table>
  )
}

/**
 * The tax that a line to the account begins with. Only an entry that puts an error right repeats a
 * document with its tax: what adjusts or reclassifies a period has none until it is chosen.
 */
function presetTax({ kind, line, chart }: LineProps, account: string): Partial<KeyedLine> {
  if (kind !== 'correcting' || line.account === account) return {}
  const code = chart.accounts.find((known) => known.code === account)?.tax_code ?? ''
  return { tax_code: code, tax: code ? 'included' : 'none' }
}

interface Offer {
  side: 'debit' | 'credit'
  amount: string
}

/** The sum that would balance the entry, and on which side. */
function offerOf(worked: Schemas['ComposedAnswer'] | undefined): Offer | null {
  if (!worked || isNil(worked.difference)) return null
  return worked.difference.startsWith('-')
    ? { side: 'debit', amount: worked.difference.slice(1) }
    : { side: 'credit', amount: worked.difference }
}

interface LineProps {
  kind: Keyed['kind']
  line: KeyedLine
  place: number
  chart: Chart
  hasDimensions: boolean
  worked: Schemas['ComposedLineAnswer'] | undefined
  offered: Offer | null
  onChange: (part: Partial<KeyedLine>) => void
  onTake: () => void
}

function Line(props: LineProps) {
  const { line, place, chart, worked, offered, onChange } = props
  const person = usePerson()
  const [made, make] = useState<string | null>(null)
  const number = place + 1
  const blank = !line.account && !line.debit && !line.credit && !line.party
  const faults = blank ? [] : (worked?.faults ?? [])
  // A line that is being keyed is not told what it lacks: only what is wrong in it.
  const told = faults.filter((fault) => !/is missing\.$/.test(fault))
  return (
    <>
      <tr className="border-b border-rule align-top focus-within:bg-wash">
        <td>
          <AccountPicker
            wanted
            label={`Account, line ${number}`}
            value={line.account}
            options={chart.accounts}
            onPick={(account) => onChange({ account, ...presetTax(props, account) })}
            onNew={person.may.includes('change-chart') ? make : undefined}
            invalid={told.some((fault) => fault.includes('account'))}
          />
          {made !== null && (
            <NewAccountDialog
              typed={made}
              onPick={(account) => {
                onChange({ account })
                make(null)
              }}
              onClose={() => make(null)}
            />
          )}
        </td>
        <td>
          <PartyField
            label={`Party, line ${number}`}
            value={line.party}
            onPick={(party) => onChange({ party })}
          />
        </td>
        <td>
          <input
            aria-label={`Text, line ${number}`}
            data-place={place}
            className={CELL}
            value={line.text}
            onChange={(event) => onChange({ text: event.target.value })}
          />
        </td>
        {props.hasDimensions && (
          <td>
            <DimensionChoice {...props} />
          </td>
        )}
        <td>
          <TaxChoice {...props} />
        </td>
        <Side {...props} side="debit" offered={offered} />
        <Side {...props} side="credit" offered={offered} />
        <td>
          {!blank && (
            <button
              type="button"
              aria-label={`Take line ${number} out`}
              title="Take this line out"
              className="size-8 text-quiet hover:text-rust"
              onClick={props.onTake}
            >
              ×
            </button>
          )}
        </td>
      </tr>
      {told.length > 0 && (
        <tr>
          <td colSpan={8} className="px-2.5 pb-1 text-[13px] text-rust">
            Line {number}: {told.join(' ')}
          </td>
        </tr>
      )}
    </>
  )
}

function Side({
  line,
  place,
  worked,
  offered,
  side,
  onChange,
}: LineProps & { side: 'debit' | 'credit' }) {
  const keyed = line[side]
  const value = worked?.[side]
  // What a sum comes to stands beside it while it is not written out plainly.
  const comesTo = value && !/^[\d.]*$/.test(keyed) ? amountWords(value) : null
  return (
    <td className="border-l border-edge">
      <input
        aria-label={`${side === 'debit' ? 'Debit' : 'Credit'}, line ${place + 1}`}
        data-place={place}
        data-side={side}
        data-wanted={line.account && !line.debit && !line.credit ? true : undefined}
        className={`${CELL} text-right`}
        inputMode="decimal"
        placeholder={offered?.side === side ? `${amountWords(offered.amount)} ⏎` : undefined}
        value={keyed}
        onChange={(event) =>
          onChange({ [side]: event.target.value, [side === 'debit' ? 'credit' : 'debit']: '' })
        }
      />
      {comesTo && <p className="px-2.5 pb-1 text-right text-[13px] text-quiet">= {comesTo}</p>}
    </td>
  )
}

function TaxChoice({ line, place, chart, onChange }: LineProps) {
  const taxed = chart.taxes.filter((tax) => tax.rate !== '0')
  return (
    <select
      aria-label={`Tax, line ${place + 1}`}
      data-place={place}
      className={CELL}
      value={line.tax_code ? `${line.tax_code} ${line.tax}` : ''}
      onChange={(event) => {
        const [tax_code = '', tax = 'none'] = event.target.value.split(' ')
        onChange({ tax_code, tax: tax as KeyedLine['tax'] })
      }}
    >
      <option value="">none</option>
      {taxed.map((tax) => (
        <optgroup key={tax.code} label={`${tax.code} ${tax.rate}%`}>
          <option value={`${tax.code} included`}>{tax.code} in it</option>
          <option value={`${tax.code} added`}>{tax.code} on top</option>
        </optgroup>
      ))}
      {line.tax_code && line.tax === 'none' && (
        <option value={`${line.tax_code} none`}>{line.tax_code}, no split</option>
      )}
    </select>
  )
}

function DimensionChoice({ line, place, chart, onChange }: LineProps) {
  return (
    <select
      aria-label={`For what, line ${place + 1}`}
      data-place={place}
      className={CELL}
      value={line.dimensions}
      onChange={(event) => onChange({ dimensions: event.target.value })}
    >
      <option value="">not applicable</option>
      {chart.dimensions.map((dimension) => (
        <option
          key={`${dimension.dimension}=${dimension.code}`}
          value={`${dimension.dimension}=${dimension.code}`}
        >
          {dimension.name}
        </option>
      ))}
    </select>
  )
}
