import { useMutation, useQueryClient, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answered, api, type Schemas } from '../api/client'
import { amountWords, dayWords } from '../ledger/words'
import { ArchivedClients } from './Archived'
import { Many } from './Many'
import { type AskedOfMany, clientsOptions } from './queries'

export type Standing = Schemas['ClientStandingAnswer']
const HEAD = 'border-b border-ink py-1 pr-4 text-left font-semibold text-deep'
const HEADS = [
  'Client',
  'Who has it',
  'Barred to',
  'Held to',
  'Materiality',
  'Asset from',
  'Letter',
]

/** What the practice answers for, of every client; and setting it for several at once. */
export function ClientsList() {
  const queries = useQueryClient()
  const { data } = useSuspenseQuery(clientsOptions)
  const [chosen, choose] = useState<string[]>([])
  const [outcomes, tell] = useState<Schemas['OutcomeAnswer'][]>([])
  const all = data.clients.map((client) => client.code)
  const setting = useMutation({
    mutationFn: (asked: AskedOfMany) => answered(send(asked, chosen)),
    onSuccess: (answer) => {
      tell(answer.outcomes)
      return queries.invalidateQueries()
    },
  })
  const byName = [...data.clients].sort((one, other) => one.name.localeCompare(other.name))
  const told = Object.fromEntries(outcomes.map((outcome) => [outcome.client, outcome]))
  return (
    <div className="grid grid-cols-[1fr_340px] items-start gap-8 max-[1100px]:grid-cols-1">
      <div>
        <table className="w-full border-collapse">
          <caption className="sr-only">Clients</caption>
          <thead>
            <tr>
              <th scope="col" className={`${HEAD} w-8`}>
                <input
                  type="checkbox"
                  aria-label="All of them"
                  checked={chosen.length === all.length}
                  onChange={() => choose(chosen.length === all.length ? [] : all)}
                />
              </th>
              {HEADS.map((head) => (
                <th
                  key={head}
                  scope="col"
                  className={`${HEAD} ${isFigure(head) ? 'text-right!' : ''}`}
                >
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {byName.map((client) => (
              <ClientRow
                key={client.code}
                client={client}
                outcome={told[client.code]}
                isChosen={chosen.includes(client.code)}
                onChoose={() =>
                  choose(
                    chosen.includes(client.code)
                      ? chosen.filter((code) => code !== client.code)
                      : [...chosen, client.code],
                  )
                }
              />
            ))}
          </tbody>
        </table>
        <ArchivedClients clients={data.archived} />
      </div>
      <Many
        asks={data.asks}
        chosen={byName.filter((row) => chosen.includes(row.code))}
        setting={setting}
      />
    </div>
  )
}

function send(asked: AskedOfMany, clients: string[]) {
  const { kind, ...body } = asked
  return kind === 'facts'
    ? api.POST('/api/practice/clients/facts', { body: { ...(body as FactsBody), clients } })
    : api.POST('/api/practice/clients/states', { body: { ...(body as StatesBody), clients } })
}

type FactsBody = Omit<Schemas['FactsOfMany'], 'clients'>
type StatesBody = Omit<Schemas['StatesOfMany'], 'clients'>

function isFigure(head: string) {
  return head === 'Materiality' || head === 'Asset from'
}

interface ClientRowProps {
  client: Standing
  outcome: Schemas['OutcomeAnswer'] | undefined
  isChosen: boolean
  onChoose: () => void
}

function ClientRow({ client, outcome, isChosen, onChoose }: ClientRowProps) {
  const limit = (amount: string | null) =>
    amount === null ? <span className="text-quiet">not set</span> : amountWords(amount)
  return (
    <>
      <tr className={`align-baseline ${outcome ? '' : 'border-b border-rule'}`}>
        <td className="py-1.5">
          <input type="checkbox" aria-label={client.name} checked={isChosen} onChange={onChoose} />
        </td>
        <th scope="row" className="pr-4 text-left font-normal">
          <Link to={`/clients/${client.code}/books`} className="font-semibold hover:underline">
            {client.name}
          </Link>
          <span className="block text-quiet">
            {client.code} · {client.entity.replace('-', ' ')}
          </span>
        </th>
        <td className="pr-4">{client.staff.join(', ') || 'partners alone'}</td>
        <td className="pr-4 whitespace-nowrap">
          {client.barred_through ? dayWords(client.barred_through) : ''}
          {client.filed_through && client.filed_through === client.barred_through && (
            <span className="block text-quiet">filed</span>
          )}
        </td>
        <td className="pr-4 whitespace-nowrap">
          {client.held_through ? dayWords(client.held_through) : ''}
        </td>
        <td className="pr-4 text-right tabular-nums">{limit(client.materiality)}</td>
        <td className="pr-4 text-right tabular-nums">{limit(client.capital_item)}</td>
        <td className="whitespace-nowrap">
          {client.engaged_on ? (
            dayWords(client.engaged_on)
          ) : (
            <span className="text-quiet">none on file</span>
          )}
          {client.may_change === 'asked' && (
            <span className="block text-deep">client agrees first</span>
          )}
        </td>
      </tr>
      {outcome && (
        <tr className="border-b border-rule">
          <td />
          <td colSpan={HEADS.length} className="pb-1.5">
            <span className={outcome.problem ? 'text-rust' : 'text-moss'}>
              {outcome.problem ? `Not done: ${outcome.problem}` : `Done: ${outcome.did}.`}
            </span>
          </td>
        </tr>
      )}
    </>
  )
}
