import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { answered, api } from '../../api/client'
import { Amendings, ChartAmendings, Merges } from '../../ledger/Amendings'
import { EffectList } from '../../ledger/EffectList'
import { TPair } from '../../ledger/TPair'
import { Button } from '../../ui/Button'
import { useKeys } from '../../ui/keys'
import { useNotice } from '../../ui/notice'
import { ProblemNote } from '../../ui/ProblemNote'
import { TextArea, TextField } from '../../ui/TextField'
import { usePostKey } from '../../ui/usePostKey'
import { BackAfter } from '../asking/BackAfter'
import { backOn, USUAL_WAIT } from '../asking/backOn'
import { OpenForThis } from '../OpenForThis'
import { usePrepare } from '../prepared'
import { useClient, useRefreshClient } from '../queries'
import { sessionOptions } from '../session'
import { usePosting } from '../usePosting'
import { useSpan } from '../useSpan'
import { ProfitPartChoice } from './ProfitPartChoice'
import { type PointView, type Prepared, postChange } from './queries'
import { RecordParts } from './RecordParts'
import { RouteList } from './RouteList'

interface RoutesProps {
  point: PointView
  prepared: Prepared[]
  /** Barred periods of the point that this person may have opened for its correction. */
  openable: string[]
  onDecided: () => void
}

const DECIDED: Record<string, string> = {
  ask: 'waits for the client; the question is ready to be sent',
  leave: 'is left, with your reason',
  waive: 'is waived, and on the schedule of unadjusted differences',
}
const DEEDS: Record<string, string> = { ask: 'Ask', leave: 'Leave it', waive: 'Waive it' }

/** The routes, the recommended first; what the chosen one does; the reason; posting it. */
export function Routes({ point, prepared, openable, onDecided }: RoutesProps) {
  const [place, setPlace] = useState(0)
  const [reasons, setReasons] = useState<Record<number, string>>({})
  const [said, setSaid] = useState<Record<string, string>>({})
  const offered = prepared[Math.min(place, prepared.length - 1)] as Prepared
  const [opens, open] = useState(false)
  const { chosen, problem: refusedSetting } = useWithSettings(point, offered, said, opens)
  const reason = reasons[place] ?? chosen.reason
  const [days, wait] = useState<number | null>(USUAL_WAIT)
  const posting = useDeed(point, chosen, opens, days, onDecided)
  const ready = reason.trim() !== '' && (chosen.decides || chosen.preview !== null)
  const held = chosen.preview?.held
  const deed = DEEDS[chosen.route] ?? (held ? 'Hand it in' : 'Post')
  usePrepare(chosen.preview?.effect)

  function act() {
    if (ready && !posting.isPending) posting.act(reason)
  }
  const why = useRef<HTMLTextAreaElement>(null)
  const [asked, askWhy] = useState(0)
  useEffect(() => {
    if (asked > 0) why.current?.focus()
  }, [asked])
  function choose(next: number) {
    setPlace(next)
    setSaid({})
    posting.reset()
    // What posts nothing is all in its words.
    if (prepared[next]?.decides) askWhy(asked + 1)
  }
  usePostKey('The case', deed === 'Post' ? 'post what is prepared' : deed, act, point.id)
  useKeys('The case', [
    ...prepared.slice(0, 9).map((one, index) => ({
      keys: `${index + 1}`,
      does: one.title,
      run: () => choose(index),
    })),
  ])

  return (
    <>
      <RouteList
        prepared={prepared.map((one) => (one === offered ? chosen : one))}
        chosen={place}
        onChoose={choose}
      />
      {asksWhere(offered) && (
        <RecordParts
          key={place}
          settings={offered.settings}
          line={offered.route === 'record-missing' ? point.statement_lines[0] : undefined}
          onSay={(part) => setSaid({ ...(said.profit && { profit: said.profit }), ...part })}
        />
      )}
      {offered.route === 'to-owner' && (
        <TextField
          className="w-56"
          label="Private share, in percent"
          inputMode="decimal"
          value={said.share ?? offered.settings.share ?? '100'}
          onChange={(event) => setSaid({ ...said, share: event.target.value })}
        />
      )}
      {offered.settings.interest !== undefined && (
        <TextField
          className="w-72"
          label="Interest in it, by the lender's statement"
          inputMode="decimal"
          value={said.interest ?? ''}
          onChange={(event) => setSaid({ ...said, interest: event.target.value })}
        />
      )}
      {chosen.preview?.earlier_year && (
        <ProfitPartChoice
          value={said.profit ?? 'by-materiality'}
          onChoose={(profit) => setSaid({ ...said, profit })}
        />
      )}
      {!chosen.decides && <OpenForThis periods={openable} opens={opens} onChoose={open} />}
      {held && <p className="border-l-4 border-cork bg-sheet px-3 py-1.5">{held}</p>}
      {chosen.preview?.warnings.map((warning) => (
        <p key={warning} className="text-rust">
          {warning}
        </p>
      ))}
      {chosen.preview && (
        <>
          <Amendings rows={chosen.preview.amendments} />
          <ChartAmendings rows={chosen.preview.chart} />
          <Merges rows={chosen.preview.merges} />
          <TPair accounts={chosen.preview.t_accounts} />
          <Allocations prepared={chosen} />
          <EffectList effect={chosen.preview.effect} />
        </>
      )}
      {chosen.route === 'ask' && <BackAfter value={days} onChoose={wait} />}
      <div className="sticky bottom-0 -mx-1 mt-auto space-y-2 border-t border-edge bg-paper px-1 pt-2.5 pb-3">
        <ProblemNote problem={refusedSetting ?? posting.error} />
        <div className="flex items-start gap-2">
          <TextArea
            ref={why}
            className="grow"
            hideLabel
            label={chosen.route === 'ask' ? 'Question to the client' : 'Reason, kept for good'}
            placeholder={
              chosen.route === 'ask' ? 'What do you want to know?' : 'Why? This is kept for good.'
            }
            value={reason}
            error={
              reason.trim() ? null : 'Say why: somebody else has to understand it in six months.'
            }
            onChange={(event) => setReasons({ ...reasons, [place]: event.target.value })}
          />
          <Button look="post" hint="Ctrl ↵" disabled={!ready || posting.isPending} onClick={act}>
            {deed}
          </Button>
        </div>
      </div>
    </>
  )
}

