import { useQuery } from '@tanstack/react-query'
import { AccountPicker } from '../../ledger/AccountPicker'
import { TextField } from '../../ui/TextField'
import type { Ask } from '../acts'
import { DayField } from '../DayField'
import { PartyField } from '../PartyField'
import { assetsOptions, chartOptions, useClient } from '../queries'
import { useSpan } from '../useSpan'
import { SumsField } from './SumsField'

export type Said = Record<string, string>

interface AskFieldsProps {
  asks: Ask[]
  said: Said
  onSay: (name: string, value: string) => void
  /** The cursor begins in the first of them that is keyed. */
  focuses?: boolean
}

/** What can be keyed in one field each; what needs a form of its own is drawn by whoever knows of it. */
const IN_ONE_FIELD = [
  ...['text', 'amount', 'percent', 'day', 'account', 'choice'],
  ...['party', 'month', 'asset', 'sums', 'table'],
]

const GRIDS = [
  '',
  'w-72',
  'grid grid-cols-[160px_1fr] gap-3',
  'grid grid-cols-3 items-end gap-x-4 gap-y-3',
]

/** What is asked for about an act, drawn from its description. */
export function AskFields({ asks, said, onSay, focuses = false }: AskFieldsProps) {
  const plain = asks.filter((ask) => IN_ONE_FIELD.includes(ask.kind))
  if (plain.length === 0) return null
  return (
    <div className={GRIDS[Math.min(plain.length, 3)]}>
      {plain.map((ask, place) => (
        <AskField
          key={ask.name}
          ask={ask}
          value={said[ask.name] ?? ''}
          focuses={focuses && place === 0}
          onSay={(value) => onSay(ask.name, value)}
        />
      ))}
    </div>
  )
}

interface AskFieldProps {
  ask: Ask
  value: string
  focuses: boolean
  onSay: (value: string) => void
}

function AskField({ ask, value, focuses, onSay }: AskFieldProps) {
  if (ask.kind === 'day') return <DayField label={ask.label} value={value} onDay={onSay} />
  if (ask.kind === 'sums') return <SumsField label={ask.label} value={value} onSay={onSay} />
  if (ask.kind === 'table') return <TableField label={ask.label} value={value} onSay={onSay} />
  if (ask.kind === 'asset') return <AssetField label={ask.label} value={value} onSay={onSay} />
  if (ask.kind === 'party') {
    return (
      <div>
        <span className="block text-quiet">{ask.label}</span>
        <div className="max-w-96 border border-edge bg-sheet">
          <PartyField label={ask.label} value={value} onPick={onSay} />
        </div>
      </div>
    )
  }
  if (ask.kind === 'account') return <AccountField label={ask.label} value={value} onSay={onSay} />
  if (ask.kind === 'choice') {
    return (
      <label>
        <span className="block text-quiet">{ask.label}</span>
        <select
          className="w-full border border-edge bg-sheet px-2 py-1.5"
          value={value}
          onChange={(event) => onSay(event.target.value)}
        >
          {ask.choices.map((choice) => (
            <option key={choice.value} value={choice.value}>
              {choice.says}
            </option>
          ))}
        </select>
      </label>
    )
  }
  return (
    <TextField
      label={ask.label}
      autoFocus={focuses}
      inputMode={ask.kind === 'amount' || ask.kind === 'percent' ? 'decimal' : undefined}
      placeholder={ask.kind === 'month' ? '2026-10' : undefined}
      value={value}
      onChange={(event) => onSay(event.target.value)}
    />
  )
}

function AccountField({
  label,
  value,
  onSay,
}: Pick<AskFieldProps, 'value' | 'onSay'> & { label: string }) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  return (
    <div>
      <span className="block text-quiet">{label}</span>
      <div className="max-w-96 border border-edge bg-sheet">
        <AccountPicker label={label} value={value} options={chart?.accounts ?? []} onPick={onSay} />
      </div>
    </div>
  )
}

function AssetField({
  label,
  value,
  onSay,
}: Pick<AskFieldProps, 'value' | 'onSay'> & { label: string }) {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useQuery(assetsOptions(client.code, span.last))
  const assets = data?.assets.filter((asset) => asset.disposed === null) ?? []
  return (
    <label>
      <span className="block text-quiet">{label}</span>
      <select
        className="w-full max-w-96 border border-edge bg-sheet px-2 py-1.5"
        value={value}
        onChange={(event) => onSay(event.target.value)}
      >
        <option value="">{assets.length ? '' : 'the register is empty'}</option>
        {assets.map((asset) => (
          <option key={asset.asset} value={asset.asset}>
            {asset.asset} {asset.name}
          </option>
        ))}
      </select>
    </label>
  )
}

function TableField({
  label,
  value,
  onSay,
}: Pick<AskFieldProps, 'value' | 'onSay'> & { label: string }) {
  return (
    <label className="col-span-full">
      <span className="block text-quiet">{label}</span>
      <input
        type="file"
        accept=".csv,text/csv"
        onChange={async (event) => {
          const file = event.target.files?.[0]
          if (file) onSay(await file.text())
        }}
      />
      {value && <span className="text-quiet">{value.trim().split('\n').length - 1} rows</span>}
    </label>
  )
}
