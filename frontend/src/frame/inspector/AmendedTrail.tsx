import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { capital, dayWords, fieldWords } from '../../ledger/words'
import { TakeBack } from './TakeBack'

interface AmendedTrailProps {
  rows: Schemas['AmendedAnswer'][]
}

/** What its words were before, who amended them and why; each can be taken back. */
export function AmendedTrail({ rows }: AmendedTrailProps) {
  const [taking, setTaking] = useState<number | null>(null)
  return (
    <>
      {rows.length > 0 && (
        <ul aria-label="Amendments" className="space-y-1">
          {rows.map((row) => (
            <li key={`${row.change} ${row.field} ${row.at}`}>
              <span className={row.undone ? 'text-quiet line-through' : ''}>
                {capital(fieldWords(row.field))} amended {dayWords(row.at)}
                {row.by && ` by ${row.by}`}: {row.before ?? 'none'} → {row.after ?? 'none'}.
              </span>{' '}
              <span className="text-quiet">{row.reason}</span>
              {row.undone && <span className="text-quiet"> · taken back since</span>}
              {row.can_take_back && row.change !== null && row.change !== taking && (
                <button
                  type="button"
                  className="ml-3 text-tide hover:underline"
                  onClick={() => setTaking(row.change)}
                >
                  Take it back
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {taking !== null && <TakeBack change={taking} onCancel={() => setTaking(null)} />}
    </>
  )
}
