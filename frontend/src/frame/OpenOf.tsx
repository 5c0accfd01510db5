import { useQuery } from '@tanstack/react-query'
import { amountWords, shortDayWords } from '../ledger/words'
import { partyOptions } from './inspector/PartyHistory'
import { useClient } from './queries'
import { useSpan } from './useSpan'

interface OpenOfProps {
  party: string
  comesIn: boolean
  items: string
  onChoose: (items: string) => void
}

/** What is open of the party, to be settled by the money: what is more stays on their account. */
export function OpenOf({ party, comesIn, items, onChoose }: OpenOfProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useQuery({
    ...partyOptions(client.code, party, span.first, span.last),
    retry: false,
  })
  const chosen = items ? items.split(',') : []
  const open = (data?.items ?? []).filter((item) => item.open.startsWith('-') !== comesIn)
  if (open.length === 0) return null
  function toggle(name: string) {
    const next = chosen.includes(name)
      ? chosen.filter((other) => other !== name)
      : [...chosen, name]
    onChoose(next.join(','))
  }
  return (
    <fieldset className="max-h-40 overflow-auto border-l-2 border-rule pl-3">
      <legend className="sr-only">What it settles</legend>
      {open.map((item) => (
        <label key={item.transaction} className="flex items-baseline gap-3">
          <input
            type="checkbox"
            checked={chosen.includes(item.transaction)}
            onChange={() => toggle(item.transaction)}
          />
          <span className="w-14 text-quiet">{shortDayWords(item.date)}</span>
          <span className="grow">settles {item.reference ?? item.transaction}</span>
          <span className="text-right">{amountWords(item.open.replace('-', ''))} open</span>
        </label>
      ))}
    </fieldset>
  )
}
