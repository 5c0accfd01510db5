import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { AccountPicker } from '../../ledger/AccountPicker'
import { Button } from '../../ui/Button'
import { OpenOf } from '../OpenOf'
import { PartyField } from '../PartyField'
import { chartOptions, useClient } from '../queries'
import { useSpan } from '../useSpan'

interface RecordPartsProps {
  settings: Record<string, string>
  /** The statement line that is told: it can be split, and settle open items. */
  line?: Schemas['StatementLineAnswer']
  onSay: (settings: Record<string, string>) => void
}

interface Part {
  account: string
  party: string
  tax_code: string
  dimensions: string
  items: string
  amount: string
  text: string
}

const FIELDS: (keyof Part)[] = ['account', 'party', 'tax_code', 'dimensions', 'items']
const FIELD = 'w-full border border-edge bg-sheet px-2 py-1.5'

/** Where a statement line that is not in the books belongs: one account or document, or several. */
export function RecordParts({ settings, line, onSay }: RecordPartsProps) {
  const [parts, setParts] = useState<Part[]>([partOf(settings)])
  function say(next: Part[]) {
    setParts(next)
    const [only] = next
    if (next.length === 1 && only) {
      onSay(Object.fromEntries(FIELDS.map((field) => [field, only[field]])))
    } else {
      onSay({ parts: JSON.stringify(next) })
    }
  }
  return (
    <div className="space-y-3">
      {parts.map((part, place) => (
        <OnePart
          // biome-ignore lint/suspicious/noArrayIndexKey: parts have no other name than their place
          key={place}
          part={part}
          number={parts.length > 1 ? place + 1 : null}
          isLast={place === parts.length - 1}
          line={line}
          onSay={(said) => say(parts.map((old, at) => (at === place ? { ...old, ...said } : old)))}
          onTake={() => say(parts.filter((_, at) => at !== place))}
        />
      ))}
      {line && (
        <Button look="bare" className="py-0!" onClick={() => say([...parts, partOf({})])}>
          {parts.length > 1 ? 'One more part' : 'Split it over several'}
        </Button>
      )}
    </div>
  )
}

function partOf(settings: Record<string, string>): Part {
  const empty = {
    account: '',
    party: '',
    tax_code: '',
    dimensions: '',
    items: '',
    amount: '',
    text: '',
  }
  const known = Object.entries(settings).filter(([name]) => name in empty)
  return { ...empty, ...Object.fromEntries(known) }
}

interface OnePartProps {
  part: Part
  number: number | null
  isLast: boolean
  line: Schemas['StatementLineAnswer'] | undefined
  onSay: (said: Partial<Part>) => void
  onTake: () => void
}

function OnePart({ part, number, isLast, line, onSay, onTake }: OnePartProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const accounts = chart?.accounts ?? []
  const dimensions = chart?.dimensions ?? []
  const of = number ? `, part ${number}` : ''
  function pick(account: string) {
    const preset = accounts.find((known) => known.code === account)?.tax_code
    onSay({ account, items: '', tax_code: preset ?? '' })
  }
  return (
    <section aria-label={number ? `Part ${number}` : 'What it is'} className="space-y-2">
      <div className="flex items-end gap-3">
        <div className="min-w-0 grow basis-0">
          <span className="block text-quiet">{number ? `${number}. ` : ''}Account</span>
          <div className="border border-edge bg-sheet">
            <AccountPicker
              label={`Account that it belongs on${of}`}
              value={part.items ? '' : part.account}
              placeholder={part.items ? 'the party’s, with what it settles' : undefined}
              options={accounts}
              onPick={pick}
            />
          </div>
        </div>
        <div className="min-w-0 grow basis-0">
          <span className="block text-quiet">Party, where there is one</span>
          <div className="border border-edge bg-sheet">
            <PartyField
              label={`Party of it${of}`}
              value={part.party}
              kind={line?.amount.startsWith('-') ? 'supplier' : 'customer'}
              onPick={(party) => onSay({ party, items: '' })}
            />
          </div>
        </div>
        {dimensions.length > 0 && (
          <label className="w-28">
            <span className="block text-quiet">Dimension</span>
            <select
              aria-label={`Dimension${of}`}
              className={FIELD}
              value={part.dimensions}
              onChange={(event) => onSay({ dimensions: event.target.value })}
            >
              <option value="">none</option>
              {dimensions.map((dimension) => (
                <option
                  key={`${dimension.dimension}=${dimension.code}`}
                  value={`${dimension.dimension}=${dimension.code}`}
                >
                  {dimension.name}
                </option>
              ))}
            </select>
          </label>
        )}
        <label className="w-28">
          <span className="block text-quiet">Tax in it</span>
          <select
            aria-label={`Tax in it${of}`}
            className={FIELD}
            value={part.tax_code}
            onChange={(event) => onSay({ tax_code: event.target.value })}
          >
            <option value="">none</option>
            {(chart?.taxes ?? [])
              .filter((tax) => tax.rate !== '0')
              .map((tax) => (
                <option key={tax.code} value={tax.code}>
                  {tax.code} {tax.rate}%
                </option>
              ))}
          </select>
        </label>
        {number && (
          <label className="w-28">
            <span className="block text-quiet">Amount</span>
            <input
              aria-label={`Amount${of}`}
              className={`${FIELD} text-right`}
              inputMode="decimal"
              placeholder={isLast ? 'the rest' : undefined}
              value={part.amount}
              onChange={(event) => onSay({ amount: event.target.value })}
            />
          </label>
        )}
        {number && (
          <button
            type="button"
            aria-label={`Take part ${number} out`}
            title="Take this part out"
            className="size-8 text-quiet hover:text-rust"
            onClick={onTake}
          >
            ×
          </button>
        )}
      </div>
      {line && part.party && (
        <OpenOf
          party={part.party}
          comesIn={!line.amount.startsWith('-')}
          items={part.items}
          onChoose={(items) => onSay({ items })}
        />
      )}
    </section>
  )
}
