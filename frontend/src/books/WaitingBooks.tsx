import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { useClient } from '../frame/queries'
import { TakeInBooks } from '../frame/taking/TakeInBooks'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'

type Waiting = Schemas['WaitingBooksAnswer']

/** Newer books that move finished months, and wait for a reviewer or partner. */
export function WaitingBooks() {
  const client = useClient()
  const [shown, show] = useState<Waiting | null>(null)
  const { data } = useQuery({
    queryKey: ['client', client.code, 'waiting-books'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/waiting-books', {
          params: { path: { client: client.code } },
        }),
      ),
  })
  if (!data || data.waiting.length === 0) return null
  return (
    <section aria-label="Newer books that wait" className="max-w-3xl">
      <h2 className="mb-1 text-[17px] font-semibold">Newer books that wait</h2>
      <ul className="border-t border-ink">
        {data.waiting.map((row) => (
          <li key={row.job} className="flex items-baseline gap-4 border-b border-rule py-1">
            <span className="w-28 text-quiet">{dayWords(row.at)}</span>
            <span className="grow">
              {row.name}, looked at by {row.by}: {row.coming.new} new, {row.coming.changed} changed,{' '}
              {row.coming.removed} gone, some in finished months. They wait for a{' '}
              {row.coming.waits_for}.
            </span>
            <Button look="bare" onClick={() => show(row)}>
              Look at them
            </Button>
          </li>
        ))}
      </ul>
      {shown && (
        <TakeInBooks
          first={null}
          looked={shown.job}
          client={client.code}
          coming={shown.coming}
          onClose={() => show(null)}
        />
      )}
    </section>
  )
}
