import { useMutation, useQueryClient } from '@tanstack/react-query'
import { type FormEvent, useState } from 'react'
import { Link } from 'react-router'
import { answered, api, type Schemas } from '../api/client'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'

type ArchivedClient = Schemas['ArchivedClientAnswer']

/** One client leaves: it is read from then on, and nothing is written to it. */
export function Archiving({ client, name }: { client: string; name: string }) {
  const [reason, setReason] = useState('')
  const archiving = useArchiving()
  const submit = (event: FormEvent) => {
    event.preventDefault()
    archiving.mutate({ client, archived: true, reason })
  }
  return (
    <form onSubmit={submit} className="space-y-3 border-t border-rule pt-3">
      <TextField
        label={`${name} leaves: why`}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" disabled={!reason.trim() || archiving.isPending}>
        Archive it
      </Button>
      <ProblemNote problem={archiving.error} />
    </form>
  )
}

/** The clients that left: until when each is kept, and what can be done with it. */
export function ArchivedClients({ clients }: { clients: ArchivedClient[] }) {
  if (clients.length === 0) return null
  return (
    <section aria-label="Archived" className="mt-8">
      <h2 className="border-b border-ink pb-1 font-semibold text-deep">
        Archived: read, and not written to
      </h2>
      <ul>
        {clients.map((client) => (
          <ArchivedRow key={client.code} client={client} />
        ))}
      </ul>
    </section>
  )
}

function ArchivedRow({ client }: { client: ArchivedClient }) {
  const [deed, choose] = useState<'back' | 'remove' | null>(null)
  return (
    <li className="border-b border-rule py-1.5">
      <div className="flex items-baseline gap-4">
        <span className="grow">
          <Link to={`/clients/${client.code}/books`} className="font-semibold hover:underline">
            {client.name}
          </Link>{' '}
          <span className="text-quiet">
            {client.code} · since {dayWords(client.since)} by {client.made_by}: {client.reason}
          </span>
        </span>
        <span className="whitespace-nowrap text-quiet">
          {client.may_go ? 'kept until' : 'to be kept until'} {dayWords(client.kept_until)}
        </span>
        <Button look="bare" className="py-0!" onClick={() => choose('back')}>
          Bring back
        </Button>
        {client.may_go && (
          <Button look="bare" className="py-0!" onClick={() => choose('remove')}>
            Remove
          </Button>
        )}
      </div>
      {deed && <Deed key={deed} client={client} deed={deed} onDone={() => choose(null)} />}
    </li>
  )
}

interface DeedProps {
  client: ArchivedClient
  deed: 'back' | 'remove'
  onDone: () => void
}

function Deed({ client, deed, onDone }: DeedProps) {
  const [reason, setReason] = useState('')
  const archiving = useArchiving()
  const removing = useRemoval()
  const isPending = archiving.isPending || removing.isPending
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (deed === 'back') archiving.mutate({ client: client.code, archived: false, reason })
    else removing.mutate({ client: client.code, reason })
  }
  return (
    <form onSubmit={submit} className="mt-2 mb-1 flex items-end gap-3">
      <TextField
        className="w-96"
        autoFocus
        label={deed === 'back' ? 'Why it is worked on again' : 'Why it is removed, for good'}
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <Button type="submit" disabled={!reason.trim() || isPending}>
        {deed === 'back' ? `Bring ${client.code} back` : `Remove all of ${client.code}`}
      </Button>
      <Button look="bare" onClick={onDone}>
        Leave it so
      </Button>
      <ProblemNote problem={archiving.error ?? removing.error} />
    </form>
  )
}

function useArchiving() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['ArchivingBody']) =>
      answered(api.POST('/api/practice/clients/archiving', { body })),
    onSuccess: () => queries.invalidateQueries(),
  })
}

function useRemoval() {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (body: Schemas['RemovalBody']) =>
      answered(api.POST('/api/practice/clients/removal', { body })),
    onSuccess: () => queries.invalidateQueries(),
  })
}
