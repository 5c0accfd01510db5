import { useQuery } from '@tanstack/react-query'
import type { Schemas } from '../api/client'
import { useClient } from '../frame/queries'
import {
  type Mark,
  marksOptions,
  type Remark,
  remarksOptions,
  useMarking,
} from '../frame/remarks/queries'
import { dayWords } from '../ledger/words'
import { useKeys } from '../ui/keys'

export interface LineWork {
  marks: Mark[]
  remarks: Remark[]
}

/** What was marked and remarked on each line, by account. */
export function useLineWork(at: string): Map<string, LineWork> {
  const client = useClient()
  const { data: marked } = useQuery(marksOptions(client.code, at))
  const { data: remarked } = useQuery(remarksOptions(client.code))
  const found = new Map<string, LineWork>()
  function of(account: string): LineWork {
    const known = found.get(account) ?? { marks: [], remarks: [] }
    found.set(account, known)
    return known
  }
  for (const mark of marked?.marks ?? []) of(mark.account).marks.push(mark)
  for (const remark of remarked?.remarks ?? [])
    if (remark.about === 'account') of(remark.name).remarks.push(remark)
  return found
}

/** `p` and `v` mark the line that has the focus, at the figure that is seen; a mark that stands is taken off. */
export function useMarkKeys(sheet: Schemas['WorksheetAnswer'], work: Map<string, LineWork>) {
  const client = useClient()
  const marking = useMarking(client.code)
  function mark(kind: Mark['kind']) {
    const account = document.activeElement?.closest('tr')?.dataset.account
    const row = sheet.rows.find((known) => known.account === account)
    if (!row) return
    const stands = work.get(row.account)?.marks.some((known) => known.kind === kind && !known.fell)
    marking.mutate({
      account: row.account,
      as_at: sheet.as_at,
      kind,
      seen: stands ? null : row.adjusted,
    })
  }
  useKeys('Worksheet', [
    { keys: 'p', does: 'mark the line as prepared, or take that off', run: () => mark('prepared') },
    { keys: 'v', does: 'mark the line as reviewed, or take that off', run: () => mark('reviewed') },
  ])
  return marking.error
}

const WORDS = { prepared: 'prepared', reviewed: 'reviewed' } as const

/** Initials of who prepared and who reviewed a line, struck where the figure moved since; and how many remarks. */
export function Marks({ work }: { work: LineWork | undefined }) {
  if (!work) return null
  const hasPaper = work.remarks.some((remark) =>
    [remark.said, ...remark.answers].some((said) => said.paper),
  )
  const waiting = work.remarks.filter((remark) => remark.waits).length
  return (
    <span className="flex justify-end gap-1.5 text-[12px] leading-5">
      {work.remarks.length > 0 && (
        <span
          title={work.remarks.map((remark) => remark.said.text).join('\n')}
          className={waiting > 0 ? 'font-semibold text-rust' : 'text-quiet'}
        >
          {waiting > 0 ? `${waiting} to clear` : hasPaper ? 'paper' : 'note'}
        </span>
      )}
      {work.marks.map((mark) => (
        <span
          key={mark.kind}
          title={`${WORDS[mark.kind]} by ${mark.by}, ${dayWords(mark.at)}${mark.fell ? ': the figure moved since' : ''}`}
          className={`${mark.fell ? 'text-rust line-through' : 'text-moss'} ${mark.kind === 'reviewed' ? 'font-semibold' : ''}`}
        >
          {mark.kind === 'prepared' ? 'p' : 'r'} {mark.by}
          {mark.fell && <span className="sr-only">, the figure moved since</span>}
        </span>
      ))}
    </span>
  )
}
