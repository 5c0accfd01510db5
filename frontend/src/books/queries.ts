import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type AccountRow = Schemas['AccountAnswer']
export type AccountPart = Schemas['AccountPart']
export type Accounts = Schemas['AccountsAnswer']
export type FileRow = Schemas['FileTakenIn']

export function intakeOptions(client: string, year: string | null) {
  return queryOptions({
    queryKey: ['client', client, 'intake', year],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/intake', {
          params: { path: { client }, query: year ? { year } : {} },
        }),
      ),
    staleTime: 60_000,
  })
}

export function accountsOptions(client: string, at: string) {
  return queryOptions({
    queryKey: ['client', client, 'accounts', at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/accounts', { params: { path: { client }, query: { at } } }),
      ),
    staleTime: 60_000,
  })
}
