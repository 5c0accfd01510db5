import { useState } from 'react'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { TextField } from '../ui/TextField'
import type { Reconciliation } from './queries'
import type { BankDeeds } from './useBankDeeds'

/** Finishing at a difference of nil; what stands against it; reopening with a reason. */
export function Finishing({ state, deeds }: { state: Reconciliation; deeds: BankDeeds }) {
  const ready = !state.finished && state.hindrances.length === 0
  useKeys('Bank', [
    { keys: 'f', does: 'finish the reconciliation', run: () => ready && deeds.finish() },
  ])
  if (state.finished) return <Finished state={state} deeds={deeds} />
  return (
    <>
      <Button look={ready ? 'post' : 'plain'} hint="f" disabled={!ready} onClick={deeds.finish}>
        Finish
      </Button>
      <span className="text-quiet">
        {ready
          ? 'Everything is explained. Finishing fixes the list.'
          : `Not yet: ${state.hindrances.join(' ')}`}
      </span>
      <Reopened state={state} />
    </>
  )
}

function Finished({ state, deeds }: { state: Reconciliation; deeds: BankDeeds }) {
  const [asking, setAsking] = useState(false)
  const [reason, setReason] = useState('')
  const last = state.history.at(-1)
  return (
    <>
      <span className="font-semibold text-moss">
        ✓ Finished by {last?.by}, {dayWords(last?.at ?? '')}
      </span>
      <Button onClick={() => window.print()}>Print</Button>
      {!asking && <Button onClick={() => setAsking(true)}>Reopen it</Button>}
      {asking && (
        <span className="flex items-end gap-2">
          <TextField
            hideLabel
            className="w-80"
            label="Why it is reopened: on the record for good"
            placeholder="Why? It stays on the record"
            value={reason}
            autoFocus
            onChange={(event) => setReason(event.target.value)}
          />
          <Button look="danger" disabled={!reason.trim()} onClick={() => deeds.reopen(reason)}>
            Reopen
          </Button>
          <Button onClick={() => setAsking(false)}>Leave it finished</Button>
        </span>
      )}
    </>
  )
}

function Reopened({ state }: { state: Reconciliation }) {
  const last = state.history.at(-1)
  if (!last?.reopened_by) return null
  return (
    <span className="text-rust">
      Reopened by {last.reopened_by}, {dayWords(last.reopened_at ?? '')}: {last.reopened_why}
    </span>
  )
}
