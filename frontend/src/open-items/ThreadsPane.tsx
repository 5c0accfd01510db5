import { useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useClient } from '../frame/queries'
import { amountWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { type Deed, Prepared } from './Prepared'
import { threadsOptions, type Which } from './queries'
import { Weave } from './Weave'

interface ThreadsPaneProps {
  which: Which
  party: string | null
  at: string
}

/** One party's debits and credits with what settles what; loose ends are tied by dragging or by keys. */
export function ThreadsPane({ which, party, at }: ThreadsPaneProps) {
  const client = useClient()
  const [everything, showEverything] = useState(false)
  const { data } = useSuspenseQuery(threadsOptions(client.code, which, party, at, everything))
  const [picked, pick] = useState<string | null>(null)
  const [deed, prepare] = useState<Deed | null>(null)
  /** Two ends: the money is set against the paper, whichever was taken first. */
  function tie(one: string, other: string) {
    pick(null)
    prepare({ route: 'allocate', transaction: one, items: [other], settings: {} })
  }
  useKeys('Threads', [
    { keys: 'Escape', does: 'let go', run: () => (deed ? prepare(null) : pick(null)) },
    { keys: 'e', does: 'show settled items too', run: () => showEverything(!everything) },
  ])
  return (
    <article aria-label={`Threads of ${data.name}`} className="space-y-3">
      <header className="flex items-baseline gap-4">
        <h2 className="text-[19px] leading-7 font-semibold">{data.name}</h2>
        <p className="text-quiet">balance {amountWords(data.balance)}</p>
        {(data.settled > 0 || everything) && (
          <Button
            look="bare"
            className="ml-auto py-0!"
            hint="e"
            onClick={() => showEverything(!everything)}
          >
            {everything ? 'Only what is open' : `And ${data.settled} settled`}
          </Button>
        )}
      </header>
      <p className="text-quiet">
        {picked
          ? `${picked} is taken: choose what it settles on the other side, or Escape to let go.`
          : 'Drag a loose end to what it settles, or take it with Enter and choose the other with Enter.'}
      </p>
      <Weave
        threads={data}
        picked={picked}
        onPick={pick}
        onTie={tie}
        onTakeOff={(transaction, allocation) =>
          prepare({
            route: 'move-allocation',
            transaction,
            items: [],
            settings: { free: allocation },
          })
        }
      />
      {deed && <Prepared key={JSON.stringify(deed)} deed={deed} onDone={() => prepare(null)} />}
    </article>
  )
}
