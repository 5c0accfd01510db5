import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { DayField } from '../frame/DayField'
import { useClient, useRefreshClient } from '../frame/queries'
import { usePerson } from '../frame/session'
import { useSpan } from '../frame/useSpan'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'

/** Who may post where others may not, and what was held or barred by whom, when and why. */
export function Windows() {
  const client = useClient()
  const person = usePerson()
  const [grants, grant] = useState(false)
  const { data } = useQuery({
    queryKey: ['client', client.code, 'posting'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/posting', { params: { path: { client: client.code } } }),
      ),
  })
  if (!data) return null
  return (
    <section aria-label="Windows" className="space-y-2">
      {data.windows.map((window) => (
        <p key={window.staff} className="border-l-4 border-cork bg-sheet px-3 py-1">
          <strong>{window.staff}</strong> may post {dayWords(window.first_day)} to{' '}
          {dayWords(window.last_day)}, until {dayWords(window.until)}
          <span className="block text-quiet">
            {window.reason} · {window.made_by}, {dayWords(window.made_at)}
          </span>
        </p>
      ))}
      {person.may.includes('set-periods') &&
        (grants ? (
          <Grant staff={data.staff} onDone={() => grant(false)} />
        ) : (
          <Button look="bare" onClick={() => grant(true)}>
            Let one person post where others may not
          </Button>
        ))}
      {data.history.length > 0 && (
        <details>
          <summary className="cursor-pointer text-tide">What was held or barred, by whom</summary>
          <ul>
            {data.history.map((row, place) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the record only grows
              <li key={place} className="border-b border-rule py-0.5">
                from {dayWords(row.first_day)}: <strong>{row.state}</strong>, {row.made_by},{' '}
                {dayWords(row.made_at)} <span className="text-quiet">{row.reason}</span>
              </li>
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}

function Grant({ staff, onDone }: { staff: string[]; onDone: () => void }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const [span] = useSpan()
  const [who, name] = useState(staff[0] ?? '')
  const [first, begin] = useState(span.first)
  const [last, end] = useState(span.last)
  const [until, keepUntil] = useState('')
  const [reason, say] = useState('')
  const granting = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/windows', {
          params: { path: { client: client.code } },
          body: { staff: who, first_day: first, last_day: last, until, reason },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      onDone()
    },
  })
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-3">
        <label>
          <span className="block text-quiet">Who</span>
          <select
            className="w-full border border-edge bg-sheet px-2 py-1.5"
            value={who}
            onChange={(event) => name(event.target.value)}
          >
            {staff.map((code) => (
              <option key={code}>{code}</option>
            ))}
          </select>
        </label>
        <DayField label="May use it until" value={until} onDay={keepUntil} />
        <DayField label="Posts from" value={first} onDay={begin} />
        <DayField label="Posts to" value={last} onDay={end} />
      </div>
      <TextField label="Why" value={reason} onChange={(event) => say(event.target.value)} />
      <p className="flex gap-4">
        <Button
          look="post"
          disabled={!until || !reason.trim() || granting.isPending}
          onClick={() => granting.mutate()}
        >
          Let {who} post there
        </Button>
        <Button look="bare" onClick={onDone}>
          Cancel
        </Button>
      </p>
      <ProblemNote problem={granting.error} />
    </div>
  )
}
