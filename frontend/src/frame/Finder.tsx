import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { answered, api } from '../api/client'
import { useInspect } from '../ledger/inspect'
import { amountWords } from '../ledger/words'
import { Dialog } from '../ui/Dialog'
import { deskOptions } from './queries'

interface Hit {
  key: string
  group: string
  name: string
  aside: string
  open: () => void
}

/** Finds clients, and in the client of the page accounts, parties and postings, by anything known. */
export function Finder({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('')
  const [place, setPlace] = useState(0)
  const hits = useHits(text.trim())
  function take(hit: Hit | undefined) {
    if (!hit) return
    onClose()
    hit.open()
  }
  function onKeyDown(event: React.KeyboardEvent) {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      const step = event.key === 'ArrowDown' ? 1 : -1
      setPlace((old) => Math.max(0, Math.min(hits.length - 1, old + step)))
    } else if (event.key === 'Enter') take(hits[place])
  }
  return (
    <Dialog title="Find" shape="top" onClose={onClose}>
      <input
        autoFocus
        role="combobox"
        aria-expanded={hits.length > 0}
        aria-controls="found"
        aria-activedescendant={hits[place] ? `found-${place}` : undefined}
        aria-label="Client, account, party, number, word or amount"
        placeholder="Client, account, party, number, word or amount"
        className="w-full border border-edge bg-sheet px-3 py-2 text-base"
        value={text}
        onChange={(event) => {
          setText(event.target.value)
          setPlace(0)
        }}
        onKeyDown={onKeyDown}
      />
      <div id="found" role="listbox" aria-label="Found" className="mt-2">
        {hits.map((hit, index) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the field above has the keys
          <div
            tabIndex={-1}
            key={hit.key}
            id={`found-${index}`}
            role="option"
            aria-selected={index === place}
            className={`flex cursor-pointer gap-3 px-2 py-1 ${index === place ? 'bg-wash' : ''}`}
            onClick={() => take(hit)}
            onMouseEnter={() => setPlace(index)}
          >
            <span className="w-20 shrink-0 text-quiet">
              {hits[index - 1]?.group === hit.group ? '' : hit.group}
            </span>
            <span className="grow">{hit.name}</span>
            <span className="text-quiet">{hit.aside}</span>
          </div>
        ))}
      </div>
      {text.trim() && hits.length === 0 && (
        <p className="mt-2 text-quiet">Nothing has that in it. Try fewer letters, or an amount.</p>
      )}
    </Dialog>
  )
}

function useHits(text: string): Hit[] {
  const { client } = useParams()
  const navigate = useNavigate()
  const inspect = useInspect()
  const { data: desk } = useQuery(deskOptions)
  const { data: found } = useQuery({
    queryKey: ['client', client, 'search', text],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/search', {
          params: { path: { client: client ?? '' }, query: { q: text } },
        }),
      ),
    enabled: Boolean(client && text),
  })
  if (!text) return []
  const words = text.toLowerCase().split(/\s+/)
  const clients = (desk?.rows ?? [])
    .filter((row) => words.every((word) => `${row.code} ${row.name}`.toLowerCase().includes(word)))
    .slice(0, 8)
    .map((row) => ({
      key: `client ${row.code}`,
      group: 'Clients',
      name: row.name,
      aside: row.code,
      open: () => navigate(`/clients/${row.code}/review`),
    }))
  if (!client || !found) return clients
  return [
    ...found.accounts.map((account) => ({
      key: `account ${account.code}`,
      group: 'Accounts',
      name: `${account.code} ${account.name}`,
      aside: amountWords(account.balance),
      open: () => inspect({ kind: 'account', name: account.code }),
    })),
    ...found.parties.map((party) => ({
      key: `party ${party.code}`,
      group: 'Parties',
      name: party.name,
      aside: party.kind,
      open: () => inspect({ kind: 'party', name: party.code }),
    })),
    ...found.transactions.map((posted) => ({
      key: `posting ${posted.id}`,
      group: 'Postings',
      name: `${posted.reference ?? posted.id} · ${posted.what}`,
      aside: amountWords(posted.total),
      open: () => inspect({ kind: 'transaction', name: posted.id }),
    })),
    ...clients,
  ]
}
