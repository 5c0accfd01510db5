import { useMutation } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { useDeedKey } from '../frame/useDeedKey'
import { counted } from '../ledger/words'
import { useNotice } from '../ui/notice'
import type { SpineRow } from './queries'

export interface WantedGroup {
  entries: [string, number][]
  lines: string[]
  why: string
}

/** What a row of the spine would tie. */
export function groupOf(row: SpineRow): WantedGroup {
  return {
    entries: row.entries.map((entry) => [entry.transaction, entry.line]),
    lines: row.lines.map((line) => line.ref),
    why: row.why.join('; '),
  }
}

/** Agreeing, taking apart, finishing, reopening: each done once, then everything is fetched anew. */
export function useBankDeeds(account: string, statement: number) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const key = useDeedKey()
  const path = { client: client.code, account }
  const deed = useMutation({
    mutationFn: (run: () => Promise<string>) => run(),
    onSuccess: async (said) => {
      key.done()
      await refresh()
      tell({ text: `${client.name}: ${said}.` })
    },
  })
  function changed(change: Schemas['ChangeAnswer']): string {
    return change.taken_apart > 0
      ? `${counted(change.taken_apart, 'agreement')} taken apart`
      : `${counted(change.agreed, 'agreement')} with the statement`
  }
  return {
    error: deed.error,
    busy: deed.isPending,
    agree: (groups: WantedGroup[]) =>
      deed.mutate(async () =>
        changed(
          await answered(
            api.POST('/api/clients/{client}/bank/{account}/agree', {
              params: { path },
              body: { groups, key: key.of(groups) },
            }),
          ),
        ),
      ),
    agreeSure: (likely: boolean) =>
      deed.mutate(async () =>
        changed(
          await answered(
            api.POST('/api/clients/{client}/bank/{account}/agree-sure', {
              params: { path },
              body: { statement, likely, key: key.of([statement, likely]) },
            }),
          ),
        ),
      ),
    apart: (groups: string[]) =>
      deed.mutate(async () =>
        changed(
          await answered(
            api.POST('/api/clients/{client}/bank/{account}/apart', {
              params: { path },
              body: { groups, key: key.of(groups) },
            }),
          ),
        ),
      ),
    finish: () =>
      deed.mutate(async () => {
        await answered(
          api.POST('/api/clients/{client}/bank/{account}/finish', {
            params: { path },
            body: { statement },
          }),
        )
        return 'the reconciliation is finished and its list fixed'
      }),
    reopen: (reason: string) =>
      deed.mutate(async () => {
        await answered(
          api.POST('/api/clients/{client}/bank/{account}/reopen', {
            params: { path },
            body: { statement, reason },
          }),
        )
        return 'the reconciliation is open again'
      }),
  }
}

export type BankDeeds = ReturnType<typeof useBankDeeds>
