import { useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { AskFields, type Said } from '../frame/asks/AskFields'
import { PostPanel } from '../frame/PostPanel'
import { useClient } from '../frame/queries'
import { useAct } from '../frame/useAct'
import { amountWords, dayWords } from '../ledger/words'
import { Button } from '../ui/Button'

type Fact = Schemas['FactAnswer']

/** What the practice answers for about the client: newer books change nothing of it, a partner does. */
export function Facts() {
  const client = useClient()
  const [changes, change] = useState(false)
  const { data } = useSuspenseQuery({
    queryKey: ['client', client.code, 'facts'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/facts', { params: { path: { client: client.code } } }),
      ),
  })
  return (
    <section aria-label="What the practice answers for" className="max-w-3xl">
      <h2 className="mb-1 flex items-baseline gap-4 text-[17px] font-semibold">
        What the practice answers for
        {data.may_change && (
          <Button look="bare" className="py-0!" onClick={() => change(!changes)}>
            {changes ? 'Leave it so' : 'Change it'}
          </Button>
        )}
      </h2>
      {changes ? (
        <ChangeFacts facts={data.facts} onDone={() => change(false)} />
      ) : (
        <dl className="grid grid-cols-[220px_1fr] border-t border-ink">
          {data.facts.map((fact) => (
            <div
              key={fact.ask.name}
              className="col-span-2 grid grid-cols-subgrid border-b border-rule py-1"
            >
              <dt className="text-quiet">{fact.ask.label}</dt>
              <dd>{valueWords(fact)}</dd>
            </div>
          ))}
        </dl>
      )}
      <p className="mt-1 text-quiet">
        Newer books may say otherwise: it is told then, and this stays.
      </p>
    </section>
  )
}

function valueWords({ ask, value }: Fact): string {
  if (value === null) return 'not set'
  if (ask.kind === 'amount') return amountWords(value)
  if (ask.kind === 'day') return dayWords(value.slice(0, 10))
  return ask.choices.find((choice) => choice.value === value)?.says ?? value
}

function ChangeFacts({ facts, onDone }: { facts: Fact[]; onDone: () => void }) {
  const [said, say] = useState<Said>({})
  const now = Object.fromEntries(facts.map((fact) => [fact.ask.name, fact.ask.value]))
  const changed = Object.fromEntries(
    Object.entries(said)
      .filter(([name, value]) => value !== now[name])
      .map(([name, value]) => [name, value || null]),
  )
  const acting = useAct({
    act: Object.keys(changed).length > 0 ? { act: 'set-facts', facts: changed } : null,
    keepsLast: true,
    onDone,
  })
  return (
    <div className="space-y-3 border-t border-ink pt-2">
      <AskFields
        asks={facts.map((fact) => fact.ask)}
        said={{ ...now, ...said }}
        onSay={(name, value) => say({ ...said, [name]: value })}
        focuses
      />
      <PostPanel label="Set it so" acting={acting} />
    </div>
  )
}
