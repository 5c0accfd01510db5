import { useQuery } from '@tanstack/react-query'
import { NavLink, useLocation, useNavigate } from 'react-router'
import { useKeys } from '../ui/keys'
import { type Client, tieOutsOptions, useClient } from './queries'
import { SpanDays } from './SpanDays'
import { useSpanSearch } from './useSpan'

const AREAS = [
  { path: 'books', name: 'Books', key: 'g k' },
  { path: 'bank', name: 'Bank', key: 'g b' },
  { path: 'open-items', name: 'Open items', key: 'g o' },
  { path: 'review', name: 'Review', key: 'g r' },
  { path: 'queries', name: 'Queries', key: 'g q' },
  { path: 'owners', name: 'Owners', key: 'g a' },
  { path: 'entries', name: 'Entries', key: 'g e' },
  { path: 'worksheet', name: 'Worksheet', key: 'g w' },
  { path: 'tie-outs', name: 'Tie-outs', key: 'g t' },
  { path: 'sign-off', name: 'Sign-off', key: 'g s' },
] as const

/** The name of the page that is open. */
export function useArea(): string | null {
  const { pathname } = useLocation()
  return AREAS.find((area) => area.path === pathname.split('/')[3])?.name ?? null
}

/** The pages of a client in the order of the work, each with what is left to do in it. */
export function AreaTabs() {
  const client = useClient()
  const search = useSpanSearch()
  const navigate = useNavigate()
  const { data } = useQuery(tieOutsOptions(client.code, client.as_at))
  const proofs = data ? data.tie_outs.filter((proof) => proof.state !== 'agreed').length : 0
  useKeys(
    'Pages of the client',
    AREAS.map((area) => ({
      keys: area.key,
      does: `go to ${area.name.toLowerCase()}`,
      run: () => navigate(`/clients/${client.code}/${area.path}${search}`),
    })),
  )
  return (
    <nav
      aria-label="Pages of the client"
      className="screen-only flex h-[38px] shrink-0 gap-1 border-t border-b-3 border-t-rule border-b-edge px-5 [border-bottom-style:double]"
    >
      {AREAS.map((area) => (
        <NavLink
          key={area.path}
          to={`/clients/${client.code}/${area.path}${search}`}
          className={({ isActive }) =>
            `relative px-3 pt-2 ${isActive ? 'font-semibold text-ink shadow-[inset_0_-3px_0_var(--cork)]' : 'text-quiet hover:text-ink'}`
          }
        >
          {area.name}
          <LeftToDo count={area.path === 'tie-outs' ? proofs : leftIn(area.path, client)} />
        </NavLink>
      ))}
      <SpanDays />
    </nav>
  )
}

/** What is left to do on a page: guesses to confirm, lines not agreed, points that are open,
 * questions to be sent or answered, what waits for this person's approval. */
function leftIn(path: string, client: Client): number | null {
  if (path === 'books') return client.guesses
  if (path === 'bank') return client.unagreed_lines
  if (path === 'queries') return client.queries_to_do
  if (path === 'entries') return client.to_approve
  return path === 'review' ? client.open_points : 0
}

function LeftToDo({ count }: { count: number | null }) {
  if (count === 0) return null
  if (count === null) {
    return (
      <span className="ml-1 text-quiet" title="being counted">
        …
      </span>
    )
  }
  return (
    <b className="ml-1 font-semibold text-deep">
      {count}
      <span className="sr-only"> open</span>
    </b>
  )
}
