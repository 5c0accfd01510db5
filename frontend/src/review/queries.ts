import { queryOptions } from '@tanstack/react-query'
import { answered, api } from '../api/client'

export {
  type Case,
  caseOptions,
  type PointView,
  type Prepared,
} from '../frame/case/queries'

export function pointsOptions(client: string) {
  return queryOptions({
    queryKey: ['client', client, 'points'],
    queryFn: () =>
      answered(api.GET('/api/clients/{client}/points', { params: { path: { client } } })),
  })
}
