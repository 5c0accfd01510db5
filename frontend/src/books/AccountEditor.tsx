import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { RoleField, TypeField } from '../frame/chart/fields'
import { PartyField } from '../frame/PartyField'
import { PostPanel } from '../frame/PostPanel'
import { chartOptions, useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { ChartAmendings } from '../ledger/Amendings'
import { useInspect } from '../ledger/inspect'
import { amountWords, counted, plainWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextField } from '../ui/TextField'
import { AccountMarks } from './AccountMarks'
import type { AccountPart, AccountRow, Accounts } from './queries'
import { useChart } from './useChart'

interface AccountEditorProps {
  account: AccountRow
  accounts: Accounts
  onDone: () => void
}

type Said = Omit<AccountPart, 'account'>

/** One account put right: name, type, role, owner, tax; with what that moves. */
export function AccountEditor({ account, accounts, onDone }: AccountEditorProps) {
  const client = useClient()
  const [span] = useSpan()
  const inspect = useInspect()
  const [said, setSaid] = useState<Said>({})
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const says = Object.keys(said).length > 0
  const parts = says ? [{ account: account.code, ...said }] : []
  const acting = useChart(parts, onDone)
  const now = { ...account, ...said }
  const fixed = !accounts.may_change
  function say(part: Said) {
    acting.reset()
    setSaid({ ...said, ...part })
  }
  return (
    <div className="space-y-3">
      <header>
        <h2 className="text-[17px] font-semibold">
          {account.code} {account.name}
        </h2>
        <p className="text-quiet">
          {counted(account.lines, 'line')}, balance {amountWords(account.balance)} ·{' '}
          <button
            type="button"
            className="text-tide hover:underline"
            onClick={() => inspect({ kind: 'account', name: account.code })}
          >
            its movements
          </button>
        </p>
      </header>
      {account.guess && !says && (
        <div className="border-l-4 border-cork bg-sheet px-3 py-2">
          <p>
            {account.guess.counts ? `Taken for ${account.type}, ` : 'Looks like '}
            <strong>{plainWords(account.guess.role) || 'ordinary'}</strong>: {account.guess.why}.
          </p>
          {!fixed && (
            <p className="mt-1 flex gap-4">
              <Button look="bare" onClick={() => say({ role: account.guess?.role ?? '' })}>
                It is
              </Button>
              {account.guess.role && (
                <Button look="bare" onClick={() => say({ role: '' })}>
                  It is an ordinary account
                </Button>
              )}
            </p>
          )}
        </div>
      )}
      {fixed && (
        <p className="text-quiet">A reviewer or partner changes the chart: it acts on everybody.</p>
      )}
      <fieldset disabled={fixed} className="space-y-3">
        <TextField
          label="Name"
          value={now.name ?? ''}
          onChange={(event) => say({ name: event.target.value })}
        />
        <div className="grid grid-cols-2 gap-3">
          <TypeField value={now.type ?? ''} onChange={(type) => say({ type })} />
          <RoleField
            value={now.role ?? ''}
            type={now.type ?? ''}
            roles={accounts.roles}
            onChange={(role) => say({ role })}
          />
          <label className="block">
            <span className="block text-quiet">Tax a line begins with</span>
            <select
              className="w-full border border-edge bg-sheet px-2 py-1.5"
              value={now.tax_code ?? ''}
              onChange={(event) => say({ tax_code: event.target.value })}
            >
              <option value="">none</option>
              {(chart?.taxes ?? []).map((tax) => (
                <option key={tax.code} value={tax.code}>
                  {tax.code} {tax.rate}%
                </option>
              ))}
            </select>
          </label>
          <div>
            <span className="block text-quiet">Whose it is</span>
            <div className="border border-edge bg-sheet">
              <PartyField
                label="Owner of the account"
                placeholder="nobody's"
                kind="owner"
                value={now.owner ?? ''}
                onPick={(owner) => say({ owner })}
              />
            </div>
          </div>
        </div>
      </fieldset>
      {!says && <AccountMarks key={account.marks.join()} account={account} fixed={fixed} />}
      {says ? (
        <PostPanel label="Keep it" acting={acting}>
          {acting.preview && <ChartAmendings rows={acting.preview.chart} />}
        </PostPanel>
      ) : (
        <ProblemNote problem={acting.problem} />
      )}
    </div>
  )
}
