import { useSearchParams } from 'react-router'

/** The columns of the worksheet whose figures consist of movements. */
export type FigureColumn = (typeof COLUMNS)[number]

const KINDS = ['transaction', 'account', 'section', 'party', 'aged'] as const
const COLUMNS = [
  'last_year',
  'as_received',
  'corrections',
  'adjusting',
  'reclassifications',
  'closing',
  'adjusted',
] as const

/** What the drawer shows: a transaction, an account's or party's movements, an aged list, a section. */
export interface Inspected {
  kind: (typeof KINDS)[number]
  name: string
  /** The worksheet's column whose figure was opened; without one, all movements. */
  figure?: FigureColumn
}

const PARAMETER = 'open'

/** What the address has open in the drawer. */
export function useInspected(): Inspected | null {
  const [search] = useSearchParams()
  const [said, ...rest] = (search.get(PARAMETER) ?? '').split('~')
  const kind = KINDS.find((known) => known === said)
  if (!kind) return null
  const figure = COLUMNS.find((column) => column === search.get('figure'))
  return { kind, name: rest.join('~'), ...(figure && { figure }) }
}

/** Opens something in the drawer, in the address, so that the back key closes it; null closes. *route*: what
 * is to be done with it at once. */
export function useInspect(): (what: Inspected | null, route?: string) => void {
  const [, setSearch] = useSearchParams()
  return (what, route) =>
    setSearch((old) => {
      const next = new URLSearchParams(old)
      next.delete('do')
      next.delete('figure')
      if (what && route) next.set('do', route)
      if (what?.figure) next.set('figure', what.figure)
      if (what) next.set(PARAMETER, `${what.kind}~${what.name}`)
      else next.delete(PARAMETER)
      return next
    })
}
