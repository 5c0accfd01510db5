import { amountWords } from '../../ledger/words'
import { useClient } from '../queries'

const CHOICES = [
  ['by-materiality', 'as materiality says'],
  ['this-year', 'to this year’s profit'],
  ['prior-year', 'to equity, as a prior-year correction'],
] as const

interface ProfitPartChoiceProps {
  value: string
  onChoose: (value: string) => void
}

/** Which year bears the profit part of a correction to an earlier one. */
export function ProfitPartChoice({ value, onChoose }: ProfitPartChoiceProps) {
  const client = useClient()
  return (
    <fieldset className="flex flex-wrap items-baseline gap-x-5 bg-sheet px-3 py-1.5">
      <legend className="sr-only">Where the profit part goes</legend>
      <span className="font-semibold">The profit part goes</span>
      {CHOICES.map(([name, says]) => (
        <label key={name} className="flex items-baseline gap-1.5">
          <input
            type="radio"
            name="profit-part"
            checked={value === name}
            onChange={() => onChoose(name)}
          />
          {says}
          {name === 'by-materiality' && (
            <span className="text-quiet">({amountWords(client.materiality)})</span>
          )}
        </label>
      ))}
    </fieldset>
  )
}
