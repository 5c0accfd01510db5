import { queryOptions, useMutation } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../../api/client'
import { useRefreshClient } from '../queries'

export type Remark = Schemas['RemarkAnswer']
export type About = Remark['about']
export type Mark = Schemas['MarkAnswer']

export function remarksOptions(client: string) {
  return queryOptions({
    queryKey: ['client', client, 'remarks'],
    queryFn: () =>
      answered(api.GET('/api/clients/{client}/remarks', { params: { path: { client } } })),
    staleTime: 60_000,
  })
}

export function marksOptions(client: string, at: string) {
  return queryOptions({
    queryKey: ['client', client, 'marks', at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/marks', { params: { path: { client }, query: { at } } }),
      ),
    staleTime: 60_000,
  })
}

/** Remarks on something, or answers a remark. */
export function useRemarking(client: string) {
  return useMutation({
    mutationFn: (body: Schemas['RemarkOnBody']) =>
      answered(api.POST('/api/clients/{client}/remarks', { params: { path: { client } }, body })),
    onSuccess: useRefreshClient(),
  })
}

export function useClearing(client: string) {
  return useMutation({
    mutationFn: (number: number) =>
      answered(
        api.POST('/api/clients/{client}/remarks/cleared', {
          params: { path: { client } },
          body: { number },
        }),
      ),
    onSuccess: useRefreshClient(),
  })
}

/** Marks a line of the worksheet at the figure that is seen, or takes the mark off. */
export function useMarking(client: string) {
  return useMutation({
    mutationFn: (body: Schemas['MarkBody']) =>
      answered(api.POST('/api/clients/{client}/marks', { params: { path: { client } }, body })),
    onSuccess: useRefreshClient(),
  })
}
