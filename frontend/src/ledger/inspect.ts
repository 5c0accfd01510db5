import { useSearchParams } from 'react-router'

/** What the drawer shows: a transaction, an account's or party's movements, an aged list, a change. */
export interface Inspected {
  kind: 'transaction' | 'account' | 'party' | 'aged'
  name: string
}

const PARAMETER = 'open'

/** What the address has open in the drawer. */
export function useInspected(): Inspected | null {
  const [search] = useSearchParams()
  const [kind, ...rest] = (search.get(PARAMETER) ?? '').split('~')
  const name = rest.join('~')
  if (kind !== 'transaction' && kind !== 'account' && kind !== 'party' && kind !== 'aged')
    return null
  return { kind, name }
}

/** Opens something in the drawer, in the address, so that the back key closes it; null closes. *route*: what
 * is to be done with it at once. */
export function useInspect(): (what: Inspected | null, route?: string) => void {
  const [, setSearch] = useSearchParams()
  return (what, route) =>
    setSearch((old) => {
      const next = new URLSearchParams(old)
      next.delete('do')
      if (what && route) next.set('do', route)
      if (what) next.set(PARAMETER, `${what.kind}~${what.name}`)
      else next.delete(PARAMETER)
      return next
    })
}
