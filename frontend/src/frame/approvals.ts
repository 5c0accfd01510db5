import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type ProposalRow = Schemas['ProposalRow']

/** What waits for another's approval, and what came back to this person. */
export function proposalsOptions(client: string) {
  return queryOptions({
    queryKey: ['client', client, 'proposals'],
    queryFn: () =>
      answered(api.GET('/api/clients/{client}/proposals', { params: { path: { client } } })),
  })
}
