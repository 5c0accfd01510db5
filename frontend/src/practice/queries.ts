import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type Member = Schemas['StaffAnswer']
export type Account = Schemas['OwnAccount']

export const practiceOptions = queryOptions({
  queryKey: ['practice'],
  queryFn: () => answered(api.GET('/api/practice')),
})

export const accountOptions = queryOptions({
  queryKey: ['account'],
  queryFn: () => answered(api.GET('/api/account')),
})
