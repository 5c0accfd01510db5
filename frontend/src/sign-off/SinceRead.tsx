import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'

/** So many are shown at first. */
const FIRST = 6

/** What others did since this person last read the client: for who reads it before it is signed. */
export function SinceRead() {
  const client = useClient()
  const refresh = useRefreshClient()
  const [all, showAll] = useState(false)
  const { data } = useQuery({
    queryKey: ['client', client.code, 'since'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/since', { params: { path: { client: client.code } } }),
      ),
  })
  const read = useMutation({
    mutationFn: (through: number) =>
      answered(
        api.POST('/api/clients/{client}/since', {
          params: { path: { client: client.code } },
          body: { through },
        }),
      ),
    onSuccess: refresh,
  })
  if (!data) return null
  const when = data.last ? `${dayWords(data.last)} ${data.last.slice(11, 16)}` : null
  return (
    <section aria-label="Since you last read it">
      <h2 className="mb-1 font-sans font-semibold text-deep">
        {when ? `Since you read it, ${when}` : 'What others did; you have not read it yet'}
      </h2>
      <ul className="border-t border-ink">
        {data.did.slice(0, all ? undefined : FIRST).map((row) => (
          <li
            key={`${row.at} ${row.what} ${row.change} ${row.says}`}
            className="border-b border-rule py-1"
          >
            <span className="text-quiet">
              {dayWords(row.at)} {row.at.slice(11, 16)}, {row.by}:
            </span>{' '}
            <strong className="font-semibold">{row.what}</strong> {row.says}
          </li>
        ))}
      </ul>
      {!all && data.did.length > FIRST && (
        <Button look="bare" className="mr-4" onClick={() => showAll(true)}>
          Show all {data.count}
        </Button>
      )}
      {data.count === 0 && <p className="text-quiet">Nobody else did anything.</p>}
      {all && data.count > data.did.length && (
        <p className="text-quiet">and {data.count - data.did.length} before these</p>
      )}
      {data.count > 0 && (
        <Button
          className="mt-2"
          disabled={read.isPending}
          onClick={() => read.mutate(data.through)}
        >
          I have read {data.count === 1 ? 'it' : `all ${data.count}`}
        </Button>
      )}
      <ProblemNote problem={read.error} className="mt-2" />
    </section>
  )
}
