import { useQuery } from '@tanstack/react-query'
import { AccountPicker } from '../../ledger/AccountPicker'
import { TextField } from '../../ui/TextField'
import type { Ask } from '../acts'
import { DayField } from '../DayField'
import { chartOptions, useClient } from '../queries'
import { useSpan } from '../useSpan'

export type Said = Record<string, string>

interface AskFieldsProps {
  asks: Ask[]
  said: Said
  onSay: (name: string, value: string) => void
  /** The cursor begins in the first of them that is keyed. */
  focuses?: boolean
}

/** What can be keyed in one field each; what needs a form of its own is drawn by whoever knows of it. */
const IN_ONE_FIELD = ['text', 'amount', 'percent', 'day', 'account', 'choice']

/** What is asked for about an act, drawn from its description. */
export function AskFields({ asks, said, onSay, focuses = false }: AskFieldsProps) {
  const plain = asks.filter((ask) => IN_ONE_FIELD.includes(ask.kind))
  if (plain.length === 0) return null
  return (
    <div className={plain.length > 1 ? 'grid grid-cols-[160px_1fr] gap-3' : 'w-72'}>
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
      inputMode={ask.kind === 'text' ? undefined : 'decimal'}
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
