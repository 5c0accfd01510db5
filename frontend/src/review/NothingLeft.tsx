import { Link } from 'react-router'
import { useClient } from '../frame/queries'
import { useSpan, useSpanSearch } from '../frame/useSpan'
import { longDayWords } from '../ledger/words'
import type { Showing } from './showing'

interface NothingLeftProps {
  showing: Showing
  any: boolean
  filtered: boolean
}

const SAYS: Record<Showing, string> = {
  open: 'Nothing is left to decide',
  asked: 'Nothing waits for the client',
  done: 'Nothing is decided yet',
}

/** What stands where a case would, when there is none. */
export function NothingLeft({ showing, any, filtered }: NothingLeftProps) {
  const client = useClient()
  const [span] = useSpan()
  const search = useSpanSearch()
  if (filtered) {
    return <p className="p-8 text-quiet">No point has what you filter by. Clear the filter.</p>
  }
  return (
    <div className="max-w-xl space-y-3 p-8">
      <h1 className="text-[21px] leading-7 font-semibold">{SAYS[showing]}</h1>
      {showing === 'open' ? (
        <p>
          {any
            ? `Every point of ${client.name} to ${longDayWords(span.last)} is decided.`
            : `The checks find nothing in the books of ${client.name} to ${longDayWords(span.last)}: no document twice, no bill paid past, no money on account beside what it pays.`}
        </p>
      ) : (
        <p>Points that you decide are kept here with who, when and why.</p>
      )}
      <p>
        Next:{' '}
        <Link
          className="font-semibold text-tide hover:underline"
          to={`/clients/${client.code}/worksheet${search}`}
        >
          read the worksheet
        </Link>{' '}
        <span className="text-quiet">g w</span>
      </p>
    </div>
  )
}
