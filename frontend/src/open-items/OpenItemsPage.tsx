import { useSuspenseQuery } from '@tanstack/react-query'
import { Suspense, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { useClient } from '../frame/queries'
import { useSpan, useSpanSearch } from '../frame/useSpan'
import { ControlProof } from '../ledger/ControlProof'
import { longDayWords } from '../ledger/words'
import { useKeys } from '../ui/keys'
import { Waiting } from '../ui/Waiting'
import { Parties } from './Parties'
import { openItemsOptions, type Taken, type Which } from './queries'
import { ThreadsPane } from './ThreadsPane'

const NAMES: Record<Which, string> = {
  receivables: 'What customers owe',
  payables: 'What is owed to suppliers',
}

/** Parties with their ages beside the control account; a party opens into what settles what. */
export function OpenItemsPage() {
  const client = useClient()
  const [span] = useSpan()
  const navigate = useNavigate()
  const search = useSpanSearch()
  const [params, setParams] = useSearchParams()
  const { which: named } = useParams()
  const which: Which = named === 'payables' ? 'payables' : 'receivables'
  const other: Which = which === 'payables' ? 'receivables' : 'payables'
  const { data } = useSuspenseQuery(openItemsOptions(client.code, which, span.last))
  const [picked, pick] = useState<Taken | null>(null)
  const wanted = params.get('party')
  // A party stays when the last of it is settled, until another is opened.
  const first = data.parties[0]
  const party: string | null | undefined = wanted === null ? first?.party : wanted || null
  function open(code: string | null) {
    setParams(
      (old) => {
        const next = new URLSearchParams(old)
        next.set('party', code ?? '')
        return next
      },
      { replace: true },
    )
  }
  function turn() {
    navigate(`/clients/${client.code}/open-items/${other}${search}`)
  }
  useKeys('Open items', [{ keys: 'v', does: NAMES[other].toLowerCase(), run: turn }])
  return (
    <section aria-label="Open items" className="grid min-h-0 flex-1 grid-cols-[500px_1fr]">
      <div className="flex min-h-0 flex-col border-r border-edge px-5 pt-3">
        <header className="mb-2">
          <h1 className="text-[21px] leading-7 font-semibold">{NAMES[which]}</h1>
          <p className="flex gap-4 text-quiet">
            as at {longDayWords(span.last)}
            <button type="button" className="ml-auto text-tide hover:underline" onClick={turn}>
              {NAMES[other]} v
            </button>
          </p>
          <ControlProof proof={data.proof} />
        </header>
        <Parties
          items={data}
          which={which}
          selected={party ?? null}
          onOpen={open}
          onBring={(code) => code !== party && open(code)}
        />
      </div>
      <div className="min-h-0 overflow-auto px-5 pt-3 pb-8">
        {party !== undefined && (
          <Suspense fallback={<Waiting />}>
            <ThreadsPane
              key={`${which} ${party}`}
              which={which}
              party={party}
              at={span.last}
              picked={picked}
              onPick={pick}
            />
          </Suspense>
        )}
      </div>
    </section>
  )
}
