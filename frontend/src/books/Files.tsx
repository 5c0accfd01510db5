import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { counted, dayWords, shortDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { TextArea } from '../ui/TextField'
import type { FileRow } from './queries'

/** Every file that was taken in, the latest first, with what it brought. */
export function Files({ files }: { files: FileRow[] }) {
  const [asked, ask] = useState<FileRow | null>(null)
  return (
    <section aria-label="Files taken in">
      <h2 className="mb-1 text-[17px] font-semibold">What came when</h2>
      <table className="w-full border-collapse">
        <caption className="sr-only">Files taken in</caption>
        <thead>
          <tr className="border-b border-ink text-left text-deep">
            {['When', 'By', 'What', 'Brought', ''].map((head) => (
              <th key={head} scope="col" className="py-1 pr-4 font-semibold">
                {head || <span className="sr-only">What can be done</span>}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {files.map((file) => (
            <tr key={file.change} className="h-7 border-b border-rule align-baseline">
              <td className="pr-4 whitespace-nowrap">
                {dayWords(file.at)} <span className="text-quiet">{file.at.slice(11, 16)}</span>
              </td>
              <td className="pr-4">{file.by}</td>
              <td className={`pr-4 ${file.set_aside_by ? 'text-quiet line-through' : ''}`}>
                {capitalless(file.what)}
              </td>
              <td className="pr-4">{broughtWords(file)}</td>
              <td className="text-right whitespace-nowrap">
                {file.set_aside_by && (
                  <span className="text-quiet">set aside, change {file.set_aside_by}</span>
                )}
                {file.kind === 'statement' && !file.set_aside_by && (
                  <Button look="bare" className="py-0!" onClick={() => ask(file)}>
                    Set aside
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {asked && <SetAside file={asked} onClose={() => ask(null)} />}
    </section>
  )
}

function capitalless(what: string): string {
  return what.replace(/ taken in( from)?/, (_, from) => (from ? ':' : ''))
}

function broughtWords(file: FileRow): string {
  const parts = []
  if (file.kind === 'import') {
    parts.push(`${counted(file.new, 'new posting')}`)
    if (file.changed) parts.push(`${file.changed} changed`)
    if (file.removed) parts.push(`${file.removed} gone`)
  }
  const lines = file.statements.reduce((sum, statement) => sum + statement.lines, 0)
  const accounts = [...new Set(file.statements.map((statement) => statement.account))]
  if (accounts.length > 0) {
    const first = file.statements.map((statement) => statement.first_day).sort()[0] ?? ''
    const last =
      file.statements
        .map((statement) => statement.last_day)
        .sort()
        .at(-1) ?? ''
    const begins = first.slice(0, 4) === last.slice(0, 4) ? shortDayWords(first) : dayWords(first)
    const days = `${begins} to ${dayWords(last)}`
    parts.push(`${counted(lines, 'new statement line')} of ${accounts.join(', ')}, ${days}`)
  }
  return parts.join(' · ')
}

/** A statement that should not have been taken in, as of another account: why, kept for good. */
function SetAside({ file, onClose }: { file: FileRow; onClose: () => void }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const [reason, setReason] = useState('')
  const setting = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/statements/set-aside', {
          params: { path: { client: client.code } },
          body: { change: file.change, reason },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      onClose()
      tell({ text: `${client.name}: the statement is set aside. Its file can be taken in again.` })
    },
  })
  return (
    <Dialog title="Set a statement aside" onClose={onClose}>
      <div className="space-y-3">
        <p>
          {broughtWords(file)}: nothing of it counts any more, and it stays on the record. For a
          file of another account, or one that the bank has taken back.
        </p>
        <ProblemNote problem={setting.error} />
        <div className="flex items-end gap-2">
          <TextArea
            className="grow"
            label="Reason, kept for good"
            value={reason}
            onChange={(event) => setReason(event.target.value)}
          />
          <Button
            look="post"
            disabled={!reason.trim() || setting.isPending}
            onClick={() => setting.mutate()}
          >
            Set it aside
          </Button>
        </div>
      </div>
    </Dialog>
  )
}
