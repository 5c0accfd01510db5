import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { AccountPicker } from '../../ledger/AccountPicker'
import { amountWords, counted, shortDayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { TextField } from '../../ui/TextField'
import { useSettled } from '../../ui/useSettled'
import { PostPanel } from '../PostPanel'
import { chartOptions, useClient } from '../queries'
import { useAct } from '../useAct'

interface RecodeLinesProps {
  ledger: Schemas['LedgerAnswer']
  onDone: () => void
}

/** Several movements of an account, given another account, tax code or dimension in one change. */
export function RecodeLines({ ledger, onDone }: RecodeLinesProps) {
  const client = useClient()
  const { data: chart } = useQuery(chartOptions(client.code, ledger.last))
  const [sought, seek] = useState('')
  const [left, leave] = useState<string[]>([])
  const [to, give] = useState<{ account: string; tax: string; dimension: string }>({
    account: '',
    tax: '=',
    dimension: '=',
  })
  const words = sought.toLowerCase().split(/\s+/).filter(Boolean)
  const found = ledger.movements.filter((move) => {
    // An entry of ours is taken back instead.
    if (move.ours) return false
    const text = `${move.party ?? ''} ${move.reference ?? ''} ${move.text ?? ''}`.toLowerCase()
    return words.every((word) => text.includes(word))
  })
  const chosen = found.filter((move) => !left.includes(move.transaction))
  const asked = {
    act: 'recode',
    transactions: [...new Set(chosen.map((move) => move.transaction))],
    account: ledger.code,
    to_account: to.account || null,
    tax_code: to.tax === '=' ? null : to.tax,
    dimensions: to.dimension === '=' ? null : to.dimension,
  }
  const settled = useSettled(JSON.stringify(asked), 200)
  const says = to.account || to.tax !== '=' || to.dimension !== '='
  const acting = useAct({
    act: says && chosen.length > 0 ? JSON.parse(settled) : null,
    keepsLast: true,
    onDone,
  })
  return (
    <section aria-label="Recode several" className="space-y-3">
      <p className="flex items-end gap-4">
        <TextField
          className="grow"
          autoFocus
          label="Only those whose party, number or text has"
          value={sought}
          onChange={(event) => seek(event.target.value)}
        />
        <span className="py-2 text-quiet">
          {counted(chosen.length, 'movement')} of {ledger.movements.length}
        </span>
        <Button look="bare" onClick={onDone}>
          Cancel
        </Button>
      </p>
      <ul className="max-h-48 overflow-auto border-y border-rule">
        {found.map((move, place) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two lines of one transaction may be alike
          <li key={place}>
            <label className="flex gap-2 py-0.5">
              <input
                type="checkbox"
                checked={!left.includes(move.transaction)}
                onChange={() =>
                  leave(
                    left.includes(move.transaction)
                      ? left.filter((name) => name !== move.transaction)
                      : [...left, move.transaction],
                  )
                }
              />
              <span className="w-16 text-quiet">{shortDayWords(move.date)}</span>
              <span className="grow truncate">
                {[move.reference, move.party, move.text].filter(Boolean).join(' · ')}
              </span>
              <span>{amountWords(move.debit ?? `-${move.credit}`)}</span>
            </label>
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-3 items-end gap-3">
        <div>
          <span className="block text-quiet">To the account</span>
          <div className="border border-edge bg-sheet">
            <AccountPicker
              label="To the account"
              value={to.account}
              options={chart?.accounts ?? []}
              onPick={(account) => give({ ...to, account })}
            />
          </div>
        </div>
        <label>
          <span className="block text-quiet">Tax code</span>
          <select
            className="w-full border border-edge bg-sheet px-2 py-1.5"
            value={to.tax}
            onChange={(event) => give({ ...to, tax: event.target.value })}
          >
            <option value="=">stays</option>
            <option value="">none</option>
            {chart?.taxes.map((tax) => (
              <option key={tax.code} value={tax.code}>
                {tax.code} {tax.name}
              </option>
            ))}
          </select>
        </label>
        {chart && chart.dimensions.length > 0 && (
          <label>
            <span className="block text-quiet">Dimension</span>
            <select
              className="w-full border border-edge bg-sheet px-2 py-1.5"
              value={to.dimension}
              onChange={(event) => give({ ...to, dimension: event.target.value })}
            >
              <option value="=">stays</option>
              <option value="">none</option>
              {chart.dimensions.map((row) => (
                <option key={`${row.dimension} ${row.code}`} value={`${row.dimension}=${row.code}`}>
                  {row.name}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      <PostPanel brief label={`Recode ${counted(chosen.length, 'movement')}`} acting={acting} />
    </section>
  )
}
