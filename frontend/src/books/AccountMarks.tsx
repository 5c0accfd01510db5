import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { PostPanel } from '../frame/PostPanel'
import { chartOptions, useClient } from '../frame/queries'
import { useAct } from '../frame/useAct'
import { useSpan } from '../frame/useSpan'
import type { AccountRow } from './queries'

/** What an account asks of entries: closed to all, to journals, or a dimension on each line. */
export function AccountMarks({ account, fixed }: { account: AccountRow; fixed: boolean }) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const [marks, mark] = useState(account.marks)
  const same = [...marks].sort().join() === [...account.marks].sort().join()
  const acting = useAct({
    act: same ? null : { act: 'mark-account', account: account.code, marks },
  })
  const dimensions = [...new Set(chart?.dimensions.map((row) => row.dimension) ?? [])]
  const choices = [
    { mark: 'inactive', says: 'not used any more: entries are refused' },
    { mark: 'no-journals', says: 'moves by documents alone: journals are refused' },
    ...dimensions.map((name) => ({ mark: `needs:${name}`, says: `each line needs a ${name}` })),
  ]
  return (
    <fieldset disabled={fixed} className="border-t border-rule pt-3">
      <legend className="sr-only">What it asks of entries</legend>
      {choices.map((choice) => (
        <label key={choice.mark} className="flex gap-2 py-0.5">
          <input
            type="checkbox"
            checked={marks.includes(choice.mark)}
            onChange={() =>
              mark(
                marks.includes(choice.mark)
                  ? marks.filter((known) => known !== choice.mark)
                  : [...marks, choice.mark],
              )
            }
          />
          {choice.says}
        </label>
      ))}
      {!same && <PostPanel label="Keep it so" acting={acting} />}
    </fieldset>
  )
}
