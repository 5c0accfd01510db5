import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import type { Account } from './queries'

/** Codes by time from a device of one's own: setting them up, and taking them away. */
export function SecondFactor({ account }: { account: Account }) {
  const queries = useQueryClient()
  const [recovery, setRecovery] = useState<string[] | null>(null)
  const offering = useMutation({ mutationFn: () => answered(api.POST('/api/account/factor')) })
  const dropping = useMutation({
    mutationFn: () => answered(api.DELETE('/api/account/factor')),
    onSuccess: () => queries.invalidateQueries(),
  })
  return (
    <section aria-label="Second factor" className="space-y-3">
      <h2 className="mb-1 flex items-baseline border-b border-ink text-[17px] font-semibold">
        <span className="grow">Second factor</span>
        <span
          className={`text-[14px] font-normal ${account.has_factor ? 'text-moss' : 'text-quiet'}`}
        >
          {account.has_factor ? 'set up' : account.demanded ? 'needed, not set up' : 'not set up'}
        </span>
      </h2>
      {recovery ? (
        <Recovery codes={recovery} onKept={() => setRecovery(null)} />
      ) : offering.data ? (
        <SetUp
          offered={offering.data}
          onSet={(codes) => {
            offering.reset()
            setRecovery(codes)
            queries.invalidateQueries()
          }}
        />
      ) : (
        <div className="flex items-baseline gap-4">
          <p className="grow text-quiet">
            A code of six figures that a device of yours shows is asked for besides the password.
          </p>
          <Button disabled={offering.isPending} onClick={() => offering.mutate()}>
            {account.has_factor ? 'Set up another' : 'Set it up'}
          </Button>
          {account.has_factor && !account.demanded && (
            <Button look="bare" disabled={dropping.isPending} onClick={() => dropping.mutate()}>
              Take it away
            </Button>
          )}
        </div>
      )}
      <ProblemNote problem={offering.error ?? dropping.error} />
    </section>
  )
}

interface SetUpProps {
  offered: { secret: string; drawn: string }
  onSet: (codes: string[]) => void
}

function SetUp({ offered, onSet }: SetUpProps) {
  const [code, setCode] = useState('')
  const setting = useMutation({
    mutationFn: () =>
      answered(api.PUT('/api/account/factor', { body: { secret: offered.secret, code } })),
    onSuccess: (found) => onSet(found.codes),
  })
  return (
    <form
      className="flex gap-6"
      onSubmit={(event) => {
        event.preventDefault()
        setting.mutate()
      }}
    >
      <img
        alt="The secret, to be read by a device"
        className="size-52 border border-edge bg-white"
        src={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(offered.drawn)}`}
      />
      <div className="space-y-3">
        <p>Have your device read this picture, or key the secret into it:</p>
        <p className="font-semibold tracking-wide">{offered.secret.match(/.{1,4}/g)?.join(' ')}</p>
        <TextField
          label="The six figures that it shows"
          inputMode="numeric"
          autoComplete="one-time-code"
          autoFocus
          value={code}
          onChange={(event) => setCode(event.target.value)}
        />
        <ProblemNote problem={setting.error} />
        <Button look="post" type="submit" disabled={!code.trim() || setting.isPending}>
          It shows these
        </Button>
      </div>
    </form>
  )
}

function Recovery({ codes, onKept }: { codes: string[]; onKept: () => void }) {
  return (
    <div className="space-y-3 border-l-4 border-cork bg-sheet px-3 py-2">
      <p>
        <strong>Keep these where your device is not.</strong> Each lets you in once without it; they
        are shown this once.
      </p>
      <ul className="grid grid-cols-2 gap-x-8 font-semibold tracking-wide">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </ul>
      <Button onClick={onKept}>They are kept</Button>
    </div>
  )
}
