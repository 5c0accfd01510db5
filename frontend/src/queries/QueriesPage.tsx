import { useMutation, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { useFirstRow } from '../ui/focus'
import { useKeys } from '../ui/keys'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { moveInRows } from '../ui/rows'
import { Contact } from './Contact'
import { Letter } from './Letter'
import { QueryRow } from './QueryRow'
import { BANDS, boardOptions } from './queries'
import { Unsorted } from './Unsorted'

/** Questions to the client with their entries, the answers beside them. */
export function QueriesPage() {
  const client = useClient()
  const list = useFirstRow<HTMLElement>()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const { data: board } = useSuspenseQuery(boardOptions(client.code))
  const [left, leave] = useState<number[]>([])
  const [sending, send] = useState<number[] | null>(null)
  const toSend = board.queries
    .filter((listed) => listed.state === 'to send' && !left.includes(listed.number))
    .map((listed) => listed.number)
  const looking = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/queries/looking', {
          params: { path: { client: client.code } },
          body: {},
        }),
      ),
    onSuccess: async ({ found }) => {
      await refresh()
      tell({ text: found === 0 ? 'No answer has come.' : `${counted(found, 'answer')} came.` })
    },
  })
  useKeys('Queries', [
    { keys: 's', does: 'read and send the questions', run: () => toSend.length && send(toSend) },
    { keys: 'l', does: 'look for answers', run: () => looking.mutate() },
  ])
  return (
    <section
      ref={list}
      aria-label="Questions"
      className="min-h-0 flex-1 overflow-auto px-5 pt-3 pb-8"
      onKeyDown={moveInRows}
    >
      <header className="flex flex-wrap items-baseline gap-x-4 gap-y-2">
        <h1 className="text-[21px] leading-7 font-semibold">Questions to the client</h1>
        <Contact contact={board.contact} />
        <span className="ml-auto flex items-center gap-2">
          {board.may_send && (
            <Button hint="l" disabled={looking.isPending} onClick={() => looking.mutate()}>
              {looking.isPending ? 'Looking…' : 'Look for answers'}
            </Button>
          )}
          <Button
            look="post"
            hint="s"
            disabled={toSend.length === 0 || board.contact === null}
            onClick={() => send(toSend)}
          >
            {toSend.length === 0 ? 'Nothing to send' : `Read and send ${toSend.length}`}
          </Button>
        </span>
      </header>
      <ProblemNote problem={looking.error} className="mt-2" />
      {!board.may_send && (
        <p className="mt-2 text-quiet">
          This practice has no mail server yet: questions are gathered here, and answers can be
          written down by hand. The README says how to set one.
        </p>
      )}
      <Unsorted answers={board.unsorted} queries={board.queries} />
      {board.queries.length === 0 && (
        <p className="mt-6 max-w-2xl">
          Nothing was asked yet. Take the route “Ask the client” on a review point, or “Ask the
          client about it” on any entry: the questions gather here and go out as one message, and
          the answers come back to their points.
        </p>
      )}
      {BANDS.map(({ state, title }) => {
        const rows = board.queries.filter((listed) => listed.state === state)
        if (rows.length === 0) return null
        return (
          <section key={state} aria-label={title} className="mt-5">
            <h2 className="border-b border-ink pb-1 text-[17px] font-semibold">
              {title} <span className="font-normal text-quiet">{rows.length}</span>
            </h2>
            <ul>
              {rows.map((query) => (
                <QueryRow
                  key={query.number}
                  query={query}
                  goes={state === 'to send' ? !left.includes(query.number) : null}
                  onGoes={(goes) =>
                    leave(
                      goes
                        ? left.filter((number) => number !== query.number)
                        : [...left, query.number],
                    )
                  }
                  onSendAgain={() => send([query.number])}
                />
              ))}
            </ul>
          </section>
        )
      })}
      {sending && (
        <Dialog title="As the client will read it" onClose={() => send(null)}>
          <Letter numbers={sending} onDone={() => send(null)} />
        </Dialog>
      )}
    </section>
  )
}
