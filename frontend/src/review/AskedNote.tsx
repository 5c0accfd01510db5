import { Link } from 'react-router'
import type { Query } from '../frame/asking/AnswerNote'
import { AnswerNote } from '../frame/asking/AnswerNote'
import { useClient } from '../frame/queries'
import { useSpanSearch } from '../frame/useSpan'
import { dayWords } from '../ledger/words'

/** What the client was asked about a point, and what came back. */
export function AskedNote({ query }: { query: Query }) {
  const client = useClient()
  const search = useSpanSearch()
  return (
    <section aria-label="Asked" className="space-y-1.5">
      <p>
        <span className="text-quiet">
          {query.by} asked, {dayWords(query.at)}:
        </span>{' '}
        {query.question}{' '}
        <Link className="text-tide underline" to={`/clients/${client.code}/queries${search}`}>
          {query.state === 'late' ? 'no answer came in time' : query.state}
        </Link>
      </p>
      {query.answers.map((answer) => (
        <AnswerNote key={answer.number} answer={answer} />
      ))}
    </section>
  )
}
