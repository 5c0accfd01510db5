import {
  queryOptions,
  useIsMutating,
  useQuery,
  useQueryClient,
  useSuspenseQuery,
} from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { useClientCode } from './useClientCode'
import { useYearLabel } from './useYearLabel'

export type Client = Schemas['ClientAnswer']
export type Chart = Schemas['ChartAnswer']

export const deskOptions = queryOptions({
  queryKey: ['desk'],
  queryFn: () => answered(api.GET('/api/desk')),
  staleTime: 10_000,
  refetchInterval: (query) => (query.state.data?.rows.some((row) => !row.current) ? 1_000 : false),
})

export function clientOptions(code: string, year: string | null) {
  return queryOptions({
    queryKey: ['client', code, 'overview', year],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}', {
          params: { path: { client: code }, query: year ? { year } : {} },
        }),
      ),
    staleTime: 60_000,
    // What is counted behind comes by itself.
    refetchInterval: (query) => (query.state.data?.open_points === null ? 500 : false),
  })
}

/** The client of the page in the year of the page. */
export function useClient(): Client {
  const code = useClientCode()
  const [year] = useYearLabel()
  return useSuspenseQuery(clientOptions(code, year)).data
}

export function figuresOptions(code: string, at: string) {
  return queryOptions({
    queryKey: ['client', code, 'figures', at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/figures', {
          params: { path: { client: code }, query: { at } },
        }),
      ),
    staleTime: 60_000,
  })
}

export function chartOptions(code: string, at: string) {
  return queryOptions({
    queryKey: ['client', code, 'chart', at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/chart', {
          params: { path: { client: code }, query: { at } },
        }),
      ),
    staleTime: 60_000,
  })
}

/** Fetches everything of the client anew: after a post, or when somebody else posted. */
export function useRefreshClient(): () => Promise<void> {
  const queries = useQueryClient()
  const code = useClientCode()
  return async () => {
    await Promise.all([
      queries.invalidateQueries({ queryKey: ['client', code] }),
      queries.invalidateQueries({ queryKey: ['desk'] }),
    ])
  }
}

/** Asks again and again whether anything moved; *onMoved* when somebody else posted or decided. */
export function useWatchRevision(client: Client, onMoved: () => void) {
  const refresh = useRefreshClient()
  const known = useRef(client.revision)
  const { data } = useQuery({
    queryKey: ['revision', client.code],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/revision', { params: { path: { client: client.code } } }),
      ),
    refetchInterval: 3_000,
  })
  const seen = data?.revision
  // What one posts oneself raises the revision too: until that is through, it is nobody else's.
  const busy = useIsMutating() > 0
  useEffect(() => {
    known.current = Math.max(known.current, client.revision)
  }, [client.revision])
  useEffect(() => {
    if (!busy && seen !== undefined && seen > known.current) {
      known.current = seen
      refresh().then(onMoved)
    }
  }, [busy, seen, refresh, onMoved])
}

/** Every proof of the trial balance as at the end of a day. */
export function tieOutsOptions(client: string, at: string) {
  return queryOptions({
    queryKey: ['client', client, 'tie-outs', at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/tie-outs', {
          params: { path: { client }, query: { at } },
        }),
      ),
  })
}

/** The register of fixed assets at the end of a day. */
export function assetsOptions(client: string, at: string) {
  return queryOptions({
    queryKey: ['client', client, 'assets', at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/assets', { params: { path: { client }, query: { at } } }),
      ),
  })
}
