import { queryOptions } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'

export type Act = Schemas['ActPreview']['act']
export type Ask = Schemas['AskAnswer']
export type Preview = Schemas['PreviewAnswer']
export type Change = Schemas['ChangeAnswer']

/** What the act would post, and what it moves at the end of a day. */
export function previewOptions(client: string, act: Act | null, at: string, opens = false) {
  return queryOptions({
    queryKey: ['client', client, 'act', act, opens, at],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/acts/preview', {
          params: { path: { client } },
          body: { act: act as Act, opens, at },
        }),
      ),
    enabled: act !== null,
    retry: false,
  })
}

export interface Deed {
  act: Act
  reason?: string
  /** The digest of what was shown; none for an act that says by itself what it does. */
  shown?: string
  opens?: boolean
  draft?: string
  /** Handed in for another's approval instead of being posted. */
  handsIn?: boolean
}

/** Posts it: the change; or hands it in, which posts nothing. */
export async function carryOut(client: string, deed: Deed, key: string): Promise<Change | null> {
  const { act, reason = '', shown, opens = false, draft, handsIn = false } = deed
  const done = await answered(
    api.POST('/api/clients/{client}/acts', {
      params: { path: { client } },
      body: {
        act,
        reason,
        shown: shown ?? null,
        key,
        opens,
        draft: draft ?? null,
        hands_in: handsIn,
      },
    }),
  )
  return done.change ?? null
}
