import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type PartyAges = Schemas['PartyAges']
export type OpenItems = Schemas['OpenItemsAnswer']
export type Threads = Schemas['ThreadsAnswer']
export type End = Schemas['EndAnswer']
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
