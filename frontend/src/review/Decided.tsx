import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { TakeBack } from '../frame/inspector/TakeBack'
import { useClient, useRefreshClient } from '../frame/queries'
import { usePerson } from '../frame/session'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextArea } from '../ui/TextField'
import type { PointView } from './queries'

interface DecidedProps {
  point: PointView
  onDone: () => void
}

/** What was decided about a point, by whom and why; and the way back. */
export function Decided({ point, onDone }: DecidedProps) {
  const [reopening, setReopening] = useState(false)
  const { decision } = point
  if (!decision) return null
  const change = point.state === 'corrected' ? decision.change : null
  return (
    <section aria-label="What was decided" className="space-y-3">
      <p className="border-l-4 border-moss bg-sheet px-3 py-2">
        <strong>{decision.reason}</strong>
        <br />
        <span className="text-quiet">
          {point.state} by {decision.by}, {dayWords(decision.at)} {decision.at.slice(11, 16)}
          {change !== null && `, change ${change}`}
        </span>
      </p>
      {point.proposed && <Confirm point={point} />}
      {!reopening && (
        <Button onClick={() => setReopening(true)}>
          {change !== null ? `Take change ${change} back` : 'Open this point again'}
        </Button>
      )}
      {reopening && change !== null && (
        <TakeBack
          change={change}
          onCancel={() => {
            setReopening(false)
            onDone()
          }}
        />
      )}
      {reopening && change === null && <OpenAgain point={point} onDone={onDone} />}
    </section>
  )
}

/** A preparer's word on a sure point is a proposal until a reviewer's stands beside it. */
function Confirm({ point }: { point: PointView }) {
  const client = useClient()
  const person = usePerson()
  const refresh = useRefreshClient()
  const confirming = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/points/{point}/confirmation', {
          params: { path: { client: client.code, point: point.id } },
          body: {},
        }),
      ),
    onSuccess: () => refresh(),
  })
  return (
    <div className="flex items-baseline gap-4 border-l-4 border-cork bg-sheet px-3 py-2">
      <span>A reviewer or partner confirms this before the trial balance is signed.</span>
      {person.may.includes('approve') && (
        <Button disabled={confirming.isPending} onClick={() => confirming.mutate()}>
          Confirm it
        </Button>
      )}
      <ProblemNote problem={confirming.error} />
    </div>
  )
}

function OpenAgain({ point, onDone }: DecidedProps) {
  const client = useClient()
  const refresh = useRefreshClient()
  const [reason, setReason] = useState('')
  const reopen = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/points/{point}/reopening', {
          params: { path: { client: client.code, point: point.id } },
          body: { reason },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      onDone()
    },
  })
  return (
    <div className="space-y-2">
      <div className="flex items-end gap-2">
        <TextArea
          className="grow"
          label="Why it is open again"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
        />
        <Button look="post" disabled={!reason.trim()} onClick={() => reopen.mutate()}>
          Open it again
        </Button>
      </div>
      <ProblemNote problem={reopen.error} />
    </div>
  )
}
