import { useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import type { Schemas } from '../api/client'
import { NewAccount } from '../frame/chart/NewAccount'
import { useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { amountWords, counted, longDayWords, plainWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { type Column, DataTable } from '../ui/DataTable'
import { useKeys } from '../ui/keys'
import { AccountEditor } from './AccountEditor'
import { ConfirmGuesses } from './ConfirmGuesses'
import { type AccountRow, accountsOptions } from './queries'

/** What is open beside the list. */
type Open = { what: 'account'; code: string } | { what: 'guesses' } | { what: 'new' } | null

const COLUMNS: Column<AccountRow>[] = [
  {
    head: 'Code',
    cell: (row) => row.code,
    value: (row) => row.code,
    as: 'row-header',
    width: '84px',
  },
  { head: 'Name', cell: nameCell, value: (row) => row.name },
  { head: 'Type', cell: typeCell, value: (row) => row.type, width: '92px' },
  { head: 'Role', cell: roleCell, value: roleText, width: '220px' },
  { head: 'Tax', cell: (row) => row.tax_code, value: (row) => row.tax_code ?? '', width: '70px' },
  {
    head: 'Lines',
    cell: (row) => (row.lines ? row.lines : <span className="text-edge">·</span>),
    value: (row) => row.lines,
    as: 'figure',
    width: '70px',
  },
  {
    head: 'Balance',
    cell: (row) => amountWords(row.balance),
    value: (row) => Number(row.balance),
    text: (row) => row.balance,
    as: 'figure',
    width: '120px',
  },
]

/** What there is room for while something is open beside the list. */
const BESIDE = COLUMNS.filter((column) => !['Lines', 'Tax'].includes(column.head))

function nameCell(row: AccountRow) {
  return (
    <>
      {row.name}
      {row.owner && <span className="ml-2 text-quiet">of {row.owner}</span>}
    </>
  )
}

function typeCell(row: AccountRow) {
  return (
    <>
      {row.type}
      {row.shown_as && (
        <span
          className="ml-2 text-rust"
          title={`The client's own chart shows it as ${row.shown_as}`}
        >
          shown as {row.shown_as}
        </span>
      )}
    </>
  )
}

function roleCell(row: AccountRow) {
  if (row.guess) {
    return (
      <span className="border border-dashed border-cork px-1 text-deep" title={row.guess.why}>
        {plainWords(row.guess.role) || 'ordinary'}? a guess
      </span>
    )
  }
  return (
    <>
      {row.role ? plainWords(row.role) : <span className="text-quiet">ordinary</span>}
      {row.amended && <span className="ml-2 text-tide">put right</span>}
      {row.confirmed && !row.amended && <span className="ml-2 text-moss">confirmed</span>}
    </>
  )
}

function roleText(row: AccountRow): string {
  return row.guess ? `${row.guess.role}?` : row.role
}

function guessWords(guessed: AccountRow[]): string {
  const taken = guessed.filter((row) => row.guess?.counts).length
  const bare = guessed.length - taken
  const words = []
  if (taken > 0)
    words.push(
      `${counted(taken, 'account has', 'accounts have')} type and role by a guess, made when the lists were taken in. It counts already: look it through.`,
    )
  if (bare > 0)
    words.push(
      `${counted(bare, 'account has no role and looks', 'accounts have no role and look')} like something. That counts nowhere until it is confirmed.`,
    )
  return words.join(' ')
}

/** The chart of accounts: type and role of each, what is guessed of them, and putting them right. */
export function Accounts() {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useSuspenseQuery(accountsOptions(client.code, span.last))
  const [open, setOpen] = useState<Open>(null)
  const [text, setText] = useState('')
  const rows = data.accounts.filter((row) => fits(row, text))
  const guessed = data.accounts.filter((row) => row.guess)
  const close = () => setOpen(null)
  const account =
    open?.what === 'account' ? data.accounts.find((row) => row.code === open.code) : undefined
  useKeys('Accounts', [
    { keys: 'n', does: 'new account', run: () => setOpen({ what: 'new' }) },
    { keys: 'c', does: 'confirm what is guessed', run: () => setOpen({ what: 'guesses' }) },
    { keys: 'Escape', does: 'close what is open beside the list', run: close },
  ])
  return (
    <div className="flex min-h-0 flex-1 gap-5">
      <div className="flex min-h-0 min-w-0 flex-1 flex-col">
        {guessed.length > 0 && (
          <p className="mb-2 flex items-baseline gap-3 border-l-4 border-cork bg-sheet px-3 py-1.5">
            {guessWords(guessed)}
            <Button
              look="bare"
              className="py-0!"
              hint="c"
              onClick={() => setOpen({ what: 'guesses' })}
            >
              Look through them
            </Button>
          </p>
        )}
        <DataTable
          caption="Accounts"
          name="accounts"
          columns={open ? BESIDE : COLUMNS}
          rows={rows}
          rowKey={(row) => row.code}
          selectedKey={account?.code}
          onOpen={(row) => setOpen({ what: 'account', code: row.code })}
          empty={
            data.accounts.length === 0
              ? 'No accounts yet: they come with the books.'
              : 'No account fits. Take something out of the filter.'
          }
          tools={
            <>
              <input
                aria-label="Filter the accounts"
                placeholder="Code, name, type or role"
                className="w-60 border border-edge bg-sheet px-2.5 py-1 text-ink"
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
              <span>Balances on {longDayWords(span.last)}</span>
              {data.may_change && (
                <Button
                  look="bare"
                  className="py-0!"
                  hint="n"
                  onClick={() => setOpen({ what: 'new' })}
                >
                  New account
                </Button>
              )}
            </>
          }
        />
      </div>
      {open && (
        <aside
          aria-label="Beside the list"
          className="w-[430px] shrink-0 overflow-auto border-l border-edge pb-6 pl-5"
        >
          <Beside open={open} accounts={data} account={account} guessed={guessed} onClose={close} />
        </aside>
      )}
    </div>
  )
}

interface BesideProps {
  open: Exclude<Open, null>
  accounts: Schemas['AccountsAnswer']
  account: AccountRow | undefined
  guessed: AccountRow[]
  onClose: () => void
}

function Beside({ open, accounts, account, guessed, onClose }: BesideProps) {
  if (open.what === 'new') return <NewAccount roles={accounts.roles} onDone={onClose} />
  if (open.what === 'guesses') {
    return <ConfirmGuesses guessed={guessed} mayChange={accounts.may_change} onDone={onClose} />
  }
  return account ? (
    <AccountEditor key={account.code} account={account} accounts={accounts} onDone={onClose} />
  ) : null
}

function fits(row: AccountRow, text: string): boolean {
  const known = `${row.code} ${row.name} ${row.type} ${roleText(row)}`.toLowerCase()
  return text
    .toLowerCase()
    .split(/\s+/)
    .every((word) => known.includes(word))
}
