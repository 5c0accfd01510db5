import { useSearchParams } from 'react-router'

/** What the worksheet is of and what stands beside it, as the address says it; the drawer goes by it too. */
export interface Sheet {
  /** The earlier year beside it; null: the last one. */
  against: string | null
  /** Income and costs of the days alone, not of the year so far. */
  alone: boolean
  /** Closing entries in a column of their own. */
  closing: boolean
  /** What stands on it alone, as `site=QUAY`. */
  dimension: string | null
  /** The arrangement that accounts are grouped by. */
  grouped: string | null
}

const NAMES = {
  alone: 'alone',
  closing: 'closing',
  against: 'against',
  dimension: 'dim',
  grouped: 'as',
}

export function useSheet(): [Sheet, (changed: Partial<Sheet>) => void] {
  const [search, setSearch] = useSearchParams()
  const sheet = {
    against: search.get(NAMES.against),
    alone: search.get(NAMES.alone) === '1',
    closing: search.get(NAMES.closing) === '1',
    dimension: search.get(NAMES.dimension),
    grouped: search.get(NAMES.grouped),
  }
  return [
    sheet,
    (changed) =>
      setSearch((old) => {
        const next = new URLSearchParams(old)
        for (const [name, value] of Object.entries(changed)) {
          const parameter = NAMES[name as keyof Sheet]
          if (value) next.set(parameter, value === true ? '1' : value)
          else next.delete(parameter)
        }
        return next
      }),
  ]
}

/** The same as it is asked of the server; a span that begins before the year is always alone. */
export function sheetQuery(sheet: Sheet, first: string, yearBegins: string) {
  return {
    ...(sheet.against && { against: sheet.against }),
    ...((sheet.alone || first < yearBegins) && { first }),
    ...(sheet.closing && { closing: 'in' as const }),
    ...(sheet.dimension && { dimension: sheet.dimension }),
    ...(sheet.grouped && { grouped: sheet.grouped }),
  }
}
