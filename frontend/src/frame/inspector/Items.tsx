import { useQuery } from '@tanstack/react-query'
import { PartyPicker } from '../../ledger/AccountPicker'
import type { SlipFacts } from '../../ledger/Slip'
import { amountWords, dayWords } from '../../ledger/words'
import { chartOptions, useClient } from '../queries'
import { useSpan } from '../useSpan'
import { partyOptions } from './PartyHistory'

interface ItemsProps {
  slip: SlipFacts
  party: string
  withSums: boolean
  sums: Record<string, string>
  onParty: (code: string) => void
  onSums: (sums: Record<string, string>) => void
}

/** The open items of a party, to be chosen; a sum may be given for a part of one. */
export function Items({ slip, party, withSums, sums, onParty, onSums }: ItemsProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const { data } = useQuery({
    ...partyOptions(client.code, party, span.first, span.last),
    enabled: party !== '',
  })
  const own = data?.items.find((item) => item.transaction === slip.id)
  const others = (data?.items ?? []).filter(
    (item) =>
      item.transaction !== slip.id &&
      (!own || item.open.startsWith('-') !== own.open.startsWith('-')),
  )
  return (
    <div>
      {!withSums && (
        <div className="mb-2 flex items-center gap-2">
          <span className="text-quiet">Whose items</span>
          <div className="w-80 border border-edge bg-sheet">
            <PartyPicker
              label="Party whose items it settles"
              value={party}
              options={chart?.parties ?? []}
              onPick={onParty}
            />
          </div>
        </div>
      )}
      {party !== '' && data && others.length === 0 && (
        <p className="text-quiet">{data.ledger.name} has nothing open that it could settle.</p>
      )}
      {others.map((item) => {
        const name = item.transaction
        const chosen = name in sums
        return (
          <div key={name} className="flex h-8 items-center gap-3 border-b border-rule">
            <label className="flex grow items-center gap-2">
              <input
                type="checkbox"
                checked={chosen}
                onChange={() => {
                  const { [name]: _, ...rest } = sums
                  onSums(chosen ? rest : { ...sums, [name]: '' })
                }}
              />
              {item.reference ?? name}, {dayWords(item.date)}
            </label>
            <span>{amountWords(item.open.replace('-', ''))} open</span>
            {withSums && (
              <input
                aria-label={`Part of ${item.reference ?? name} to allocate`}
                className="w-28 border border-edge bg-sheet px-2 py-0.5 text-right"
                placeholder="all of it"
                disabled={!chosen}
                value={sums[name] ?? ''}
                onChange={(event) => onSums({ ...sums, [name]: event.target.value })}
              />
            )}
          </div>
        )
      })}
    </div>
  )
}
