import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type SignOff = Schemas['SignOffAnswer']
export type Seal = Schemas['SealAnswer']

export function signOffOptions(client: string, at: string) {
  return queryOptions({
    queryKey: ['client', client, 'sign-off', at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/sign-off', {
          params: { path: { client }, query: { at } },
        }),
      ),
  })
}
