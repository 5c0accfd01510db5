import { useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answered, api } from '../api/client'
import { useClient } from '../frame/queries'
import { useSpan, useSpanSearch } from '../frame/useSpan'
import { amountWords, longDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { useKeys } from '../ui/keys'
import { Account } from './Account'
import { OwnPocket } from './OwnPocket'
import { Sharing } from './Sharing'

const WHERE: Record<string, string> = {
  'sole-trader': 'What an owner takes is drawings, what they put in is capital introduced.',
  partnership: "What a partner takes and puts in stands on that partner's current account.",
  company: "What a director takes and puts in stands on the owner's loan account.",
  association: 'Nobody may take its money; what members paid for it is owed to them.',
}

/** Each owner's account as a statement with its line, and what looks private but is not booked so. */
export function OwnersPage() {
  const client = useClient()
  const [span] = useSpan()
  const [paying, pay] = useState(false)
  const [sharing, share] = useState(false)
  const { data } = useSuspenseQuery({
    queryKey: ['client', client.code, 'owners', span.first, span.last],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/owners', {
          params: { path: { client: client.code }, query: { first: span.first, last: span.last } },
        }),
      ),
  })
  const partners = data.entity === 'partnership'
  useKeys('Owners', [
    { keys: 'p', does: 'a cost paid from their own pocket', run: () => pay(true) },
    ...(partners ? [{ keys: 's', does: 'share the profit', run: () => share(true) }] : []),
  ])
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[1fr_330px] gap-8 overflow-auto px-5 pt-3 pb-8">
      <section aria-label="Owners' accounts" className="space-y-8">
        <header className="flex items-baseline gap-4">
          <h1 className="text-[21px] leading-7 font-semibold">Owners</h1>
          <p className="text-quiet">
            {longDayWords(span.first)} to {longDayWords(span.last)}. {WHERE[data.entity]}
          </p>
        </header>
        {data.accounts.length === 0 && (
          <p className="text-quiet">
            No account of an owner moves in these months. Give an account the role of an owner's
            account on the Books page, and its statement stands here.
          </p>
        )}
        {data.accounts.map((account) => (
          <Account key={account.account} account={account} />
        ))}
      </section>
      <aside aria-label="What looks private" className="space-y-3">
        <Button look="post" hint="p" onClick={() => pay(true)}>
          Paid from their own pocket
        </Button>
        {partners && (
          <Button hint="s" onClick={() => share(true)}>
            Share the profit
          </Button>
        )}
        <LooksPrivate />
      </aside>
      {sharing && (
        <Dialog title="The profit, shared among the partners" onClose={() => share(false)}>
          <Sharing onDone={() => share(false)} />
        </Dialog>
      )}
      {paying && (
        <Dialog title="Paid from the owner's own pocket" onClose={() => pay(false)}>
          <OwnPocket onDone={() => pay(false)} />
        </Dialog>
      )}
    </div>
  )
}

/** The open points about owners' money, each leading to its case. */
function LooksPrivate() {
  const client = useClient()
  const search = useSpanSearch()
  const { data } = useSuspenseQuery({
    queryKey: ['client', client.code, 'points'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/points', { params: { path: { client: client.code } } }),
      ),
  })
  const points = data.points.filter(
    (point) => point.check.startsWith('owner-') && point.state === 'open',
  )
  return (
    <section aria-label="Looks private but is not booked so">
      <h2 className="mb-1 text-[17px] font-semibold">To be looked at</h2>
      {points.length === 0 ? (
        <p className="text-quiet">
          Nothing: what looks like an owner's own is on an owner's account.
        </p>
      ) : (
        <ul className="border-t border-ink">
          {points.map((point) => (
            <li key={point.id} className="border-b border-rule py-1.5">
              <Link
                to={`/clients/${client.code}/review/${point.id}${search}`}
                className="flex items-baseline gap-3 hover:text-tide"
              >
                <span className="min-w-0 grow">
                  {point.short}
                  <span className="block text-quiet">{point.because[0]}</span>
                </span>
                <span>{amountWords(point.amount)}</span>
              </Link>
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}
