import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { useClient } from '../frame/queries'
import { usePosting } from '../frame/usePosting'
import { useSpan } from '../frame/useSpan'
import type { AccountPart } from './queries'

/** What putting these accounts right would move, and doing it. */
export function useChart(parts: AccountPart[], onDone: () => void) {
  const client = useClient()
  const [span] = useSpan()
  const preview = useQuery({
    queryKey: ['client', client.code, 'chart-preview', parts, span.last],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/accounts/preview', {
          params: { path: { client: client.code } },
          body: { accounts: parts, at: span.last },
        }),
      ),
    enabled: parts.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
  })
  const posting = usePosting({
    client: client.name,
    send: (reason: string, key) =>
      answered(
        api.POST('/api/clients/{client}/accounts', {
          params: { path: { client: client.code } },
          body: { accounts: parts, reason, shown: preview.data?.digest ?? '', key },
        }),
      ),
    onDone,
  })
  const ready = parts.length > 0 && !preview.error
  return { preview: ready ? preview.data : undefined, problem: preview.error, posting }
}