/** Whether the way leaves open on which account it goes. */
function asksWhere(offered: Prepared): boolean {
  if (offered.route === 'record-missing') return !offered.settings.items && !offered.settings.card
  return offered.settings.account !== undefined && offered.route !== 'to-owner'
}

/** The chosen way, prepared anew where the person said something about it. */
function useWithSettings(
  point: PointView,
  offered: Prepared,
  said: Record<string, string>,
  opens: boolean,
) {
  const client = useClient()
  const [span] = useSpan()
  const settings: Record<string, string> = { ...offered.settings, ...said }
  const asks = !offered.decides && (opens || Object.keys(said).length > 0)
  const { data, error } = useQuery({
    queryKey: ['client', client.code, 'case', point.id, offered.route, settings, opens, span.last],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/points/{point}/preview', {
          params: { path: { client: client.code, point: point.id } },
          body: { route: offered.route, settings, opens, at: span.last },
        }),
      ),
    enabled: asks,
    placeholderData: keepPreviousData,
    retry: false,
  })
  return { chosen: asks && data ? data : offered, problem: asks ? error : null }
}

/** Posts the chosen way or decides by it, and goes on to the next point. */
function useDeed(
  point: PointView,
  chosen: Prepared,
  opens: boolean,
  days: number | null,
  onDecided: () => void,
) {
  const { data: session } = useQuery(sessionOptions)
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const posting = usePosting({
    client: client.name,
    send: ({ reason, shown }: { reason: string; shown: string }, key) =>
      postChange(
        client.code,
        point.id,
        {
          route: chosen.route,
          settings: chosen.settings,
          opens,
          reason,
          shown,
        },
        key,
      ),
    handIn: ({ reason, shown }) =>
      chosen.preview?.held
        ? {
            act: {
              act: 'point',
              point: point.id,
              route: chosen.route,
              settings: chosen.settings,
            },
            reason,
            shown,
          }
        : null,
    onDone: onDecided,
    goesOn: true,
  })
  const deciding = useMutation({
    mutationFn: (reason: string) =>
      answered(
        api.POST('/api/clients/{client}/points/{point}/decision', {
          params: { path: { client: client.code, point: point.id } },
          body: {
            route: chosen.route,
            reason,
            back_on: chosen.route === 'ask' && session ? backOn(session.today, days) : null,
          },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      onDecided()
      const state = DECIDED[chosen.route] ?? 'is decided, with your reason'
      tell({ text: `${client.name}: ${point.headline} ${state}.` })
    },
  })
  return {
    act: (reason: string) =>
      chosen.decides
        ? deciding.mutate(reason)
        : posting.mutate({ reason, shown: chosen.preview?.digest ?? '' }),
    isPending: posting.isPending || deciding.isPending,
    error: posting.error ?? deciding.error,
    reset: () => {
      posting.reset()
      deciding.reset()
    },
  }
}

/** What is allocated to what, where a route settles open items. */
function Allocations({ prepared }: { prepared: Prepared }) {
  const rows = prepared.preview?.allocations ?? []
  if (rows.length === 0) return null
  return (
    <p className="text-quiet">
      {rows
        .map((row) => {
          const both = `${named(row.debit_transaction)} with ${named(row.credit_transaction)}`
          return row.undoes ? `frees ${both}` : `settles ${both}`
        })
        .join(' · ')}
    </p>
  )
}

function named(transaction: string): string {
  return transaction.startsWith('new-') ? 'the new entry' : transaction
}
