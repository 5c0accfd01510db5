import { useState } from 'react'
import { PostPanel } from '../frame/PostPanel'
import { useAct } from '../frame/useAct'
import { TextArea } from '../ui/TextField'
import { useSettled } from '../ui/useSettled'

/** A budget by account and month, pasted from a spreadsheet or taken from a file. */
export function BudgetForm({ onDone }: { onDone: () => void }) {
  const [table, key] = useState('')
  const settled = useSettled(table, 300)
  const acting = useAct({
    act: settled.trim() ? { act: 'budget', table: settled } : null,
    onDone,
  })
  return (
    <div className="space-y-3">
      <p className="max-w-xl text-quiet">
        Paste rows of a spreadsheet, or take in a CSV file: account, month, amount; or account and a
        column for each month (2026-01). Income and costs as people read them. It stands beside the
        figures and is in no balance.
      </p>
      <input
        type="file"
        accept=".csv,text/csv"
        aria-label="A table of the budget"
        onChange={async (event) => key((await event.target.files?.[0]?.text()) ?? '')}
      />
      <TextArea
        label="Or pasted"
        className="[&_textarea]:max-h-60"
        value={table}
        onChange={(event) => key(event.target.value)}
      />
      <PostPanel label="Keep the budget" acting={acting} />
    </div>
  )
}
