import { useMutation } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answered, api, whenPasswordIsNeeded } from '../api/client'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'

/** Asks for the password once more where a deed needs it, over whatever page one is on. */
export function PasswordAgain() {
  const [answer, setAnswer] = useState<((said: boolean) => void) | null>(null)
  useEffect(() => {
    whenPasswordIsNeeded(() => new Promise<boolean>((said) => setAnswer(() => said)))
  }, [])
  if (!answer) return null
  return (
    <Ask
      onDone={(said) => {
        setAnswer(null)
        answer(said)
      }}
    />
  )
}

function Ask({ onDone }: { onDone: (said: boolean) => void }) {
  const [password, setPassword] = useState('')
  const confirming = useMutation({
    mutationFn: () => answered(api.POST('/api/session/confirmed', { body: { password } })),
    onSuccess: () => onDone(true),
  })
  return (
    <Dialog title="Your password once more" onClose={() => onDone(false)}>
      <form
        className="max-w-md space-y-4"
        onSubmit={(event) => {
          event.preventDefault()
          event.stopPropagation()
          confirming.mutate()
        }}
      >
        <p className="text-quiet">
          This asks who you are, since it can’t be done by whoever finds your screen. It is enough
          for ten minutes.
        </p>
        <TextField
          label="Password, or a code of your second factor"
          type="password"
          autoComplete="current-password"
          autoFocus
          value={password}
          onChange={(event) => setPassword(event.target.value)}
        />
        <ProblemNote problem={confirming.error} />
        <div className="flex gap-2">
          <Button look="post" type="submit" disabled={!password || confirming.isPending}>
            Go on
          </Button>
          <Button onClick={() => onDone(false)}>Do nothing</Button>
        </div>
      </form>
    </Dialog>
  )
}
