import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { usePerson } from '../frame/session'
import { dayWords, longDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { Windows } from './Windows'

type State = Schemas['PeriodState']

const SAYS: Record<State, string> = {
  open: 'any staff may post',
  held: 'reviewers and partners may post',
  barred: 'nobody may post',
}

function isSealed(period: Schemas['PeriodAnswer'], seal: Schemas['SealAnswer'] | null): boolean {
  return seal !== null && period.last_day <= seal.as_at
}

/** What bars a month in a word or two, else what its state lets people do. */
function wordsOf(period: Schemas['PeriodAnswer'], seal: Schemas['SealAnswer'] | null): string {
  if (period.filed) return 'filed'
  if (seal && isSealed(period, seal)) return `signed and sealed as at ${dayWords(seal.as_at)}`
  return SAYS[period.state as State]
}

/** Who may post in each month, and changing it with a reason. */
export function Periods() {
  const client = useClient()
  const person = usePerson()
  const [chosen, choose] = useState<string | null>(null)
  const may = person.may.includes('set-periods')
  return (
    <section aria-label="Who may post">
      <h2 className="mb-1 font-sans font-semibold text-deep">Who may post</h2>
      <ul className="border-t border-ink">
        {client.periods.map((period) => (
          <li key={period.first_day} className="border-b border-rule py-0.5">
            <div className="flex gap-3">
              <span className="w-24">to {dayWords(period.last_day).slice(0, -5)}</span>
              <span className="w-14 font-semibold">{period.state}</span>
              <span className="grow text-quiet" title={period.why ?? undefined}>
                {wordsOf(period, client.last_seal)}
              </span>
              {may && !period.filed && !isSealed(period, client.last_seal) && (
                <button
                  type="button"
                  aria-label={`Change who may post to ${longDayWords(period.last_day)}`}
                  className="text-tide hover:underline"
                  onClick={() => choose(chosen === period.first_day ? null : period.first_day)}
                >
                  change
                </button>
              )}
            </div>
            {chosen === period.first_day && (
              <SetState
                period={period}
                onDone={() => choose((now) => (now === period.first_day ? null : now))}
              />
            )}
          </li>
        ))}
      </ul>
      <Windows />
      <Years may={may} />
    </section>
  )
}

/** How far the financial years go, and opening the next. */
function Years({ may }: { may: boolean }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const opening = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/years', {
          params: { path: { client: client.code } },
          body: { label: client.next_year },
        }),
      ),
    onSuccess: refresh,
  })
  return (
    <p className="flex items-baseline gap-3 py-2 text-quiet">
      <span className="grow">
        There are financial years to {longDayWords(client.years_through)}; nothing is dated later.
      </span>
      {may && (
        <Button disabled={opening.isPending} onClick={() => opening.mutate()}>
          Open the year {client.next_year}
        </Button>
      )}
      <ProblemNote problem={opening.error} />
    </p>
  )
}

interface SetStateProps {
  period: Schemas['PeriodAnswer']
  onDone: () => void
}

function SetState({ period, onDone }: SetStateProps) {
  const client = useClient()
  const refresh = useRefreshClient()
  const [state, setState] = useState<State>(period.state === 'open' ? 'held' : 'open')
  const [reason, setReason] = useState('')
  const set = useMutation({
    mutationFn: () =>
      answered(
        api.PUT('/api/clients/{client}/periods/{day}', {
          params: { path: { client: client.code, day: period.last_day } },
          body: { state, reason },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      onDone()
    },
  })
  return (
    <form
      className="space-y-2 py-2"
      onSubmit={(event) => {
        event.preventDefault()
        set.mutate()
      }}
    >
      <div className="flex items-end gap-2">
        <label>
          <span className="block text-quiet">State</span>
          <select
            className="border border-edge bg-sheet px-2 py-1.5"
            value={state}
            onChange={(event) => setState(event.target.value as State)}
          >
            {Object.keys(SAYS).map((key) => (
              <option key={key}>{key}</option>
            ))}
          </select>
        </label>
        <TextField
          className="grow"
          label="Reason"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <Button look="post" type="submit" disabled={!reason.trim() || set.isPending}>
          Set
        </Button>
      </div>
      <ProblemNote problem={set.error} />
    </form>
  )
}
