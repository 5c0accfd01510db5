import { useSuspenseQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Routes } from '../frame/case/Routes'
import { useClient } from '../frame/queries'
import { Remarks } from '../frame/remarks/Remarks'
import { useSpan, useSpanSearch } from '../frame/useSpan'
import { Slip, type SlipFacts } from '../ledger/Slip'
import { StatementLines } from '../ledger/StatementLines'
import { amountWords, dayWords } from '../ledger/words'
import { AskedNote } from './AskedNote'
import { Decided } from './Decided'
import { caseOptions, type PointView } from './queries'
import { UsualNote } from './UsualNote'

interface CasePaneProps {
  point: PointView
  onDecided: () => void
}

/** One sentence, the evidence side by side, the routes, and what they would do. */
export function CasePane({ point, onDecided }: CasePaneProps) {
  const client = useClient()
  const [span] = useSpan()
  const search = useSpanSearch()
  const { data } = useSuspenseQuery(caseOptions(client.code, point.id, span.last))
  const isOpen = data.point.state === 'open'
  return (
    <article aria-label="The case" className="flex min-h-full flex-col gap-3 pt-4 pr-5 pl-6">
      <header>
        <h1 className="text-[21px] leading-[27px] font-semibold">{data.point.summary}</h1>
        <p className="mt-0.5 text-quiet">
          {[amountWords(data.point.amount), data.point.level, ...data.point.because].join(' · ')}
        </p>
        {data.point.against.length > 0 && (
          <p className="text-quiet">
            <span className="font-semibold">against it</span> {data.point.against.join(' · ')}
          </p>
        )}
      </header>
      {data.point.taken_for.length > 0 && (
        <p className="border-l-4 border-cork bg-sheet px-3 py-2">
          It rests on what an account is taken for.{' '}
          <Link
            className="text-tide hover:underline"
            to={`/clients/${client.code}/books/accounts${search}`}
          >
            Confirm what {data.point.taken_for.join(' and ')}{' '}
            {data.point.taken_for.length > 1 ? 'are' : 'is'}
          </Link>
          , and it is surer.
        </p>
      )}
      {data.point.changed && data.point.decision && (
        <p className="border-l-4 border-rust bg-sheet px-3 py-2">
          Open again: {data.changes.join('; ')}.{' '}
          <span className="text-quiet">
            {data.point.decision.by} had decided, {dayWords(data.point.decision.at)}: “
            {data.point.decision.reason}”
          </span>
        </p>
      )}
      {data.point.handed_in && (
        <p role="status" className="border-l-4 border-tide bg-sheet px-3 py-2">
          A correction of this was handed in and{' '}
          <Link
            className="text-tide hover:underline"
            to={`/clients/${client.code}/entries/proposal-${data.point.handed_in}${search}`}
          >
            waits for approval
          </Link>
          .
        </p>
      )}
      {data.point.query && <AskedNote query={data.point.query} />}
      <StatementLines lines={data.point.statement_lines} />
      {data.evidence.length > 0 && <Evidence slips={data.evidence} />}
      {data.usual && <UsualNote usual={data.usual} />}
      <GoesWithIt said={data.point.consequences} />
      {!isOpen && <Decided point={data.point} onDone={onDecided} />}
      {data.prepared.length > 0 && (
        <Routes
          point={data.point}
          prepared={data.prepared}
          openable={data.openable}
          onDecided={onDecided}
        />
      )}
      <Remarks about="point" name={point.id} />
    </article>
  )
}

/** What other checks saw of the same entries: it comes of this, or this explains it better. */
function GoesWithIt({ said }: { said: string[] }) {
  const [first, ...others] = said
  if (!first) return null
  const heading = (
    <span className="text-quiet">Seen too, and explained by it; left, each stands on its own:</span>
  )
  if (others.length === 0) {
    return (
      <p>
        {heading} {first}
      </p>
    )
  }
  return (
    <details>
      <summary>
        {heading} {first} <span className="text-quiet">and {others.length} more</span>
      </summary>
      <ul className="mt-1 list-disc pl-8">
        {others.map((one) => (
          <li key={one}>{one}</li>
        ))}
      </ul>
    </details>
  )
}

/** So many slips are seen at once; the others behind a word. */
const SHOWN = 6

function Evidence({ slips }: { slips: SlipFacts[] }) {
  const more = slips.slice(SHOWN)
  return (
    <section aria-label="Evidence">
      <Slips slips={slips.slice(0, SHOWN)} />
      {more.length > 0 && (
        <details className="mt-3">
          <summary className="mb-3 text-quiet">and {more.length} more of them</summary>
          <Slips slips={more} />
        </details>
      )}
    </section>
  )
}

function Slips({ slips }: { slips: SlipFacts[] }) {
  const columns = slips.length >= 3 ? 'grid-cols-3' : 'grid-cols-2'
  return (
    <div className={`grid items-start gap-3 ${columns}`}>
      {slips.map((slip) => (
        <Slip
          key={slip.id}
          slip={slip}
          beside={slips.find((other) => other.id !== slip.id && isTwin(other, slip))}
        />
      ))}
    </div>
  )
}

/** Documents of one kind and sum are looked at for what differs between them. */
function isTwin(one: SlipFacts, other: SlipFacts): boolean {
  return one.kind === other.kind && one.total === other.total && one.party === other.party
}
