import { useQuery } from '@tanstack/react-query'
import { AccountPicker, PartyPicker } from '../../ledger/AccountPicker'
import { chartOptions, useClient } from '../queries'
import { useSpan } from '../useSpan'

interface RecordFieldsProps {
  settings: Record<string, string>
  onSay: (part: Record<string, string>) => void
}

/** Where a statement line that is not in the books belongs: account, whose, with which tax. */
export function RecordFields({ settings, onSay }: RecordFieldsProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const accounts = chart?.accounts ?? []
  function pick(account: string) {
    const preset = accounts.find((one) => one.code === account)?.tax_code
    onSay({ account, tax_code: preset ?? '' })
  }
  return (
    <div className="grid grid-cols-[1fr_1fr_120px] gap-3">
      <div>
        <span className="block text-quiet">Account</span>
        <div className="border border-edge bg-sheet">
          <AccountPicker
            label="Account that it belongs on"
            value={settings.account ?? ''}
            options={accounts}
            onPick={pick}
          />
        </div>
      </div>
      <div>
        <span className="block text-quiet">Party, where there is one</span>
        <div className="border border-edge bg-sheet">
          <PartyPicker
            label="Party of it"
            value={settings.party ?? ''}
            options={chart?.parties ?? []}
            onPick={(party) => onSay({ party })}
          />
        </div>
      </div>
      <label>
        <span className="block text-quiet">Tax in it</span>
        <select
          className="w-full border border-edge bg-sheet px-2 py-1.5"
          value={settings.tax_code ?? ''}
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
    </div>
  )
}
