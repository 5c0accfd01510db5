import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { usePerson } from '../frame/session'
import { longDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { TextArea, TextField } from '../ui/TextField'
import type { SignOff } from './queries'

/** Signing with one's password again; a partner may sign over what is missing, with a reason. */
export function SignForm({ signOff }: { signOff: SignOff }) {
  const client = useClient()
  const person = usePerson()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const [password, setPassword] = useState('')
  const [over, setOver] = useState(false)
  const [reason, setReason] = useState('')
  const sign = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/sign-off', {
          params: { path: { client: client.code } },
          body: {
            at: signOff.as_at,
            shown: signOff.digest,
            password,
            override_reason: over ? reason : null,
          },
        }),
      ),
    onSuccess: async (seal) => {
      setPassword('')
      await refresh()
      tell({ text: `${client.name} is signed off as at ${longDayWords(seal.as_at)} and sealed.` })
    },
  })
  if (
    signOff.seals.some(
      (state) =>
        state.seal.broken && state.seal.reopened_by === null && state.seal.as_at === signOff.as_at,
    )
  ) {
    return (
      <p className="border-l-4 border-rust bg-sheet px-3 py-2">
        This was signed off, but the books are not what was signed. A partner reopens it; then what
        moved can be put right and signed again.
      </p>
    )
  }
  if (signOff.sealed) {
    return (
      <p className="border-l-4 border-moss bg-sheet px-3 py-2">
        This is signed off and sealed: nothing dated up to then moves until a partner reopens it.
      </p>
    )
  }
  const isPartner = person.role === 'partner'
  const ready = (signOff.ready || (over && reason.trim() !== '')) && signOff.may_not === null
  return (
    <form
      aria-label="Sign it off"
      className="max-w-xl space-y-3"
      onSubmit={(event) => {
        event.preventDefault()
        if (ready && password) sign.mutate()
      }}
    >
      <h2 className="font-sans font-semibold text-deep">Sign it off</h2>
      <p className="text-quiet">
        Signing seals all that is dated up to {longDayWords(signOff.as_at)}. Notes and papers stay
        free.
      </p>
      {!signOff.ready && isPartner && (
        <>
          <label className="flex gap-2">
            <input type="checkbox" checked={over} onChange={() => setOver(!over)} />
            Sign over what is missing, as a partner
          </label>
          {over && (
            <TextArea
              label="Why: it prints in the pack"
              value={reason}
              onChange={(event) => setReason(event.target.value)}
            />
          )}
        </>
      )}
      <input type="text" autoComplete="username" value={person.code} readOnly hidden />
      <div className="flex items-end gap-2">
        <TextField
          className="w-72"
          label={`Password of ${person.name}`}
          type="password"
          autoComplete="current-password"
          autoFocus={signOff.ready && signOff.may_not === null}
          value={password}
          disabled={signOff.may_not !== null}
          onChange={(event) => setPassword(event.target.value)}
        />
        <Button look="post" type="submit" disabled={!ready || !password || sign.isPending}>
          Sign and seal {client.name}
        </Button>
      </div>
      <ProblemNote problem={sign.error} />
    </form>
  )
}
