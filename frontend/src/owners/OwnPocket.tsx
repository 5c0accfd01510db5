import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { DayField } from '../frame/DayField'
import { OpenOf } from '../frame/OpenOf'
import { PartyField } from '../frame/PartyField'
import { PostPanel } from '../frame/PostPanel'
import { chartOptions, useClient } from '../frame/queries'
import { useAct } from '../frame/useAct'
import { useSpan } from '../frame/useSpan'
import { AccountPicker } from '../ledger/AccountPicker'
import { TextField } from '../ui/TextField'
import { useSettled } from '../ui/useSettled'

const OWNERS = /^(capital|capital-introduced|partner-current|owner-loan|member-payable)$/

/** A business cost that an owner paid privately: the cost and its tax, owed to the owner. */
export function OwnPocket({ onDone }: { onDone: () => void }) {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const [keyed, setKeyed] = useState({
    day: span.last,
    gross: '',
    account: '',
    tax_code: '',
    owner_account: '',
    text: '',
    party: '',
    bills: '',
  })
  const settled = useSettled(JSON.stringify(keyed), 200)
  const { party: _, bills, ...said } = JSON.parse(settled) as typeof keyed
  const body = { ...said, bills: bills ? bills.split(',') : [] }
  const enough = body.gross !== '' && (body.account !== '' || bills !== '') && body.day !== ''
  const acting = useAct({ act: enough ? { act: 'own-pocket', ...body } : null, onDone })
  const accounts = chart?.accounts ?? []
  function say(part: Partial<typeof keyed>) {
    acting.reset()
    setKeyed((old) => ({ ...old, ...part }))
  }
  return (
    <PostPanel label="Record it" acting={acting}>
      <div className="grid grid-cols-[150px_140px_1fr] gap-3">
        <DayField label="Paid on" value={keyed.day} onDay={(day) => say({ day })} />
        <TextField
          autoFocus
          label="Amount, tax in it"
          inputMode="decimal"
          value={keyed.gross}
          onChange={(event) => say({ gross: event.target.value })}
        />
        <TextField
          label="What it was"
          value={keyed.text}
          onChange={(event) => say({ text: event.target.value })}
        />
      </div>
      <div className="grid grid-cols-[1fr_140px_1fr] gap-3">
        <div>
          <span className="block text-quiet">Cost, or below whose bill it paid</span>
          <div className="border border-edge bg-sheet">
            <AccountPicker
              label="Account of the cost"
              value={keyed.account}
              options={accounts.filter((account) => account.type === 'expense')}
              onPick={(account) =>
                say({
                  account,
                  tax_code: accounts.find((known) => known.code === account)?.tax_code ?? '',
                })
              }
            />
          </div>
        </div>
        <label>
          <span className="block text-quiet">Tax in it</span>
          <select
            className="w-full border border-edge bg-sheet px-2 py-1.5"
            value={keyed.tax_code}
            onChange={(event) => say({ tax_code: event.target.value })}
          >
            <option value="">none</option>
            {(chart?.taxes ?? [])
              .filter((tax) => tax.rate !== '0')
              .map((tax) => (
                <option key={tax.code} value={tax.code}>
                  {tax.code} {tax.rate}%
                </option>
              ))}
          </select>
        </label>
        <label>
          <span className="block text-quiet">Owed to</span>
          <select
            className="w-full border border-edge bg-sheet px-2 py-1.5"
            value={keyed.owner_account}
            onChange={(event) => say({ owner_account: event.target.value })}
          >
            <option value="">the owner's account that this client has</option>
            {accounts
              .filter((account) => OWNERS.test(account.role))
              .map((account) => (
                <option key={account.code} value={account.code}>
                  {account.code} {account.name}
                </option>
              ))}
          </select>
        </label>
      </div>
      <div className="grid grid-cols-[1fr_1fr] gap-3">
        <div>
          <span className="block text-quiet">Supplier whose bill was paid</span>
          <div className="border border-edge bg-sheet">
            <PartyField
              label="Supplier whose bill was paid"
              placeholder="none: it is a cost of its own"
              value={keyed.party}
              onPick={(party) => say({ party, bills: '' })}
            />
          </div>
        </div>
        {keyed.party && (
          <OpenOf
            party={keyed.party}
            comesIn={false}
            items={keyed.bills}
            onChoose={(bills) => say({ bills })}
          />
        )}
      </div>
    </PostPanel>
  )
}
