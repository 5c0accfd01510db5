import { useQuery } from '@tanstack/react-query'
import { AccountPicker } from '../../ledger/AccountPicker'
import { Button } from '../../ui/Button'
import { chartOptions, useClient } from '../queries'
import { useSpan } from '../useSpan'

interface SumsFieldProps {
  label: string
  /** Accounts with their sums: `1500:46150.00,1510:138450.00`. */
  value: string
  onSay: (value: string) => void
}

/** Accounts with a sum each, as many as there are. */
export function SumsField({ label, value, onSay }: SumsFieldProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const rows = (value || ':').split(',').map((row) => {
    const colon = row.lastIndexOf(':')
    return { account: row.slice(0, colon), amount: row.slice(colon + 1) }
  })
  function put(place: number, changed: { account?: string; amount?: string }) {
    const next = rows.map((row, at) => (at === place ? { ...row, ...changed } : row))
    onSay(next.map((row) => `${row.account}:${row.amount}`).join(','))
  }
  return (
    <fieldset className="col-span-full">
      <legend className="text-quiet">{label}</legend>
      {rows.map((row, place) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row has nothing but its place
        <div key={place} className="mb-1 grid grid-cols-[1fr_140px] gap-2">
          <div className="border border-edge bg-sheet">
            <AccountPicker
              label={`${label}, account ${place + 1}`}
              value={row.account}
              options={chart?.accounts ?? []}
              onPick={(account) => put(place, { account })}
            />
          </div>
          <input
            aria-label={`${label}, sum ${place + 1}`}
            className="border border-edge bg-sheet px-2.5 py-1.5 text-right"
            inputMode="decimal"
            value={row.amount}
            // A comma parts the rows: a decimal comma is a point here.
            onChange={(event) => put(place, { amount: event.target.value.replace(',', '.') })}
          />
        </div>
      ))}
      <Button look="bare" onClick={() => onSay(`${value || ':'},:`)}>
        One more
      </Button>
    </fieldset>
  )
}
