import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type PartyAges = Schemas['PartyAges']
export type OpenItems = Schemas['OpenItemsAnswer']
export type Threads = Schemas['ThreadsAnswer']
export type End = Schemas['EndAnswer']
/** An end that is taken, on its way to what it settles, here or at another party. */
export interface Taken {
  transaction: string
  side: 'debit' | 'credit'
  party: string | null
  loose: boolean
}
export type Which = 'receivables' | 'payables'

export function openItemsOptions(client: string, which: Which, at: string) {
  return queryOptions({
    queryKey: ['client', client, 'open items', which, at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/open-items/{which}', {
          params: { path: { client, which }, query: { at } },
        }),
      ),
  })
}

export function threadsOptions(
  client: string,
  which: Which,
  party: string | null,
  at: string,
  everything: boolean,
) {
  return queryOptions({
    queryKey: ['client', client, 'threads', which, party, at, everything],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/threads/{which}', {
          params: { path: { client, which }, query: { at, everything, ...(party && { party }) } },
        }),
      ),
  })
}
