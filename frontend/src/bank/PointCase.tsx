import { useQuery } from '@tanstack/react-query'
import { caseOptions } from '../frame/case/queries'
import { Routes } from '../frame/case/Routes'
import { useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { StatementLines } from '../ledger/StatementLines'
import { ProblemNote } from '../ui/ProblemNote'
import { Waiting } from '../ui/Waiting'

/** The case of a point of the bank, in place: the same routes as on the review page. */
export function PointCase({ point, onDone }: { point: string; onDone: () => void }) {
  const client = useClient()
  const [span] = useSpan()
  const { data, error } = useQuery(caseOptions(client.code, point, span.last))
  if (error) return <ProblemNote problem={error} />
  if (!data) return <Waiting />
  return (
    <article aria-label="The case" className="flex flex-col gap-3">
      <h2 className="font-display text-lg font-semibold">{data.point.summary}</h2>
      <p className="text-quiet">{data.point.because.join(' · ')}</p>
      {data.point.against.length > 0 && (
        <p className="text-quiet">
          <span className="font-semibold">against it</span> {data.point.against.join(' · ')}
        </p>
      )}
      <StatementLines lines={data.point.statement_lines} />
      {data.prepared.length > 0 && (
        <Routes
          point={data.point}
          prepared={data.prepared}
          openable={data.openable}
          onDecided={onDone}
        />
      )}
    </article>
  )
}
