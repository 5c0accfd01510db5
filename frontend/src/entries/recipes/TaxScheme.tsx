import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { DayField } from '../../frame/DayField'
import { PostPanel } from '../../frame/PostPanel'
import { useAct } from '../../frame/useAct'
import { amountWords, longDayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { TextField } from '../../ui/TextField'

type Scheme = Schemas['TaxAnswer']['scheme']

const SAYS: Record<Scheme, string> = {
  invoiced: 'by invoice: on the day of the paper',
  paid: 'by payment: as far as papers are settled',
  flat: 'by a flat rate of the sales',
}

interface TaxSchemeProps {
  found: Schemas['TaxAnswer']
  may: boolean
}

/** By which rule the tax is reckoned, and changing it from a day on. */
export function TaxScheme({ found, may }: TaxSchemeProps) {
  const [changes, change] = useState(false)
  return (
    <div className="mt-1 space-y-3">
      <p className="flex items-baseline gap-3">
        <span>
          Reckoned {SAYS[found.scheme]}
          {found.since && `, since ${longDayWords(found.since)}`}
          {found.rate &&
            `: ${found.rate}% of ${amountWords(found.flat_sales)}, sales with their tax`}
        </span>
        {may && (
          <Button look="bare" aria-expanded={changes} onClick={() => change(!changes)}>
            {changes ? 'Leave it so' : 'Another rule'}
          </Button>
        )}
      </p>
      {changes && (
        <Change now={found.scheme} first={found.may_change_from} onDone={() => change(false)} />
      )}
    </div>
  )
}

function Change({ now, first, onDone }: { now: Scheme; first: string; onDone: () => void }) {
  const [scheme, choose] = useState<Scheme>(now === 'invoiced' ? 'paid' : 'invoiced')
  const [since, begin] = useState<string | null>(first)
  const [rate, setRate] = useState('')
  const isSaid = since !== null && (scheme !== 'flat' || rate.trim() !== '')
  const acting = useAct({
    act: isSaid
      ? { act: 'tax-scheme', since, scheme, rate: scheme === 'flat' ? rate : null }
      : null,
    keepsLast: true,
    onDone,
  })
  return (
    <div className="space-y-3 border-l-4 border-edge pl-3">
      <div className="flex flex-wrap items-end gap-4">
        <label>
          <span className="block text-quiet">Reckoned</span>
          <select
            // biome-ignore lint/a11y/noAutofocus: it was just asked for
            autoFocus
            className="border border-edge bg-sheet px-2 py-1.5"
            value={scheme}
            onChange={(event) => choose(event.target.value as Scheme)}
          >
            {Object.entries(SAYS).map(([name, says]) => (
              <option key={name} value={name}>
                {says}
              </option>
            ))}
          </select>
        </label>
        <div className="w-44">
          <DayField label="From" value={since ?? ''} onDay={begin} />
        </div>
        {scheme === 'flat' && (
          <TextField
            className="w-24"
            label="Rate, %"
            inputMode="decimal"
            value={rate}
            onChange={(event) => setRate(event.target.value)}
          />
        )}
      </div>
      <PostPanel label="Reckon it so" acting={acting} />
    </div>
  )
}
