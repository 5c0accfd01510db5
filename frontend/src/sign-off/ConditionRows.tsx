import { Link } from 'react-router'
import type { Schemas } from '../api/client'
import { useClient } from '../frame/queries'
import { useSpanSearch } from '../frame/useSpan'

/** Conditions with where each stands, and the way to where it is put right; rows of a list. */
export function ConditionRows({ conditions }: { conditions: Schemas['ConditionAnswer'][] }) {
  const client = useClient()
  const search = useSpanSearch()
  return conditions.map((condition) => (
    <li
      key={condition.name}
      className="grid grid-cols-[26px_200px_1fr_auto] items-baseline gap-x-1 border-b border-rule py-1.5"
    >
      <MetMark met={condition.met} />
      <strong className="font-semibold">{condition.name}</strong>
      <span className={condition.met ? 'text-quiet' : 'text-rust'}>{condition.says}</span>
      {condition.leads_to !== 'sign-off' && (
        <Link
          className="text-tide hover:underline"
          to={`/clients/${client.code}/${condition.leads_to}${search}`}
        >
          {condition.met ? 'look' : 'put it right'}
        </Link>
      )}
    </li>
  ))
}

/** A tick or a ring: met or not, by shape as well as by colour. */
export function MetMark({ met }: { met: boolean }) {
  return (
    <svg
      role="img"
      aria-label={met ? 'met' : 'not met'}
      width="16"
      height="16"
      viewBox="0 0 16 16"
      fill="none"
      strokeWidth="2"
      className={`self-center ${met ? 'stroke-moss' : 'stroke-rust'}`}
    >
      {met ? <path d="M3 8.5l3.4 3.4L13 4.6" /> : <circle cx="8" cy="8" r="5" />}
    </svg>
  )
}
