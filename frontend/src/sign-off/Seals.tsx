import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { sessionOptions, usePerson } from '../frame/session'
import { Postmark } from '../ledger/Postmark'
import { amountWords, changeWords, dayWords, longDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextArea } from '../ui/TextField'

type SealState = Schemas['SealStateAnswer']

/** The sign-offs so far, the latest first, with what broke one and who reopened it. */
export function Seals({ seals }: { seals: SealState[] }) {
  return (
    <section aria-label="Sign-offs so far" className="space-y-4">
      <h2 className="font-sans font-semibold text-deep">Sign-offs so far</h2>
      {seals.length === 0 && (
        <p className="text-quiet">
          None yet. When the trial balance is signed its postmark stands here, on the desk and on
          the year ribbon.
        </p>
      )}
      {seals.map((state) => (
        <SealRecord key={state.seal.number} state={state} />
      ))}
    </section>
  )
}

function SealRecord({ state }: { state: SealState }) {
  const { seal } = state
  const { data: session } = useQuery(sessionOptions)
  const person = usePerson()
  const stands = seal.reopened_by === null
  return (
    <article className="border-b border-rule pb-3">
      {stands && <Postmark seal={seal} practice={session?.practice ?? ''} />}
      <p>
        <strong className="font-semibold">As at {longDayWords(seal.as_at)}</strong>, signed by{' '}
        {seal.signed_by} on {dayWords(seal.signed_at)} {seal.signed_at.slice(11, 16)}
        {seal.prepared_by && `, prepared by ${seal.prepared_by}`}
      </p>
      <p className="text-[13px] break-all text-quiet">seal {seal.digest}</p>
      {seal.override_reason && (
        <p className="text-rust">Signed over what was missing: {seal.override_reason}</p>
      )}
      {!seal.second_person && (
        <p className="text-quiet">Who posted could sign: the practice allowed it.</p>
      )}
      {seal.broken && stands && <Broken state={state} />}
      {!stands && (
        <p className="text-rust">
          Reopened by {seal.reopened_by}, {dayWords(seal.reopened_at ?? '')}: {seal.reopened_why}
          {seal.reopened_until &&
            ` It is open until ${longDayWords(seal.reopened_until)}; then it stands again, unless it was signed anew.`}
        </p>
      )}
      {stands && person.may.includes('reopen') && <Reopen seal={seal} />}
    </article>
  )
}

function Broken({ state: { moved, rows, differing } }: { state: SealState }) {
  return (
    <div role="alert" className="mt-2 border-l-4 border-rust bg-sheet px-3 py-2">
      <strong className="text-rust">The seal is broken:</strong> the books are not what was signed.
      {moved.length === 0 &&
        ' The balances are the same; entries or allocations behind them differ.'}
      {moved.map((row) => (
        <p key={row.account} className="flex gap-2">
          <span className="grow">
            {row.account} {row.name}
          </span>
          <span>
            {amountWords(row.signed)} → {amountWords(row.now)}{' '}
            <strong>{changeWords(row.change)}</strong>
          </span>
        </p>
      ))}
      {rows.length > 0 && (
        <dl className="mt-2 border-t border-rule pt-2 text-[13px]">
          {rows.map((row) => (
            <Differing key={`${row.kind} ${row.name}`} row={row} />
          ))}
        </dl>
      )}
      {differing > rows.length && (
        <p className="text-[13px] text-quiet">and {differing - rows.length} more rows</p>
      )}
    </div>
  )
}

/** An entry, allocation or agreement, as it was signed and as it stands: only what is not in both. */
function Differing({ row }: { row: Schemas['SealDifferingAnswer'] }) {
  const gone = row.before.filter((text) => !row.now.includes(text))
  const come = row.now.filter((text) => !row.before.includes(text))
  return (
    <div className="mt-1">
      <dt>
        {ROW_NAMES[row.kind] ?? row.kind} {row.name}
        {row.before.length === 0 && ' is new'}
        {row.now.length === 0 && ' is gone'}
      </dt>
      {gone.map((text) => (
        <dd key={`signed ${text}`} className="pl-4 text-quiet">
          signed {text}
        </dd>
      ))}
      {come.map((text) => (
        <dd key={`now ${text}`} className="pl-4">
          now {text}
        </dd>
      ))}
    </div>
  )
}

const ROW_NAMES: Record<string, string> = {
  entry: 'Entry',
  allocation: 'Allocation',
  agreed: 'Agreement',
}

function Reopen({ seal }: { seal: Schemas['SealAnswer'] }) {
  const client = useClient()
  const { data: session } = useQuery(sessionOptions)
  const today = session?.today ?? seal.as_at
  const refresh = useRefreshClient()
  const [asking, ask] = useState(false)
  const [reason, setReason] = useState('')
  const [until, setUntil] = useState<string | null>(null)
  const reopen = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/reopening', {
          params: { path: { client: client.code } },
          body: { first_day: seal.as_at, reason, until },
        }),
      ),
    onSuccess: refresh,
  })
  if (!asking) {
    return (
      <Button className="mt-2" onClick={() => ask(true)}>
        Reopen it
      </Button>
    )
  }
  return (
    <div className="mt-2 space-y-2">
      <TextArea
        label="Why it is reopened: on the record for good"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
      />
      <label className="flex items-baseline gap-2">
        It ends by itself after
        <select
          className="border-b border-ink bg-transparent py-0.5"
          value={until ?? ''}
          onChange={(event) => setUntil(event.target.value || null)}
        >
          {lengths(today).map(([day, says]) => (
            <option key={says} value={day}>
              {says}
            </option>
          ))}
        </select>
      </label>
      <div className="flex gap-2">
        <Button look="danger" disabled={!reason.trim()} onClick={() => reopen.mutate()}>
          Reopen {client.name} from {dayWords(seal.as_at)}
        </Button>
        <Button onClick={() => ask(false)}>Leave it sealed</Button>
      </div>
      <ProblemNote problem={reopen.error} />
    </div>
  )
}

/** How long it stays open, by the last day; two weeks unless another is chosen. */
function lengths(today: string): [string, string][] {
  const after = (days: number) => {
    const day = new Date(`${today}T12:00:00Z`)
    day.setUTCDate(day.getUTCDate() + days)
    return day.toISOString().slice(0, 10)
  }
  return [
    ['', 'two weeks'],
    [after(0), 'today'],
    [after(2), 'two days'],
    [after(7), 'a week'],
    [after(30), 'a month'],
  ]
}
