import { useQueries, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { newKey } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { amountWords, counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { ProblemNote } from '../ui/ProblemNote'
import { caseOptions, type PointView, postChange } from './queries'

interface TakeTogetherProps {
  points: PointView[]
  onClose: () => void
}

/** Posts the recommended route of several sure points, one change each, with what each would do. */
export function TakeTogether({ points, onClose }: TakeTogetherProps) {
  const client = useClient()
  const [span] = useSpan()
  const refresh = useRefreshClient()
  const queries = useQueryClient()
  const [chosen, setChosen] = useState(() => new Set(points.map((point) => point.id)))
  const [done, setDone] = useState<string[]>([])
  const [problem, setProblem] = useState<Error | null>(null)
  const [busy, setBusy] = useState(false)
  // The points as they were when this was opened: they go from the list while they are posted.
  const [listed] = useState(points)
  const cases = useQueries({
    queries: listed.map((point) => caseOptions(client.code, point.id, span.last)),
  })

  async function postAll() {
    setBusy(true)
    setProblem(null)
    try {
      for (const point of listed) {
        if (!chosen.has(point.id) || done.includes(point.id)) continue
        // Prepared anew each time: the one before may have moved what this one reads.
        const fresh = await queries.fetchQuery({
          ...caseOptions(client.code, point.id, span.last),
          staleTime: 0,
        })
        const first = fresh.prepared[0]
        if (!first?.preview)
          throw new Error(first?.refused ?? `${point.headline}: nothing to post.`)
        const asked = {
          route: first.route,
          settings: first.settings,
          opens: false,
          reason: first.reason,
          shown: first.preview.digest,
        }
        await postChange(client.code, point.id, asked, newKey())
        setDone((old) => [...old, point.id])
      }
    } catch (wrong) {
      setProblem(wrong instanceof Error ? wrong : new Error(`${wrong}`))
    }
    await refresh()
    setBusy(false)
  }

  const left = [...chosen].filter((id) => !done.includes(id)).length
  return (
    <Dialog title={`${counted(listed.length, 'sure point')} of one kind`} onClose={onClose}>
      <p className="mb-2 text-quiet">
        Each is posted by its recommended route, as a change of its own with its own reason, and can
        be taken back alone.
      </p>
      <ul className="border-t border-edge">
        {listed.map((point, place) => {
          const first = cases[place]?.data?.prepared[0]
          return (
            <li key={point.id} className="flex items-baseline gap-3 border-b border-rule py-1.5">
              <input
                type="checkbox"
                aria-label={`Take ${point.headline}`}
                checked={chosen.has(point.id)}
                disabled={busy || done.includes(point.id)}
                onChange={() => {
                  const next = new Set(chosen)
                  if (!next.delete(point.id)) next.add(point.id)
                  setChosen(next)
                }}
              />
              <span className="grow">
                <strong className="font-semibold">{point.headline}</strong> {point.short}
                <span className="block text-quiet">
                  {first ? `${first.title}. ${first.refused ?? first.reason}` : 'preparing …'}
                </span>
              </span>
              <span className="w-24 shrink-0 text-right">{amountWords(point.amount)}</span>
              <span className="w-14 shrink-0 text-right text-moss">
                {done.includes(point.id) ? 'posted' : ''}
              </span>
            </li>
          )
        })}
      </ul>
      <ProblemNote problem={problem} className="mt-3" />
      <div className="mt-4 flex items-center gap-3">
        <Button look="post" disabled={busy || left === 0} onClick={postAll}>
          Post {left} to {client.name}
        </Button>
        <Button onClick={onClose}>{done.length > 0 ? 'Done' : 'Do nothing'}</Button>
        <span role="status" className="text-quiet">
          {busy && `posting ${done.length + 1} of ${chosen.size} …`}
        </span>
      </div>
    </Dialog>
  )
}
