import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../../api/client'

export type Recipe = Schemas['RecipeAnswer']
export type Asset = Schemas['AssetRowAnswer']
export type AssetRow = Schemas['AssetRow']
export type Rate = Schemas['RateAnswer']

export function recipesOptions(client: string, at: string) {
  return queryOptions({
    queryKey: ['client', client, 'recipes', at],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/recipes', { params: { path: { client }, query: { at } } }),
      ),
  })
}

export function ratesOptions(client: string) {
  return queryOptions({
    queryKey: ['client', client, 'rates'],
    queryFn: () =>
      answered(api.GET('/api/clients/{client}/rates', { params: { path: { client } } })),
  })
}

/** The rows of a CSV file of assets; nothing is kept of it. */
export function readAssets(client: string, file: File) {
  return answered(
    api.POST('/api/clients/{client}/assets/table', {
      params: { path: { client } },
      ...asBytes(file),
    }),
  )
}

/** The rows of a CSV file of rates; nothing is kept of it. */
export function readRates(client: string, file: File) {
  return answered(
    api.POST('/api/clients/{client}/rates/table', {
      params: { path: { client } },
      ...asBytes(file),
    }),
  )
}

function asBytes(file: File) {
  return {
    body: file as never,
    bodySerializer: (body: unknown) => body as never,
    headers: { 'Content-Type': 'application/octet-stream' },
  }
}
