import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type PostingRow = Schemas['PostingRow']
export type Draft = Schemas['DraftAnswer']

interface Wanted {
  ours?: boolean
  first?: string
  last?: string
  q?: string
  kind?: Schemas['TransactionKind']
  signs?: boolean
}

export function postingsOptions(client: string, wanted: Wanted) {
  return queryOptions({
    queryKey: ['client', client, 'postings', wanted],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/transactions', {
          params: { path: { client }, query: wanted },
        }),
      ),
  })
}

export function draftsOptions(client: string) {
  return queryOptions({
    queryKey: ['client', client, 'drafts'],
    queryFn: () =>
      answered(api.GET('/api/clients/{client}/drafts', { params: { path: { client } } })),
  })
}

export function bookkeeperOptions(client: string, told: boolean) {
  return queryOptions({
    queryKey: ['client', client, 'bookkeeper', told],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/bookkeeper', {
          params: { path: { client }, query: { told } },
        }),
      ),
  })
}
