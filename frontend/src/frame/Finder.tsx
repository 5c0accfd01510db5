import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate, useParams } from 'react-router'
import { answered, api, type Schemas } from '../api/client'
import { type Inspected, useInspect } from '../ledger/inspect'
import { amountWords, dayWords, plainWords } from '../ledger/words'
import { Dialog } from '../ui/Dialog'
import { useSettled } from '../ui/useSettled'
import { deskOptions } from './queries'

type Found = Schemas['FoundAnswer']

interface Hit {
  key: string
  group: string
  name: string
  aside: string
  amount: string
  client: string
  /** What opens in the drawer, on whatever page of the client one is. */
  drawer: Inspected | null
  to: string
}

/** Finds anything by words and sums: in the client of the page, or in all of one's clients. */
export function Finder({ onClose }: { onClose: () => void }) {
  const { client } = useParams()
  const navigate = useNavigate()
  const [text, setText] = useState('')
  const [place, setPlace] = useState(0)
  const [everywhere, seek] = useState(!client)
  const sought = useSettled(text.trim(), 80)
  const within = everywhere ? undefined : client
  const { data: found, isPlaceholderData } = useQuery({
    queryKey: ['find', within ?? '', sought],
    queryFn: () =>
      answered(
        api.GET('/api/find', {
          params: { query: within ? { q: sought, client: within } : { q: sought } },
        }),
      ),
    enabled: sought !== '',
    placeholderData: keepPreviousData,
  })
  const names = useNames()
  const inspect = useInspect()
  const hits = sought && found ? hitsOf(sought, found, everywhere, names) : []
  // What is shown may still be of the letters before: Enter waits for its own.
  const fresh = sought === text.trim() && found !== undefined && !isPlaceholderData
  const [taking, setTaking] = useState(false)
  useEffect(() => {
    if (!taking || !fresh) return
    setTaking(false)
    take(hits[0])
  })
  function take(hit: Hit | undefined) {
    if (!hit) return
    onClose()
    if (hit.drawer && hit.client === client) inspect(hit.drawer)
    else navigate(hit.to)
  }
  function onKeyDown(event: React.KeyboardEvent) {
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      const step = event.key === 'ArrowDown' ? 1 : -1
      const next = Math.max(0, Math.min(hits.length - 1, place + step))
      setPlace(next)
      document.getElementById(`found-${next}`)?.scrollIntoView({ block: 'nearest' })
    } else if (event.key === 'Enter') {
      if (fresh) take(hits[place])
      else setTaking(true)
    }
    if (event.key === 'a' && event.altKey && client) {
      event.preventDefault()
      seek(!everywhere)
    }
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
      {client && (
        <label className="mt-1.5 flex items-center gap-2 text-quiet">
          <input
            type="checkbox"
            checked={everywhere}
            onChange={(event) => seek(event.target.checked)}
          />
          in all clients, not only in {names[client] ?? client}{' '}
          <kbd className="font-sans text-xs">Alt A</kbd>
        </label>
      )}
      {found?.building && (
        <p className="mt-1.5 text-quiet">
          Books taken in just now are still being looked through; more may be found in a moment.
        </p>
      )}
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
            <span className="min-w-0 grow truncate">{hit.name}</span>
            <span className="w-44 shrink-0 truncate text-quiet">{hit.aside}</span>
            <span className="w-24 shrink-0 text-right">{hit.amount}</span>
          </div>
        ))}
      </div>
      {sought && found && hits.length === 0 && (
        <p className="mt-2 text-quiet">
          Nothing begins with that. Try fewer letters, an amount, or all clients.
        </p>
      )}
    </Dialog>
  )
}

/** The clients' names by code. */
function useNames(): Record<string, string> {
  const { data: desk } = useQuery(deskOptions)
  return Object.fromEntries((desk?.rows ?? []).map((row) => [row.code, row.name]))
}

function hitsOf(
  text: string,
  found: Found,
  everywhere: boolean,
  names: Record<string, string>,
): Hit[] {
  const whose = (code: string) => (everywhere ? (names[code] ?? code) : '')
  const few = everywhere ? 4 : 8
  const open = (code: string, drawer: Inspected) => ({
    client: code,
    drawer,
    to: `/clients/${code}/entries?open=${encodeURIComponent(`${drawer.kind}~${drawer.name}`)}`,
  })
  const clients = clientsNamed(text, names)
  return [
    ...(everywhere ? clients : []),
    ...found.accounts.slice(0, few).map((account) => ({
      key: `account ${account.client} ${account.code}`,
      group: 'Accounts',
      name: `${account.code} ${account.name}`,
      aside: whose(account.client) || account.what,
      amount: '',
      ...open(account.client, { kind: 'account', name: account.code }),
    })),
    ...found.parties.slice(0, few).map((party) => ({
      key: `party ${party.client} ${party.code}`,
      group: 'Parties',
      name: party.name,
      aside: whose(party.client) || plainWords(party.what),
      amount: '',
      ...open(party.client, { kind: 'party', name: party.code }),
    })),
    ...found.postings.map((posting) => ({
      key: `posting ${posting.client} ${posting.id}`,
      group: 'Postings',
      name: [dayWords(posting.date), posting.reference ?? posting.id, posting.party, posting.memo]
        .filter(Boolean)
        .join(' · '),
      aside: whose(posting.client) || plainWords(posting.kind),
      amount: amountWords(posting.total),
      ...open(posting.client, { kind: 'transaction', name: posting.id }),
    })),
    ...found.statement_lines.map((line) => ({
      key: `line ${line.client} ${line.account} ${line.date} ${line.text} ${line.amount}`,
      group: 'Statements',
      name: `${dayWords(line.date)} · ${line.text}`,
      aside: whose(line.client) || line.account,
      amount: amountWords(line.amount),
      client: line.client,
      drawer: null,
      to: `/clients/${line.client}/bank/${line.account}?statement=${line.statement}`,
    })),
    ...(everywhere ? [] : clients),
  ]
}

/** One's clients whose code or name has all the words: to go to from anywhere. */
function clientsNamed(text: string, names: Record<string, string>): Hit[] {
  const words = text.toLowerCase().split(/\s+/)
  return Object.entries(names)
    .filter(([code, name]) => words.every((word) => `${code} ${name}`.toLowerCase().includes(word)))
    .slice(0, 8)
    .map(([code, name]) => ({
      key: `client ${code}`,
      group: 'Clients',
      name,
      aside: code,
      amount: '',
      client: code,
      drawer: null,
      to: `/clients/${code}/review`,
    }))
}
