import { useRef, useState } from 'react'
import { PostPanel } from '../../frame/PostPanel'
import { useAct } from '../../frame/useAct'
import { Button } from '../../ui/Button'

/** The payroll bureau's file: its months stand beside those that came with the books. */
export function PayrollFile() {
  const file = useRef<HTMLInputElement>(null)
  const [table, take] = useState('')
  const acting = useAct({
    act: table ? { act: 'payroll', table } : null,
    onDone: () => take(''),
  })
  return (
    <div className="space-y-2">
      <p className="flex items-baseline gap-4">
        <Button look="bare" onClick={() => file.current?.click()}>
          Take in the bureau’s file
        </Button>
        <span className="text-quiet">
          CSV: month, employee_group, gross, employer_contributions, net_pay, income_tax,
          employee_contributions, other_deductions
        </span>
      </p>
      <input
        ref={file}
        hidden
        type="file"
        accept=".csv,text/csv"
        aria-label="The payroll bureau's file"
        onChange={async (event) => take((await event.target.files?.[0]?.text()) ?? '')}
      />
      {table && <PostPanel label="Take it in" acting={acting} />}
    </div>
  )
}
