import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { answered, api } from '../api/client'
import { useClient } from '../frame/queries'
import { useSettled } from '../ui/useSettled'
import { isBlank, type Keyed, sent } from './composed'
import { draftsOptions } from './queries'

/** What has been keyed so far, worked out by the server: sums, faults and, once whole, the effect. */
export function useWorkedOut(entry: Keyed, near: string, opens: boolean) {
  const client = useClient()
  const settled = useSettled(entry, 120)
  const body = { entry: sent(settled), near, opens }
  const worked = useQuery({
    queryKey: ['client', client.code, 'composing', body],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/entries/reading', {
          params: { path: { client: client.code } },
          body,
        }),
      ),
    placeholderData: keepPreviousData,
    gcTime: 5_000,
  })
  const isCurrent = settled === entry && !worked.isPlaceholderData && worked.isSuccess
  return { ...worked, isCurrent }
}

/** Keeps what is keyed as a draft by itself, a moment after the last key. */
export function useKeptDraft(entry: Keyed, near: string, initialId: string | null) {
  const client = useClient()
  const queries = useQueryClient()
  const id = useRef(initialId ?? newId())
  const [keptAt, setKeptAt] = useState<string | null>(null)
  const wanted = useRef(true)
  const changed = useRef(false)
  const settled = useSettled(entry, 900)
  const keep = useMutation({
    mutationFn: (content: Keyed) =>
      answered(
        api.PUT('/api/clients/{client}/drafts/{draft}', {
          params: { path: { client: client.code, draft: id.current } },
          body: { content: { ...sent(content), near } as unknown as Record<string, unknown> },
        }),
      ),
    onSuccess: () => {
      setKeptAt(new Date().toTimeString().slice(0, 5))
      queries.invalidateQueries({ queryKey: draftsOptions(client.code).queryKey })
    },
  })
  const { mutate } = keep
  useEffect(() => {
    // What it begins with is not a change: only what a person keys is kept.
    if (changed.current && wanted.current && !isBlank(settled)) mutate(settled)
    changed.current = true
  }, [settled, mutate])
  return {
    id: id.current,
    keptAt,
    problem: keep.error,
    /** Keeps nothing more, nor what a key just before may have kept: it is posted, or not wanted. */
    drop: async () => {
      wanted.current = false
      await api.DELETE('/api/clients/{client}/drafts/{draft}', {
        params: { path: { client: client.code, draft: id.current } },
      })
      await queries.invalidateQueries({ queryKey: draftsOptions(client.code).queryKey })
    },
  }
}

function newId(): string {
  return crypto.randomUUID().replace(/-/g, '').slice(0, 12)
}
