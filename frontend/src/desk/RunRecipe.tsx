import { useMutation, useQueries, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../api/client'
import { carryOut, type Preview } from '../frame/acts'
import { AskFields, type Said } from '../frame/asks/AskFields'
import { beginning, filled } from '../frame/asks/said'
import { changeWords, counted, dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { TextField } from '../ui/TextField'

interface RunRecipeProps {
  clients: string[]
  onClose: () => void
}

/** Those that need nothing that is each client's own but what its books say. */
const BY_THE_BOOKS = [
  ...['carry-on', 'depreciation', 'stock-to-count', 'exchange-settled'],
  ...['revaluation', 'tax-provision'],
]
/** What is said once for all of them; accounts and parties are each client's own. */
const SAID_FOR_ALL = ['percent', 'choice']

/** One recipe for several clients: what it would post in each is seen, then posted, each whole. */
export function RunRecipe({ clients, onClose }: RunRecipeProps) {
  const queries = useQueryClient()
  const [recipe, choose] = useState(BY_THE_BOOKS[0] as string)
  const [day, key] = useState('pe')
  const [said, say] = useState<Said>({})
  const [done, note] = useState<Record<string, string>>({})
  const known = useQuery({
    queryKey: ['client', clients[0], 'recipes', 'titles'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/recipes', {
          params: { path: { client: clients[0] ?? '' }, query: { at: '2999-12-31' } },
        }),
      ),
  })
  const looks = useQueries({
    queries: clients.map((client) => ({
      queryKey: ['client', client, 'recipe for many', recipe, day, said],
      queryFn: () => look(client, recipe, { ...said, date: day }),
      retry: false,
    })),
  })
  const ready = clients.filter((client, place) => looks[place]?.data && !done[client])
  const posting = useMutation({
    mutationFn: async () => {
      for (const client of ready) {
        const seen = looks[clients.indexOf(client)]?.data
        if (!seen) continue
        try {
          const change = await carryOut(
            client,
            {
              act: seen.act,
              reason: seen.preview.reason,
              shown: seen.preview.digest,
              handsIn: Boolean(seen.preview.held),
            },
            crypto.randomUUID(),
          )
          const says = change ? `change ${change.change} posted` : 'handed in for approval'
          note((told) => ({ ...told, [client]: says }))
        } catch (problem) {
          note((told) => ({ ...told, [client]: (problem as Error).message }))
        }
      }
      await queries.invalidateQueries()
    },
  })
  const titles = known.data?.recipes.filter((row) => BY_THE_BOOKS.includes(row.id)) ?? []
  const asks =
    titles
      .find((row) => row.id === recipe)
      ?.asks.filter((ask) => SAID_FOR_ALL.includes(ask.kind)) ?? []
  return (
    <Dialog title={`A recipe for ${counted(clients.length, 'client')}`} onClose={onClose}>
      <div className="space-y-3">
        <div className="grid grid-cols-[1fr_200px] gap-3">
          <label>
            <span className="block text-quiet">Recipe</span>
            <select
              className="w-full border border-edge bg-sheet px-2 py-1.5"
              value={recipe}
              onChange={(event) => {
                choose(event.target.value)
                say({})
              }}
            >
              {titles.map((row) => (
                <option key={row.id} value={row.id}>
                  {row.title}
                </option>
              ))}
            </select>
          </label>
          <TextField
            label="Day: pe is each one’s own"
            value={day}
            onChange={(event) => key(event.target.value)}
          />
        </div>
        <AskFields
          asks={asks}
          said={{ ...beginning(asks, ''), ...said }}
          onSay={(name, value) => say({ ...said, [name]: value })}
        />
        <ul aria-label="What it would post in each client" className="border-t border-ink">
          {clients.map((client, place) => {
            const row = looks[place]
            const told = done[client]
            return (
              <li
                key={client}
                className="grid grid-cols-[80px_1fr_auto] gap-3 border-b border-rule py-1"
              >
                <strong className="font-semibold">{client}</strong>
                <span className={row?.error ? 'text-quiet' : ''}>
                  {told ??
                    (row?.error
                      ? (row.error as Error).message
                      : row?.data
                        ? wordsOf(row.data.preview)
                        : 'looking …')}
                </span>
                <span className="text-right">
                  {row?.data && !told && changeWords(row.data.preview.effect.profit.change)}
                </span>
              </li>
            )
          })}
        </ul>
        <p className="flex items-baseline gap-4">
          <span className="grow text-quiet">
            Each client’s entries are posted whole or not at all; the sum is what its profit moves
            by.
          </span>
          <Button
            look="post"
            disabled={ready.length === 0 || posting.isPending}
            onClick={() => posting.mutate()}
          >
            {posting.isPending ? 'Posting …' : `Post for ${counted(ready.length, 'client')}`}
          </Button>
        </p>
      </div>
    </Dialog>
  )
}

async function look(client: string, recipe: string, said: Said) {
  const found = await answered(
    api.GET('/api/clients/{client}', { params: { path: { client }, query: {} } }),
  )
  const act = { act: 'recipe' as const, recipe, said: filled(said), near: found.as_at }
  const preview = await answered(
    api.POST('/api/clients/{client}/acts/preview', {
      params: { path: { client } },
      body: { act, opens: false },
    }),
  )
  return { act, preview }
}

function wordsOf(preview: Preview): string {
  const [first] = preview.entries
  const entries = counted(preview.entries.length, 'entry', 'entries')
  return `${preview.reason} ${entries}${first ? ` from ${dayWords(first.date)}` : ''}${preview.held ? ', handed in for approval' : ''}`
}
