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
import { TextArea } from '../../ui/TextField'
import { usePostKey } from '../../ui/usePostKey'
import { type Act, previewOptions } from '../acts'
import { BackAfter } from '../asking/BackAfter'
import { backOn, USUAL_WAIT } from '../asking/backOn'
import { AskFields, type Said } from '../asks/AskFields'
import { beginning } from '../asks/said'
import { OpenForThis } from '../OpenForThis'
import { usePrepare } from '../prepared'
import { useClient, useRefreshClient } from '../queries'
import { sessionOptions } from '../session'
import { useAct } from '../useAct'
import { useSpan } from '../useSpan'
import { ProfitPartChoice } from './ProfitPartChoice'
import type { PointView, Prepared } from './queries'
import { RecordParts } from './RecordParts'
import { RouteList } from './RouteList'

interface RoutesProps {
  point: PointView
  prepared: Prepared[]
  /** Barred periods of the point that this person may have opened for its correction. */
  openable: string[]
  onDecided: () => void
}

/** The routes, the recommended first; what the chosen one does; the reason; posting it. */
export function Routes({ point, prepared, openable, onDecided }: RoutesProps) {
  const [place, setPlace] = useState(0)
  const [reasons, setReasons] = useState<Record<number, string>>({})
  const [said, setSaid] = useState<Record<string, string>>({})
  const offered = prepared[Math.min(place, prepared.length - 1)] as Prepared
  const where = offered.asks.find((ask) => ask.kind === 'place' || ask.kind === 'parts')
  const [opens, open] = useState(false)
  const { chosen, problem: refusedSetting } = useWithSettings(point, offered, said, opens)
  const reason = reasons[place] ?? chosen.reason
  const [days, wait] = useState<number | null>(USUAL_WAIT)
  const posting = useDeed(point, chosen, opens, days, onDecided)
  const ready = reason.trim() !== '' && (chosen.decides || chosen.preview !== null)
  const held = chosen.preview?.held
  const deed = held ? 'Hand it in' : chosen.deed
  const waits = chosen.asks.some((ask) => ask.kind === 'wait')
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
    ...prepared.slice(0, 9).map((way, index) => ({
      keys: `${index + 1}`,
      does: way.title,
      run: () => choose(index),
    })),
  ])

  return (
    <>
      <RouteList
        prepared={prepared.map((way) => (way === offered ? chosen : way))}
        chosen={place}
        onChoose={choose}
      />
      {where && (
        <RecordParts
          key={place}
          settings={offered.settings}
          line={where.kind === 'parts' ? point.statement_lines[0] : undefined}
          onSay={(part) => setSaid({ ...(said.profit && { profit: said.profit }), ...part })}
        />
      )}
      <AskFields
        asks={offered.asks}
        said={{ ...beginning(offered.asks, ''), ...offered.settings, ...said }}
        onSay={(name, value) => setSaid({ ...said, [name]: value })}
      />
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
      {waits && <BackAfter value={days} onChoose={wait} />}
      <div className="sticky bottom-0 -mx-1 mt-auto space-y-2 border-t border-edge bg-paper px-1 pt-2.5 pb-3">
        <ProblemNote problem={refusedSetting ?? posting.error} />
        <div className="flex items-start gap-2">
          <TextArea
            ref={why}
            className="grow"
            hideLabel
            label={chosen.why}
            placeholder={chosen.why_asks}
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

/** The chosen way, prepared anew where the person said something about it. */
function useWithSettings(
  point: PointView,
  offered: Prepared,
  said: Record<string, string>,
  opens: boolean,
) {
  const client = useClient()
  const [span] = useSpan()
  const settings: Said = { ...offered.settings, ...said }
  const asks = !offered.decides && (opens || Object.keys(said).length > 0)
  const act = pointAct(point.id, offered.route, settings)
  const { data: preview, error } = useQuery({
    ...previewOptions(client.code, asks ? act : null, span.last, opens),
    placeholderData: keepPreviousData,
  })
  const again: Prepared = preview
    ? { ...offered, settings, preview, reason: preview.reason, refused: null }
    : offered
  return { chosen: asks ? again : offered, problem: asks ? error : null }
}

function pointAct(point: string, route: string, settings: Said): Act {
  return { act: 'point', point, route, settings }
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
  const waits = chosen.asks.some((ask) => ask.kind === 'wait')
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const acting = useAct({
    act: pointAct(point.id, chosen.route, chosen.settings),
    opens,
    shown: chosen.preview,
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
            back_on: waits && session ? backOn(session.today, days) : null,
          },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      onDecided()
      tell({ text: `${client.name}: ${point.headline} ${chosen.done}.` })
    },
  })
  return {
    act: (reason: string) => (chosen.decides ? deciding.mutate(reason) : acting.post(reason)),
    isPending: acting.isPending || deciding.isPending,
    error: acting.problem ?? deciding.error,
    reset: () => {
      acting.reset()
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
