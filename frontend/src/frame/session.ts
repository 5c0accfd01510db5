import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type Person = Schemas['PersonAnswer']

export const sessionOptions = queryOptions({
  queryKey: ['session'],
  queryFn: () => answered(api.GET('/api/session')),
  staleTime: 60_000,
})

let last: Person | null = null

/** Who is at work. Only used where somebody is signed in, or was until the session ended. */
export function usePerson(): Person {
  const { data } = useQuery(sessionOptions)
  if (data?.person) last = data.person
  return (
    data?.person ?? last ?? { code: '', name: '', role: 'preparer', may: [], writes_drafts: false }
  )
}

export function useSignOut(): () => Promise<void> {
  const queries = useQueryClient()
  return async () => {
    await answered(api.DELETE('/api/session'))
    queries.clear()
    window.location.assign('/')
  }
}
