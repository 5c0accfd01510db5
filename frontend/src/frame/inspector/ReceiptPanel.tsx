import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../../api/client'
import { amountWords, dayWords, isNil, longDayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { useKeys } from '../../ui/keys'
import { useNotice } from '../../ui/notice'
import { ProblemNote } from '../../ui/ProblemNote'
import { TextField } from '../../ui/TextField'
import { Waiting } from '../../ui/Waiting'
import { useClient, useRefreshClient } from '../queries'

type Standing = Schemas['ReceiptStanding']
type Method = NonNullable<Schemas['IssueBody']['method']>

/** The receipt for money that came in: as it will read, sending it, and what went out of it. */
export function ReceiptPanel({ transaction, onDone }: { transaction: string; onDone: () => void }) {
  const client = useClient()
  const [method, choose] = useState<Method | null>(null)
  const standing = useQuery({
    queryKey: ['client', client.code, 'receipt', transaction, method],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/transactions/{transaction}/receipt', {
          params: {
            path: { client: client.code, transaction },
            query: method ? { method } : {},
          },
        }),
      ),
    placeholderData: keepPreviousData,
    retry: false,
  })
  if (standing.error) return <ProblemNote problem={standing.error} />
  if (!standing.data) return <Waiting />
  return (
    <section aria-label="Receipt" className="space-y-3 border-t border-edge pt-3">
      <Paper standing={standing.data} onMethod={choose} />
      {standing.data.differs && (
        <p className="text-rust">
          What it settles has moved since it went out. A copy says what the receipt said.
        </p>
      )}
      <Issues standing={standing.data} />
      <Issuing
        transaction={transaction}
        standing={standing.data}
        method={method}
        onCancel={onDone}
      />
    </section>
  )
}

interface PaperProps {
  standing: Standing
  onMethod: (method: Method) => void
}

function Paper({ standing, onMethod }: PaperProps) {
  const client = useClient()
  const { receipt, number } = standing
  return (
    <div className="max-w-xl border border-edge bg-sheet px-6 py-4 shadow-sm">
      <p className="font-semibold">{standing.issuer}</p>
      <p className="mt-2 font-display text-xl font-semibold">
        Receipt {number ?? <span className="text-quiet">with the next number</span>}
      </p>
      <p className="mt-2 text-quiet">Received from</p>
      <p className="font-semibold">{receipt.party}</p>
      <p className="my-1 text-lg font-semibold">
        {amountWords(receipt.amount)} {client.currency}
      </p>
      <p className="flex items-baseline gap-2">
        on {longDayWords(receipt.received_on)} by
        {number ? (
          ` ${receipt.method}`
        ) : (
          <select
            aria-label="How it came"
            className="border-b border-ink bg-transparent"
            value={receipt.method}
            onChange={(event) => onMethod(event.target.value as Method)}
          >
            {standing.methods.map((method) => (
              <option key={method}>{method}</option>
            ))}
          </select>
        )}
        {receipt.reference && `, reference ${receipt.reference}`}
      </p>
      <p className="mt-2 text-quiet">It settles</p>
      <table className="w-full border-collapse">
        <caption className="sr-only">What it settles</caption>
        <tbody>
          {receipt.settles.map((part) => (
            <tr key={part.reference} className="border-b border-rule">
              <th scope="row" className="py-0.5 text-left font-normal">
                {part.reference}
              </th>
              <td className="text-quiet">{dayWords(part.day)}</td>
              <td className="text-right">{amountWords(part.amount)}</td>
            </tr>
          ))}
          {!isNil(receipt.on_account) && (
            <tr className="border-b border-rule">
              <th scope="row" colSpan={2} className="py-0.5 text-left font-normal">
                On account
              </th>
              <td className="text-right">{amountWords(receipt.on_account)}</td>
            </tr>
          )}
        </tbody>
      </table>
    </div>
  )
}

function Issues({ standing }: { standing: Standing }) {
  const client = useClient()
  if (standing.issues.length === 0) return null
  return (
    <ul className="border-t border-rule">
      {standing.issues.map((issue) => (
        <li key={issue.number} className="flex gap-3 border-b border-rule py-1">
          <span className="w-16 font-semibold">{issue.number === 1 ? 'receipt' : 'copy'}</span>
          <span className="grow">
            {issue.to_email ? `sent to ${issue.to_email}` : 'handed over as a file'}
          </span>
          <span className="text-quiet">
            {issue.by}, {dayWords(issue.at)} {issue.at.slice(11, 16)}
          </span>
          <a
            className="text-tide hover:underline"
            href={fileOf(client.code, standing.number ?? 0, issue.number)}
          >
            PDF
          </a>
        </li>
      ))}
    </ul>
  )
}

function fileOf(client: string, number: number, issue: number): string {
  return `/api/clients/${encodeURIComponent(client)}/receipts/${number}/${issue}`
}

interface IssuingProps {
  transaction: string
  standing: Standing
  method: Method | null
  onCancel: () => void
}

function Issuing({ transaction, standing, method, onCancel }: IssuingProps) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const [to, address] = useState(standing.last_to ?? '')
  const again = standing.issues.length > 0
  const what = again ? 'a copy' : 'the receipt'
  const issuing = useMutation({
    mutationFn: (sendTo: string | null) =>
      answered(
        api.POST('/api/clients/{client}/transactions/{transaction}/receipt', {
          params: { path: { client: client.code, transaction } },
          body: { method, to: sendTo },
        }),
      ),
    onSuccess: async (issued, sendTo) => {
      await refresh()
      if (!sendTo) window.location.assign(fileOf(client.code, issued.number, issued.issue))
      const went = sendTo ? `sent to ${sendTo}` : 'saved as a file'
      tell({ text: `${client.name}: ${what.replace('the ', '')} ${issued.number} is ${went}.` })
    },
  })
  const canSend = standing.may_send && to.trim() !== '' && !issuing.isPending
  useKeys('The receipt', [
    { keys: 'Control+Enter', does: `send ${what}`, run: () => canSend && issuing.mutate(to) },
  ])
  return (
    <>
      <div className="flex items-end gap-2">
        <TextField
          className="grow"
          label="Address of who gets it"
          type="email"
          value={to}
          disabled={!standing.may_send}
          onChange={(event) => address(event.target.value)}
        />
        <Button look="post" hint="Ctrl ↵" disabled={!canSend} onClick={() => issuing.mutate(to)}>
          Send {what}
        </Button>
        <Button disabled={issuing.isPending} onClick={() => issuing.mutate(null)}>
          Save it as PDF
        </Button>
        <Button look="bare" onClick={onCancel}>
          Close
        </Button>
      </div>
      {!standing.may_send && (
        <p className="text-quiet">
          The practice has no mail server yet: save the file and hand it over.
        </p>
      )}
      <ProblemNote problem={issuing.error} />
    </>
  )
}
