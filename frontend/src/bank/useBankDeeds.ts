import { useMutation } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { type Act, carryOut } from '../frame/acts'
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
  function act(asked: Act) {
    deed.mutate(async () => {
      const change = await carryOut(client.code, { act: asked }, key.of(asked))
      return change && change.taken_apart > 0
        ? `${counted(change.taken_apart, 'agreement')} taken apart`
        : `${counted(change?.agreed ?? 0, 'agreement')} with the statement`
    })
  }
  return {
    error: deed.error,
    busy: deed.isPending,
    agree: (groups: WantedGroup[]) => act({ act: 'agree', account, groups }),
    agreeSure: (likely: boolean) => act({ act: 'agree-sure', account, statement, likely }),
    apart: (groups: string[]) => act({ act: 'apart', account, groups }),
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
