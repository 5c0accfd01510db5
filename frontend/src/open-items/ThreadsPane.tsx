import { useQuery, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { useClient } from '../frame/queries'
import { useInspect } from '../ledger/inspect'
import { amountWords, isNil } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { type Deed, Prepared } from './Prepared'
import { type End, type Taken, threadsOptions, type Which } from './queries'
import { Weave } from './Weave'

interface ThreadsPaneProps {
  which: Which
  party: string | null
  at: string
  picked: Taken | null
  onPick: (taken: Taken | null) => void
}

/** One party's debits and credits with what settles what; loose ends are tied by dragging or by keys. */
export function ThreadsPane({ which, party, at, picked, onPick }: ThreadsPaneProps) {
  const client = useClient()
  const [everything, showEverything] = useState(false)
  const { data } = useSuspenseQuery(threadsOptions(client.code, which, party, at, everything))
  const [deed, prepare] = useState<Deed | null>(null)
  const from = picked?.transaction
  /** Two loose ends of one party settle each other; what is another's, or settled, is moved here. */
  function tie(one: string, other: string) {
    const moves = picked !== null && (picked.party !== party || !picked.loose)
    onPick(null)
    prepare({
      route: moves ? 'move-allocation' : 'allocate',
      transaction: one,
      items: [other],
      settings: {},
    })
  }
  function take(end: End | null) {
    if (!end) return onPick(null)
    const side = data.debits.includes(end) ? 'debit' : 'credit'
    onPick({ transaction: end.transaction, side, party, loose: !isNil(end.left) })
  }
  useKeys('Threads', [
    { keys: 'Escape', does: 'let go', run: () => (deed ? prepare(null) : onPick(null)) },
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
        {from
          ? `${from} is taken: choose what it settles on the other side, here or at another party, or Escape to let go.`
          : 'Drag an end to what it settles, or onto the party that it belongs to; or take it with Enter and choose the other with Enter.'}
      </p>
      {picked && <OtherWays taken={picked} />}
      <Weave
        threads={data}
        picked={picked}
        onPick={take}
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
      {deed && (
        <Prepared
          key={JSON.stringify(deed)}
          deed={deed}
          // The next may be prepared already while this one is being posted: that one stays.
          onDone={() => prepare((now) => (now === deed ? null : now))}
        />
      )}
    </article>
  )
}

/** Asking the client is none of the ways to put it right. */
const ASK = { route: 'ask', short: 'Ask the client' }

/** What else can be done with the end that is taken: by the ways that fit it. */
function OtherWays({ taken }: { taken: Taken }) {
  const client = useClient()
  const inspect = useInspect()
  const { data } = useQuery({
    queryKey: ['client', client.code, 'transaction', taken.transaction],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/transactions/{transaction}', {
          params: { path: { client: client.code, transaction: taken.transaction } },
        }),
      ),
  })
  if (!data) return null
  return (
    <p className="flex flex-wrap gap-x-4">
      <span className="text-quiet">Or:</span>
      {[...data.by_hand.filter((way) => way.beside_items), ASK].map((way) => (
        <button
          key={way.route}
          type="button"
          className="text-tide hover:underline"
          onClick={() => inspect({ kind: 'transaction', name: taken.transaction }, way.route)}
        >
          {way.short}
        </button>
      ))}
    </p>
  )
}
