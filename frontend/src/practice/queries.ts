import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type Member = Schemas['StaffAnswer']
export type Account = Schemas['OwnAccount']

export const practiceOptions = queryOptions({
  queryKey: ['practice'],
  queryFn: () => answered(api.GET('/api/practice')),
})

export const clientsOptions = queryOptions({
  queryKey: ['practice', 'clients'],
  queryFn: () => answered(api.GET('/api/practice/clients')),
})

export const accountOptions = queryOptions({
  queryKey: ['account'],
  queryFn: () => answered(api.GET('/api/account')),
})

/** What is set for several clients at once. */
export type AskedOfMany =
  | { kind: 'facts'; facts: Record<string, string>; reason: string }
  | { kind: 'states'; through: string; state: Schemas['StatesOfMany']['state']; reason: string }
