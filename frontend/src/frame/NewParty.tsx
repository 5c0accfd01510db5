import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { useKeys } from '../ui/keys'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { useSettled } from '../ui/useSettled'
import { carryOut } from './acts'
import { useClient, useRefreshClient } from './queries'
import { useDeedKey } from './useDeedKey'

const KINDS = [
  'customer',
  'supplier',
  'employee',
  'owner',
  'lender',
  'tax-authority',
  'other',
] as const
export type PartyKind = (typeof KINDS)[number]

interface NewPartyProps {
  name: string
  kind: PartyKind
  onPick: (code: string) => void
  onClose: () => void
}

/** A new party in the midst of work; those of nearly that name come first. */
export function NewParty({ name, kind, onPick, onClose }: NewPartyProps) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const [keyed, setKeyed] = useState({ name, kind })
  const key = useDeedKey()
  const sought = useSettled(keyed.name.trim(), 200)
  const { data } = useQuery({
    queryKey: ['client', client.code, 'near', sought],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/parties/near', {
          params: { path: { client: client.code }, query: { name: sought } },
        }),
      ),
    enabled: sought !== '',
    placeholderData: keepPreviousData,
  })
  const making = useMutation({
    mutationFn: () => carryOut(client.code, { act: { act: 'party', ...keyed } }, key.of(keyed)),
    onSuccess: async (change) => {
      await refresh()
      const code = change?.parties[0] ?? ''
      tell({ text: `${client.name}: ${keyed.name.trim()} is added under ${code}.` })
      onPick(code)
    },
  })
  const ready = keyed.name.trim() !== '' && !making.isPending
  return (
    <Dialog title="New party" onClose={onClose}>
      <Keys onMake={() => ready && making.mutate()} />
      <div className="space-y-4">
        {(data?.near ?? []).length > 0 && (
          <section
            aria-label="Nearly that name"
            className="border-l-4 border-cork bg-sheet px-3 py-2"
          >
            <p className="font-semibold">There is one of nearly that name. Is it this?</p>
            {data?.near.map((near) => (
              <p key={near.party.code} className="mt-1 flex items-baseline gap-3">
                <span className="w-20 text-quiet">{near.party.code}</span>
                {near.party.name}
                {near.known_as !== near.party.name && (
                  <span className="text-quiet">also {near.known_as}</span>
                )}
                <span className="text-quiet">{near.party.kind}</span>
                <Button look="bare" className="py-0!" onClick={() => onPick(near.party.code)}>
                  It is this
                </Button>
              </p>
            ))}
          </section>
        )}
        <div className="grid grid-cols-[1fr_200px] gap-3">
          <TextField
            autoFocus
            label="Name"
            value={keyed.name}
            onChange={(event) => {
              making.reset()
              setKeyed({ ...keyed, name: event.target.value })
            }}
          />
          <label className="block">
            <span className="block text-quiet">What they are</span>
            <select
              className="w-full border border-edge bg-sheet px-2 py-1.5"
              value={keyed.kind}
              onChange={(event) => setKeyed({ ...keyed, kind: event.target.value as PartyKind })}
            >
              {KINDS.map((choice) => (
                <option key={choice} value={choice}>
                  {choice.replace('-', ' ')}
                </option>
              ))}
            </select>
          </label>
        </div>
        <ProblemNote problem={making.error} />
        <Button look="post" hint="Ctrl ↵" disabled={!ready} onClick={() => making.mutate()}>
          Add them
        </Button>
      </div>
    </Dialog>
  )
}

/** Within the window, so that only its own keys work. */
function Keys({ onMake }: { onMake: () => void }) {
  useKeys('New party', [{ keys: 'Control+Enter', does: 'add the party', run: onMake }])
  return null
}
