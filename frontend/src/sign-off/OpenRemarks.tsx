import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { useClient } from '../frame/queries'
import { type Remark, remarksOptions } from '../frame/remarks/queries'
import { RemarkThread } from '../frame/remarks/Remarks'
import { useSpanSearch } from '../frame/useSpan'
import { useInspect } from '../ledger/inspect'

/** Remarks that wait to be cleared, each with the way to what it is about. */
export function OpenRemarks() {
  const client = useClient()
  const { data } = useQuery(remarksOptions(client.code))
  const open = data?.remarks.filter((remark) => remark.waits) ?? []
  if (open.length === 0) return null
  return (
    <section aria-label="Remarks to be cleared" className="space-y-2">
      <h2 className="font-sans font-semibold text-deep">Remarks to be cleared</h2>
      {open.map((remark) => (
        <div key={remark.said.number}>
          <Subject remark={remark} />
          <RemarkThread remark={remark} />
        </div>
      ))}
    </section>
  )
}

const WORDS = { account: 'Account', transaction: 'Transaction' } as const

function Subject({ remark: { about, name } }: { remark: Remark }) {
  const client = useClient()
  const search = useSpanSearch()
  const inspect = useInspect()
  if (about === 'account' || about === 'transaction') {
    return (
      <button
        type="button"
        className="text-tide hover:underline"
        onClick={() => inspect({ kind: about, name })}
      >
        {WORDS[about]} {name}
      </button>
    )
  }
  const page = about === 'point' ? `review?point=${name}` : `tie-outs?proof=${name}`
  return (
    <Link
      className="text-tide hover:underline"
      to={`/clients/${client.code}/${page}${search.replace('?', '&')}`}
    >
      {about === 'point' ? 'Review point' : `Tie-out ${name}`}
    </Link>
  )
}
