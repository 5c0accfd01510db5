import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type { Answer, Query } from '../frame/asking/AnswerNote'
export type Board = Schemas['BoardAnswer']

export function boardOptions(client: string) {
  return queryOptions({
    queryKey: ['client', client, 'queries'],
    queryFn: () =>
      answered(api.GET('/api/clients/{client}/queries', { params: { path: { client } } })),
  })
}

/** The questions in the order of what is to be done with them. */
export const BANDS = [
  { state: 'answered', title: 'Answered: read them, then decide' },
  { state: 'late', title: 'No answer by the day that was chosen' },
  { state: 'to send', title: 'To be sent' },
  { state: 'waiting', title: 'Waiting for the client' },
  { state: 'done', title: 'Done' },
] as const
