import { useQuery, useQueryClient, useSuspenseQuery } from '@tanstack/react-query'
import { Suspense, useEffect, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { answered, api } from '../api/client'
import { useClient } from '../frame/queries'
import { type Span, useSpan, useSpanSearch } from '../frame/useSpan'
import { useKeys } from '../ui/keys'
import { useKept } from '../ui/useKept'
import { Waiting } from '../ui/Waiting'
import { CasePane } from './CasePane'
import { FilterBar } from './FilterBar'
import { fits, isFiltering, NO_FILTERS } from './filters'
import { NothingLeft } from './NothingLeft'
import { isSureOf, PointList } from './PointList'
import { caseOptions, type PointView, pointsOptions } from './queries'
import { movedSince, type Since, SinceLast } from './SinceLast'
import type { Order, Showing } from './showing'
import { TakeTogether } from './TakeTogether'

/** The points on the left, the case of one on the right. */
export function ReviewPage() {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useSuspenseQuery(pointsOptions(client.code))
  const { point: named } = useParams()
  const navigate = useNavigate()
  const search = useSpanSearch()
  const [order, setOrder] = useKept<Order>('review order', 'amount')
  const [chosen, setShowing] = useState<Showing | null>(null)
  const [kind, takeTogether] = useState<string | null>(null)
  const [filters, filter] = useState(NO_FILTERS)
  const [onlyMoved, showOnlyMoved] = useState(false)
  const since = useVisit(client.code)
  const moved = movedSince(since)
  const within = data.points.filter((point) => isWithin(point, span))
  const families = [...new Set(within.map((point) => point.family))]
  const shown = within.filter(
    (point) => fits(point, filters) && (!onlyMoved || moved.has(point.id)),
  )
  const showing = chosen ?? showingOf(data.points.find((point) => point.id === named))
  const points = inOrder(
    shown.filter((point) => showingOf(point) === showing),
    order,
  )
  const selected = data.points.find((point) => point.id === named) ?? points[0]

  function open(point: PointView | undefined, replace = false) {
    navigate(`/clients/${client.code}/review${point ? `/${point.id}` : ''}${search}`, { replace })
  }
  function move(step: number) {
    const place = points.findIndex((point) => point.id === selected?.id)
    const next = points[Math.max(0, Math.min(points.length - 1, place + step))]
    if (next) open(next, true)
  }
  /** The point after the one that was just decided, so that one goes from point to point. */
  function onDecided(done: PointView) {
    const place = points.findIndex((point) => point.id === done.id)
    const rest = points.filter((point) => point.id !== done.id)
    setShowing('open')
    open(rest[place] ?? rest[place - 1] ?? undefined, true)
  }
  useFetchedAhead(points, selected?.id)
  useKeys('Review', [
    { keys: 'ArrowDown', does: 'next point', run: () => move(1) },
    { keys: 'ArrowUp', does: 'point before', run: () => move(-1) },
    {
      keys: 'f',
      does: 'filter the points',
      run: () =>
        document.querySelector<HTMLInputElement>('[aria-label="Filter the points"]')?.focus(),
    },
  ])

  return (
    <div className="grid min-h-0 flex-1 grid-cols-[330px_1fr]">
      <PointList
        counts={countsOf(shown)}
        filter={<FilterBar filters={filters} onFilter={filter} families={families} />}
        since={since && <SinceLast since={since} only={onlyMoved} onOnly={showOnlyMoved} />}
        moved={moved}
        showing={showing}
        onShow={(next) => {
          setShowing(next)
          open(undefined)
        }}
        order={order}
        onOrder={setOrder}
        points={points}
        selectedId={selected?.id}
        onSelect={open}
        onTakeTogether={takeTogether}
      />
      <div className="min-h-0 scroll-pb-32 overflow-auto">
        {selected ? (
          <Suspense fallback={<Waiting what="Preparing the routes" />}>
            <CasePane key={selected.id} point={selected} onDecided={() => onDecided(selected)} />
          </Suspense>
        ) : (
          <NothingLeft
            showing={showing}
            any={within.length > 0}
            filtered={isFiltering(filters) || onlyMoved}
          />
        )}
      </div>
      {kind && (
        <TakeTogether
          points={points.filter((point) => isSureOf(point, kind))}
          onClose={() => takeTogether(null)}
        />
      )}
    </div>
  )
}

const AHEAD = 2

/** The cases after the one that is open are fetched while it is read, so that they stand there at once. */
function useFetchedAhead(points: PointView[], open: string | undefined) {
  const client = useClient()
  const [span] = useSpan()
  const queries = useQueryClient()
  const place = points.findIndex((point) => point.id === open)
  const next = place < 0 ? [] : points.slice(place + 1, place + 1 + AHEAD)
  const names = next.map((point) => point.id).join(' ')
  useEffect(() => {
    const timer = window.setTimeout(() => {
      for (const name of names.split(' ').filter(Boolean)) {
        void queries.prefetchQuery({
          ...caseOptions(client.code, name, span.last),
          staleTime: 30_000,
        })
      }
    }, 150)
    return () => window.clearTimeout(timer)
  }, [queries, client.code, span.last, names])
}

/** What moved since the person was last here; asked once for each time that the page is opened. */
function useVisit(client: string): Since | undefined {
  const { data } = useQuery({
    queryKey: ['visit', client],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/points/visit', { params: { path: { client } }, body: {} }),
      ),
    staleTime: 60_000,
  })
  return data
}

/** What was undone long ago still wants deciding: unless months were chosen, earlier years count. */
function isWithin(point: PointView, span: Span): boolean {
  return point.date <= span.last && (span.isDefault || point.date >= span.first)
}

function showingOf(point: PointView | undefined): Showing {
  if (!point || point.state === 'open') return 'open'
  return point.state === 'asked' ? 'asked' : 'done'
}

function countsOf(points: PointView[]): Record<Showing, number> {
  const counts = { open: 0, asked: 0, done: 0 }
  for (const point of points) counts[showingOf(point)]++
  return counts
}

function inOrder(points: PointView[], order: Order): PointView[] {
  const families = [...new Set(points.map((point) => point.family))]
  const compare: Record<Order, (a: PointView, b: PointView) => number> = {
    amount: (a, b) => Number(b.amount) - Number(a.amount),
    certainty: (a, b) => b.certainty - a.certainty,
    date: (a, b) => a.date.localeCompare(b.date),
  }
  return [...points].sort(
    (a, b) => families.indexOf(a.family) - families.indexOf(b.family) || compare[order](a, b),
  )
}
