import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../../api/client'

export type PointView = Schemas['PointView']
export type Case = Schemas['CaseAnswer']
export type Prepared = Schemas['PreparedAnswer']

export function caseOptions(client: string, point: string, at: string) {
  return queryOptions({
    queryKey: ['client', client, 'case', point, at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/points/{point}', {
          params: { path: { client, point }, query: { at } },
        }),
      ),
  })
}
