import { type ReactNode, useEffect, useState } from 'react'
import { Amendings } from '../ledger/Amendings'
import { EffectList } from '../ledger/EffectList'
import { TPair } from '../ledger/TPair'
import { amountWords, isNil } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextArea } from '../ui/TextField'
import { usePostKey } from '../ui/usePostKey'
import type { Preview } from './acts'
import { usePrepare } from './prepared'
import type { Acting } from './useAct'

interface PostPanelProps {
  acting: Acting
  label: string
  children?: ReactNode
  /** Where many are posted at once: their effect alone, not each pairing and T-account. */
  brief?: boolean
}

/** Words alone can be amended: then there is nothing to see on any account. */
function movesMoney(preview: Preview): boolean {
  return preview.entries.length > 0 || preview.allocations.length > 0
}

function named(transaction: string): string {
  return transaction.startsWith('new-') ? 'the new entry' : transaction
}

/** What would be posted, the reason to be kept, and the button that posts it. */
export function PostPanel({ acting, label, children, brief = false }: PostPanelProps) {
  const { preview } = acting
  const [reason, setReason] = useState('')
  const [touched, setTouched] = useState(false)
  const proposed = preview?.reason ?? ''
  const shown = touched ? reason : proposed
  const ready = Boolean(preview && acting.isCurrent && shown.trim()) && !acting.isPending
  const deed = preview?.held ? 'Hand it in' : label
  usePrepare(preview?.effect)
  usePostKey(
    'What is prepared',
    deed,
    () => ready && acting.post(shown),
    preview ? `${label} can be seen` : null,
  )
  useEffect(() => {
    if (!touched) setReason(proposed)
  }, [proposed, touched])
  return (
    <div className="space-y-3">
      {children}
      {preview && (
        <>
          {[...preview.notes, ...preview.warnings].map((note) => (
            <p key={note} className="text-quiet">
              {note}
            </p>
          ))}
          <Amendings rows={preview.amendments} />
          {(brief ? [] : preview.allocations).map((row) => (
            <p key={row.id}>
              {row.undoes ? 'Takes apart' : 'Sets'} {named(row.debit_transaction)}{' '}
              {row.undoes ? 'and' : 'against'} {named(row.credit_transaction)}:{' '}
              <strong>{amountWords(row.amount)}</strong>
            </p>
          ))}
          {preview.entries.length > 0 && !brief && <TPair accounts={preview.t_accounts} />}
          {(movesMoney(preview) || preview.effect.accounts.some((row) => !isNil(row.change))) && (
            <EffectList effect={preview.effect} />
          )}
        </>
      )}
      <ProblemNote problem={acting.problem} />
      {preview?.held && (
        <p className="border-l-4 border-cork bg-sheet px-3 py-1.5">{preview.held}</p>
      )}
      <div className="flex items-end gap-2">
        <TextArea
          className="grow"
          label="Reason, kept with it and printed in the pack"
          value={shown}
          onChange={(event) => {
            setTouched(true)
            setReason(event.target.value)
          }}
        />
        <Button look="post" hint="Ctrl ↵" disabled={!ready} onClick={() => acting.post(shown)}>
          {deed}
        </Button>
      </div>
    </div>
  )
}
