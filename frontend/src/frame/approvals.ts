import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type Act = Schemas['HandInBody']['act']
export type ProposalRow = Schemas['ProposalRow']

/** What waits for another's approval, and what came back to this person. */
export function proposalsOptions(client: string) {
  return queryOptions({
    queryKey: ['client', client, 'proposals'],
    queryFn: () =>
      answered(api.GET('/api/clients/{client}/proposals', { params: { path: { client } } })),
  })
}

export interface HandIn {
  act: Act
  reason: string
  shown: string
  draft?: string
}

/** Hands in what may not be posted without another's approval; its number. */
export async function handIn(client: string, { draft, ...body }: HandIn): Promise<number> {
  const handed = await answered(
    api.POST('/api/clients/{client}/proposals', {
      params: { path: { client } },
      body: { ...body, draft: draft ?? null },
    }),
  )
  return handed.number
}
