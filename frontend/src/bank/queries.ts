import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type SpineRow = Schemas['SpineRow']
export type Reconciliation = Schemas['ReconciliationAnswer']
export type BankAccount = Schemas['BankAccountAnswer']

export function bankOptions(client: string) {
  return queryOptions({
    queryKey: ['client', client, 'bank'],
    queryFn: () =>
      answered(api.GET('/api/clients/{client}/bank', { params: { path: { client } } })),
  })
}

export function reconciliationOptions(client: string, account: string, statement: number | null) {
  return queryOptions({
    queryKey: ['client', client, 'bank', account, statement],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/bank/{account}', {
          params: { path: { client, account }, query: statement === null ? {} : { statement } },
        }),
      ),
  })
}
