import { useMutation, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answered, api, type Schemas } from '../api/client'
import type { ProposalRow } from '../frame/approvals'
import { usePrepare } from '../frame/prepared'
import { useClient, useRefreshClient } from '../frame/queries'
import { sessionOptions } from '../frame/session'
import { usePosting } from '../frame/usePosting'
import { useSpan, useSpanSearch } from '../frame/useSpan'
import { EffectList } from '../ledger/EffectList'
import { useInspect } from '../ledger/inspect'
import { TPair } from '../ledger/TPair'
import { capital, dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { usePostKey } from '../ui/usePostKey'

interface ProposalPaneProps {
  number: number
  onOpen: (name: string) => void
}

/** What somebody handed in: what it would post now, approving it, sending it back. */
export function ProposalPane({ number, onOpen }: ProposalPaneProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useSuspenseQuery({
    queryKey: ['client', client.code, 'proposal', number, span.last],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/proposals/{number}', {
          params: { path: { client: client.code, number }, query: { at: span.last } },
        }),
      ),
  })
  const { proposal, preview } = data
  const waits = proposal.state === 'waiting'
  usePrepare(waits ? preview?.effect : undefined)
  return (
    <div className="space-y-4">
      <Head proposal={proposal} />
      {data.refused && waits && (
        <p role="alert" className="border-l-4 border-rust bg-sheet px-3 py-1.5">
          <strong className="text-rust">It can’t be posted any more.</strong> {data.refused}
        </p>
      )}
      {data.maker_gone && waits && (
        <p role="status" className="border-l-4 border-cork bg-sheet px-3 py-1.5">
          {data.maker_gone}
        </p>
      )}
      {data.moved && waits && (
        <p role="status" className="border-l-4 border-cork bg-sheet px-3 py-1.5">
          The books moved since it was handed in: below is what it would post now, not what{' '}
          {proposal.by} saw.
        </p>
      )}
      {preview && waits && (
        <>
          {[...preview.notes, ...preview.warnings].map((note) => (
            <p key={note} className="text-quiet">
              {note}
            </p>
          ))}
          {preview.entries.length > 0 && <TPair accounts={preview.t_accounts} />}
          <EffectList effect={preview.effect} />
        </>
      )}
      {waits && <Deeds found={data} onOpen={onOpen} />}
    </div>
  )
}

function Head({ proposal }: { proposal: ProposalRow }) {
  const client = useClient()
  const search = useSpanSearch()
  const inspect = useInspect()
  const { transaction } = proposal
  return (
    <header>
      <h1 className="text-[21px] leading-7 font-semibold">{capital(proposal.what)}</h1>
      <p className="text-quiet">
        Handed in by {proposal.by}, {dayWords(proposal.at)} {proposal.at.slice(11, 16)}
        {proposal.state !== 'waiting' && ` · ${proposal.state.replace('-', ' ')}`}
        {proposal.point && (
          <>
            {' · '}
            <Link
              className="text-tide hover:underline"
              to={`/clients/${client.code}/review/${proposal.point}${search}`}
            >
              the point with its evidence
            </Link>
          </>
        )}
        {transaction && (
          <>
            {' · '}
            <button
              type="button"
              className="text-tide hover:underline"
              onClick={() => inspect({ kind: 'transaction', name: transaction })}
            >
              {transaction}
            </button>
          </>
        )}
      </p>
      <p className="mt-2 border-l-4 border-cork bg-sheet px-3 py-1.5">
        <strong>{proposal.reason}</strong>
      </p>
      {proposal.remark && (
        <p className="mt-2 border-l-4 border-rust bg-sheet px-3 py-1.5">
          <strong className="text-rust">{proposal.back_from} sent it back:</strong>{' '}
          {proposal.remark}
        </p>
      )}
    </header>
  )
}

interface DeedsProps {
  found: Schemas['ProposalAnswer']
  onOpen: (name: string) => void
}

function Deeds({ found, onOpen }: DeedsProps) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const [remark, say] = useState('')
  const { proposal, preview } = found
  const path = { client: client.code, number: proposal.number }
  const approving = usePosting({
    send: (shown: string, key) =>
      answered(
        api.POST('/api/clients/{client}/proposals/{number}/approval', {
          params: { path },
          body: { shown, key },
        }),
      ),
    onDone: (change) => onOpen(change?.entries[0]?.id ?? 'new'),
  })
  const ending = useMutation({
    mutationFn: (withdraws: boolean) =>
      withdraws
        ? answered(
            api.POST('/api/clients/{client}/proposals/{number}/withdrawal', {
              params: { path },
              body: {},
            }),
          )
        : answered(
            api.POST('/api/clients/{client}/proposals/{number}/return', {
              params: { path },
              body: { remark },
            }),
          ),
    onSuccess: async (_, withdraws) => {
      await refresh()
      tell({
        text: withdraws
          ? `${client.name}: taken back; nothing was posted.`
          : `${client.name}: sent back to ${proposal.by}; nothing was posted.`,
      })
      onOpen('new')
    },
  })
  const may = preview !== null && found.may_not === null && !approving.isPending
  function approve() {
    if (may && preview) approving.mutate(preview.digest)
  }
  usePostKey('What was handed in', 'approve and post it', approve, `${proposal.number}`)
  if (found.may_not) {
    return (
      <div className="space-y-2">
        <p className="text-quiet">
          {proposal.why} {found.may_not}
        </p>
        <Withdraw proposal={proposal} onWithdraw={() => ending.mutate(true)} />
        <ProblemNote problem={ending.error} />
      </div>
    )
  }
  return (
    <div className="space-y-2 border-t border-edge pt-3">
      <p className="flex items-end gap-2">
        <Button look="post" hint="Ctrl ↵" disabled={!may} onClick={approve}>
          Approve and post
        </Button>
        <TextField
          className="grow"
          label="Or what is to be done otherwise"
          value={remark}
          onChange={(event) => say(event.target.value)}
        />
        <Button disabled={!remark.trim() || ending.isPending} onClick={() => ending.mutate(false)}>
          Send it back
        </Button>
      </p>
      <p className="text-quiet">
        It is posted in the name of {proposal.by}, with you as its approver.
      </p>
      <ProblemNote problem={approving.error ?? ending.error} />
    </div>
  )
}

function Withdraw({ proposal, onWithdraw }: { proposal: ProposalRow; onWithdraw: () => void }) {
  const { data: session } = useSuspenseQuery(sessionOptions)
  if (session.person?.code !== proposal.by) return null
  return <Button onClick={onWithdraw}>Take it back</Button>
}
