import { useMutation, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { useInspect } from '../ledger/inspect'
import { PlainWords } from '../ledger/PlainWords'
import { counted, shortDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { bookkeeperOptions } from './queries'

type Kind = Schemas['ToldKindAnswer']
type Item = Schemas['ExplainedAnswer']

/** Our entries in the bookkeeper's words, by kind; sending what was not told yet. */
export function Bookkeeper() {
  const client = useClient()
  const [told, showTold] = useState(false)
  const { data } = useSuspenseQuery(bookkeeperOptions(client.code, told))
  const every = data.kinds.flatMap((kind) => kind.items)
  const count = every.length
  useKeys('For the bookkeeper', [
    { keys: 't', does: told ? 'only what is not told yet' : 'what was told too', run: toggle },
  ])
  function toggle() {
    showTold(!told)
  }
  return (
    <div className="max-w-3xl space-y-5">
      <header>
        <h1 className="text-[21px] leading-7 font-semibold">For the bookkeeper</h1>
        <p className="flex flex-wrap items-baseline gap-x-4 text-quiet">
          {told
            ? `Everything of ours that stands in the books of ${client.name}${keyedWords(every)}.`
            : `What ${data.to_name} was not told yet of our entries, in plain words.`}
          <Button look="bare" className="py-0!" hint="t" onClick={toggle}>
            {told ? 'Only what is not told yet' : 'What was told too'}
          </Button>
        </p>
      </header>
      {data.kinds.map((kind) => (
        <OneKind key={kind.heading} kind={kind} />
      ))}
      <TakenBack rows={data.taken_back} />
      {count + data.taken_back.length === 0 && (
        <p className="border-l-4 border-moss bg-sheet px-3 py-2">
          {data.tellings.length > 0
            ? 'The bookkeeper was told everything. What is posted from now on gathers here.'
            : 'Nothing to tell yet. Corrections and entries that are posted gather here, each explained for who keeps the books from day to day.'}
        </p>
      )}
      {!told && data.changes.length > 0 && <Telling found={data} />}
      <Tellings rows={data.tellings} />
    </div>
  )
}

/** How many of our changes the client keyed as well, as far as that was recognised. */
function keyedWords(items: Item[]): string {
  const keyed = items.filter((item) => item.keyed.length > 0).length
  return keyed === 0 ? '' : `; ${keyed} of ${counted(items.length, 'change')} the client keyed too`
}

function OneKind({ kind }: { kind: Kind }) {
  const times = kind.items.length === 1 ? 'once' : `${kind.items.length} times`
  return (
    <section aria-label={kind.heading} className="space-y-2 border-t border-ink pt-2">
      <h2 className="flex items-baseline gap-3 text-[17px] font-semibold">
        {kind.heading}
        <span className="font-sans text-[15px] font-normal text-quiet">
          {times}
          {kind.year_before > 0 && `, ${kind.year_before} the year before`}
        </span>
      </h2>
      <ul className="space-y-3">
        {kind.items.map((item) => (
          <li key={item.change} className="grid grid-cols-[92px_1fr] gap-2">
            <span className="text-quiet">
              {shortDayWords(item.day)}
              <Opens item={item} />
              {item.told && <span className="block">told</span>}
              <Keyed item={item} />
            </span>
            <PlainWords told={item} />
          </li>
        ))}
      </ul>
      {kind.avoid && (
        <p className="border-l-4 border-cork bg-sheet px-3 py-1.5">
          So that it does not happen again: {kind.avoid}
        </p>
      )}
    </section>
  )
}

function Opens({ item }: { item: Item }) {
  const inspect = useInspect()
  return item.entries.map((name) => (
    <button
      key={name}
      type="button"
      className="block min-h-6 text-tide hover:underline"
      onClick={() => inspect({ kind: 'transaction', name })}
    >
      {name}
    </button>
  ))
}

/** The client's own entries that do the same as ours. */
function Keyed({ item }: { item: Item }) {
  const inspect = useInspect()
  return item.keyed.map((name) => (
    <button
      key={name}
      type="button"
      className="block min-h-6 text-left text-moss hover:underline"
      onClick={() => inspect({ kind: 'transaction', name })}
    >
      keyed, {name}
    </button>
  ))
}

function TakenBack({ rows }: { rows: Item[] }) {
  if (rows.length === 0) return null
  return (
    <section aria-label="Taken back" className="border-t border-ink pt-2">
      <h2 className="text-[17px] font-semibold">Taken back since it was told</h2>
      {rows.map((item) => (
        <div key={item.change} className="grid grid-cols-[92px_1fr] gap-2">
          <span>
            <Keyed item={item} />
          </span>
          <p>
            {item.entries.join(', ')}: {item.reason}
          </p>
        </div>
      ))}
    </section>
  )
}

function Telling({ found }: { found: Schemas['BookkeeperAnswer'] }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const [to, address] = useState(found.to_email)
  const telling = useMutation({
    mutationFn: (sendTo: string | null) =>
      answered(
        api.POST('/api/clients/{client}/bookkeeper', {
          params: { path: { client: client.code } },
          body: { changes: found.changes, to: sendTo },
        }),
      ),
    onSuccess: async (told) => {
      await refresh()
      const how = told.to_email ? `sent to ${told.to_email}` : 'marked as handed over'
      tell({ text: `${client.name}: ${counted(told.changes, 'change')} ${how}.` })
    },
  })
  const canSend = found.may_send && to.trim() !== '' && !telling.isPending
  useKeys('For the bookkeeper', [
    { keys: 'Control+Enter', does: 'send it', run: () => canSend && telling.mutate(to) },
  ])
  const file = `/api/clients/${encodeURIComponent(client.code)}/bookkeeper`
  return (
    <section aria-label="Tell it" className="space-y-2 border-t border-ink pt-3">
      <div className="flex items-end gap-2">
        <TextField
          className="grow"
          label={`Address of ${found.to_name}`}
          type="email"
          value={to}
          disabled={!found.may_send}
          onChange={(event) => address(event.target.value)}
        />
        <Button look="post" hint="Ctrl ↵" disabled={!canSend} onClick={() => telling.mutate(to)}>
          {telling.isPending ? 'Sending…' : 'Send it'}
        </Button>
        <Button disabled={telling.isPending} onClick={() => telling.mutate(null)}>
          Mark as handed over
        </Button>
      </div>
      <p className="text-quiet">
        Goes out as a message with this list and its journals, to read (
        <a className="text-tide underline" href={`${file}.pdf`}>
          PDF
        </a>
        ) and as a table (
        <a className="text-tide underline" href={`${file}.csv`}>
          CSV
        </a>
        ). {!found.may_send && 'The practice has no mail server yet: hand the files over.'}
      </p>
      <ProblemNote problem={telling.error} />
    </section>
  )
}

function Tellings({ rows }: { rows: Schemas['TellingAnswer'][] }) {
  if (rows.length === 0) return null
  return (
    <section aria-label="What was told" className="border-t border-ink pt-2">
      <h2 className="font-sans font-semibold text-deep">Told so far</h2>
      {rows.map((row) => (
        <p key={row.number} className="text-quiet">
          {shortDayWords(row.at)} {row.at.slice(11, 16)}: {counted(row.changes, 'change')} by{' '}
          {row.by}, {row.to_email ? `sent to ${row.to_email}` : 'handed over'}
        </p>
      ))}
    </section>
  )
}
