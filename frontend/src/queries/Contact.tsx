import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import type { Board } from './queries'

/** Who answers for the client. */
export function Contact({ contact }: { contact: Board['contact'] }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const [keyed, key] = useState<{ name: string; email: string } | null>(null)
  const saving = useMutation({
    mutationFn: (body: { name: string; email: string }) =>
      answered(
        api.POST('/api/clients/{client}/contact', {
          params: { path: { client: client.code } },
          body,
        }),
      ),
    onSuccess: async () => {
      await refresh()
      key(null)
    },
  })
  if (!keyed) {
    return (
      <p className="text-quiet">
        {contact ? (
          <>
            {contact.name}, {contact.email}, answers.{' '}
          </>
        ) : (
          'Nobody is named yet who answers for this client. '
        )}
        <button
          type="button"
          className="text-tide hover:underline"
          onClick={() => key(contact ?? { name: '', email: '' })}
        >
          {contact ? 'Name somebody else' : 'Say who'}
        </button>
      </p>
    )
  }
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        saving.mutate(keyed)
      }}
    >
      <TextField
        autoFocus
        label="Who answers"
        value={keyed.name}
        onChange={(event) => key({ ...keyed, name: event.target.value })}
      />
      <TextField
        className="w-64"
        label="Address"
        value={keyed.email}
        onChange={(event) => key({ ...keyed, email: event.target.value })}
      />
      <Button type="submit" disabled={saving.isPending}>
        Keep
      </Button>
      <Button look="bare" onClick={() => key(null)}>
        Cancel
      </Button>
      <ProblemNote problem={saving.error} />
    </form>
  )
}
