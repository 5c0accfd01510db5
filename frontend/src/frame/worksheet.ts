import { queryOptions } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import type { Client } from './queries'
import { type Sheet, sheetQuery } from './useSheet'
import type { Span } from './useSpan'

/** *against*: the earlier year beside it; the last one where none is named. */
export function worksheetOptions(client: Client, span: Span, sheet: Sheet) {
  const asked = sheetQuery(sheet, span.first, client.year.first_day)
  const query = { year: client.year.label, at: span.last, ...asked }
  return queryOptions({
    queryKey: ['client', client.code, 'worksheet', query],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/worksheet', {
          params: { path: { client: client.code }, query },
        }),
      ),
  })
}
