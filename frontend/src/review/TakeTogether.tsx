import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { PostPanel } from '../frame/PostPanel'
import { useClient } from '../frame/queries'
import { useAct } from '../frame/useAct'
import { amountWords, counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import type { PointView } from './queries'

interface TakeTogetherProps {
  points: PointView[]
  onClose: () => void
}

/** The recommended route of several sure points, as one change: one effect for all, taken back as one. */
export function TakeTogether({ points, onClose }: TakeTogetherProps) {
  const client = useClient()
  const [chosen, setChosen] = useState(() => new Set(points.map((point) => point.id)))
  // The points as they were when this was opened: they go from the list once they are posted.
  const [listed] = useState(points)
  const taken = listed.map((point) => point.id).filter((id) => chosen.has(id))
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: ['client', client.code, 'together', taken],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/points-together', {
          params: { path: { client: client.code } },
          body: { points: taken },
        }),
      ),
    enabled: taken.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  })
  const refused = data?.rows.filter((row) => row.refused) ?? []
  const fits = taken.length > 0 && !isPlaceholderData && refused.length === 0
  const acting = useAct({ act: fits ? { act: 'together', points: taken } : null, onDone: onClose })
  const held = acting.preview?.held
  return (
    <Dialog title={`${counted(listed.length, 'sure point')} of one kind`} onClose={onClose}>
      <p className="mb-2 text-quiet">
        Each by its recommended route with its own reason, all of them in one change or none; it can
        be taken back as one.
      </p>
      <ul className="max-h-[34vh] overflow-auto border-t border-edge">
        {listed.map((point) => {
          const row = data?.rows.find((listed) => listed.point === point.id)
          return (
            <li key={point.id} className="flex items-baseline gap-3 border-b border-rule py-1.5">
              <input
                type="checkbox"
                aria-label={`Take ${point.headline}`}
                checked={chosen.has(point.id)}
                disabled={acting.isPending}
                onChange={() => {
                  const next = new Set(chosen)
                  if (!next.delete(point.id)) next.add(point.id)
                  setChosen(next)
                }}
              />
              <span className="grow">
                <strong className="font-semibold">{point.headline}</strong> {point.short}
                {row && chosen.has(point.id) && (
                  <span className={`block ${row.refused ? 'text-rust' : 'text-quiet'}`}>
                    {row.title}. {row.refused ?? row.reason}
                  </span>
                )}
              </span>
              <span className="w-24 shrink-0 text-right">{amountWords(point.amount)}</span>
            </li>
          )
        })}
      </ul>
      <div className="mt-3">
        {held ? (
          <p className="border-l-4 border-cork bg-sheet px-3 py-1.5">
            {held} Take these one by one to hand them in.
          </p>
        ) : refused.length > 0 ? (
          <p className="text-rust">Leave out what can’t go with the others.</p>
        ) : (
          <PostPanel
            brief
            label={`Post ${taken.length} to ${client.name}`}
            acting={{ ...acting, problem: error ?? acting.problem }}
          />
        )}
        <Button look="bare" className="mt-2" onClick={onClose}>
          Do nothing
        </Button>
      </div>
    </Dialog>
  )
}
