import { useMutation, useQueryClient, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { PlainPage } from '../frame/PlainPage'
import { sessionOptions } from '../frame/session'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { accountOptions } from './queries'
import { SecondFactor } from './SecondFactor'

/** One's own account: second factor, password, and where one is signed in. */
export function AccountPage() {
  const { data: account } = useSuspenseQuery(accountOptions)
  const { data: session } = useSuspenseQuery(sessionOptions)
  return (
    <PlainPage title={`${account.name}, ${account.role}`}>
      <div className="max-w-2xl space-y-8">
        {session.needs_factor && (
          <p role="status" className="border-l-4 border-rust bg-sheet px-3 py-2">
            <strong>Everybody in this practice needs a second factor.</strong> Set yours up here;
            until then nothing else opens.
          </p>
        )}
        <SecondFactor account={account} />
        <Password />
        <Sessions />
        <Token />
      </div>
    </PlainPage>
  )
}

function Password() {
  const tell = useNotice()
  const queries = useQueryClient()
  const [old, setOld] = useState('')
  const [fresh, setFresh] = useState('')
  const changing = useMutation({
    mutationFn: () => answered(api.PUT('/api/account/password', { body: { old, new: fresh } })),
    onSuccess: async () => {
      setOld('')
      setFresh('')
      tell({ text: 'Your password is changed, and every session ended: sign in with the new one.' })
      await queries.invalidateQueries({ queryKey: sessionOptions.queryKey })
    },
  })
  return (
    <section aria-label="Password">
      <h2 className="mb-1 border-b border-ink text-[17px] font-semibold">Password</h2>
      <form
        className="grid grid-cols-[1fr_1fr_auto] items-end gap-3 pt-2"
        onSubmit={(event) => {
          event.preventDefault()
          changing.mutate()
        }}
      >
        <TextField
          label="As it is"
          type="password"
          autoComplete="current-password"
          value={old}
          onChange={(event) => setOld(event.target.value)}
        />
        <TextField
          label="The new one, 12 signs or more"
          type="password"
          autoComplete="new-password"
          value={fresh}
          onChange={(event) => setFresh(event.target.value)}
        />
        <Button type="submit" disabled={!old || !fresh || changing.isPending}>
          Change it
        </Button>
      </form>
      <ProblemNote problem={changing.error} className="mt-2" />
      <p className="mt-1 text-quiet">It ends every session of yours, this one too.</p>
    </section>
  )
}

function Sessions() {
  const queries = useQueryClient()
  const { data: account } = useSuspenseQuery(accountOptions)
  const ending = useMutation({
    mutationFn: (session: string) =>
      answered(api.DELETE('/api/account/sessions/{session}', { params: { path: { session } } })),
    onSuccess: () => queries.invalidateQueries(),
  })
  return (
    <section aria-label="Where you are signed in">
      <h2 className="mb-1 border-b border-ink text-[17px] font-semibold">
        Where you are signed in
      </h2>
      <ul>
        {account.sessions.map((row) => (
          <li key={row.id} className="flex items-baseline gap-4 border-b border-rule py-1">
            <span className="w-52 shrink-0">
              since {dayWords(row.made_at)} {row.made_at.slice(11, 16)}
            </span>
            <span className="w-32 text-quiet">{row.address}</span>
            <span className="min-w-0 grow truncate text-quiet" title={row.agent}>
              {row.agent}
            </span>
            {row.own ? (
              <span className="whitespace-nowrap text-moss">this one</span>
            ) : (
              <Button look="bare" className="py-0!" onClick={() => ending.mutate(row.id)}>
                End it
              </Button>
            )}
          </li>
        ))}
      </ul>
      <ProblemNote problem={ending.error} />
      <p className="mt-1 text-quiet">
        A session ends by itself after thirty minutes without a sign of life; what was typed is kept
        on the page.
      </p>
    </section>
  )
}

function Token() {
  const queries = useQueryClient()
  const { data: account } = useSuspenseQuery(accountOptions)
  const making = useMutation({
    mutationFn: () => answered(api.POST('/api/account/token')),
    onSuccess: () => queries.invalidateQueries({ queryKey: accountOptions.queryKey }),
  })
  const ending = useMutation({
    mutationFn: () => answered(api.DELETE('/api/account/token')),
    onSuccess: () => {
      making.reset()
      return queries.invalidateQueries({ queryKey: accountOptions.queryKey })
    },
  })
  return (
    <section aria-label="On the command line">
      <h2 className="mb-1 border-b border-ink text-[17px] font-semibold">On the command line</h2>
      <p className="text-quiet">
        {account.token_since
          ? `You have a token since ${dayWords(account.token_since)}: with it in CORKPOST_TOKEN a command is done, and goes on record, as yours.`
          : 'A token in CORKPOST_TOKEN proves there that it is you.'}
      </p>
      {making.data && (
        <p role="status" className="my-2 border-l-4 border-cork bg-sheet px-3 py-2">
          Keep it now, it is shown this once:
          <code className="block break-all select-all">{making.data.token}</code>
        </p>
      )}
      <div className="mt-2 flex gap-3">
        <Button onClick={() => making.mutate()} disabled={making.isPending}>
          {account.token_since ? 'Make another in its place' : 'Make a token'}
        </Button>
        {account.token_since && (
          <Button look="bare" onClick={() => ending.mutate()} disabled={ending.isPending}>
            End it
          </Button>
        )}
      </div>
      <ProblemNote problem={making.error ?? ending.error} />
    </section>
  )
}
