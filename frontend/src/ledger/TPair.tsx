import type { Schemas } from '../api/client'
import { amountWords, dayWords, isNil } from './words'

type TAccount = Schemas['TAccountAnswer']
type TLine = Schemas['TLineAnswer']

/** The accounts concerned, as booked on the left and as they will stand on the right. */
export function TPair({ accounts }: { accounts: TAccount[] }) {
  if (accounts.length === 0) return null
  const dated = accounts.some((account) => account.on !== null)
  if (dated) return <AsItWillStand accounts={accounts} />
  return (
    <div className="@container">
      <div className="grid gap-x-7 gap-y-3 @2xl:grid-cols-2">
        <Side title="As booked" accounts={accounts} after={false} />
        <Side title="As it will stand" accounts={accounts} after />
      </div>
    </div>
  )
}

/** An entry that answers nothing: each account's balance before it, and what comes, by date. */
function AsItWillStand({ accounts }: { accounts: TAccount[] }) {
  const days = [...new Set(accounts.map((account) => account.on ?? ''))]
  return (
    <div className="flex flex-wrap gap-x-7 gap-y-3">
      {days.map((day) => (
        <section
          key={day}
          aria-label={`As it will stand, ${dayWords(day)}`}
          className="min-w-0 grow"
        >
          <h2 className="font-sans text-[13px] font-semibold text-deep">
            As it will stand, {dayWords(day)}
          </h2>
          <Ts accounts={accounts.filter((account) => account.on === day)} after />
        </section>
      ))}
    </div>
  )
}

interface SideProps {
  title: string
  accounts: TAccount[]
  after: boolean
}

function Side({ title, accounts, after }: SideProps) {
  return (
    <section aria-label={title} className="min-w-0">
      <h2 className="font-sans text-[13px] font-semibold text-deep">{title}</h2>
      <Ts accounts={accounts} after={after} />
    </section>
  )
}

/** Wide enough for the longest figure on either side; where fewer fit, accounts go below each other. */
function Ts({ accounts, after }: { accounts: TAccount[]; after: boolean }) {
  const figures = accounts.flatMap((account) =>
    shownLines(account, after).map((line) => amountWords(line.debit ?? line.credit ?? '').length),
  )
  const narrowest = `calc(${2 * Math.max(6, ...figures)}ch + 2rem)`
  return (
    <div
      className="mt-1 grid gap-x-3.5 gap-y-2 text-[13px]"
      style={{
        gridTemplateColumns: `repeat(auto-fit, minmax(min(${narrowest}, 100%), 1fr))`,
        maxWidth: `${15 * accounts.length}rem`,
      }}
    >
      {accounts.map((account) => (
        <T key={`${account.account} ${account.party}`} account={account} after={after} />
      ))}
    </div>
  )
}

interface Shown {
  key: string
  debit: string | null
  credit: string | null
  tone: 'booked' | 'coming' | 'before'
}

function shownLines(account: TAccount, after: boolean): Shown[] {
  function lines(of: TLine[], tone: Shown['tone']): Shown[] {
    return of.map((line, place) => ({
      key: `${tone} ${place}`,
      debit: line.debit,
      credit: line.credit,
      tone,
    }))
  }
  const { before } = account
  const opening: Shown[] =
    before !== null && !isNil(before)
      ? [
          {
            key: 'before',
            debit: before.startsWith('-') ? null : before,
            credit: before.startsWith('-') ? before.slice(1) : null,
            tone: 'before',
          },
        ]
      : []
  return [
    ...opening,
    ...lines(account.booked, 'booked'),
    ...(after ? lines(account.coming, 'coming') : []),
  ]
}

/** The lines that the coming ones take back are struck through: same sum on the other side. */
function struck(account: TAccount, after: boolean): Set<string> {
  const found = new Set<string>()
  if (!after) return found
  const left = account.booked.map((line, place) => ({ line, key: `booked ${place}` })).reverse()
  for (const coming of account.coming) {
    const answer = left.find(
      ({ line, key }) =>
        !found.has(key) &&
        ((coming.debit && line.credit === coming.debit) ||
          (coming.credit && line.debit === coming.credit)),
    )
    if (answer) found.add(answer.key)
  }
  return found
}

const INKS = {
  booked: '',
  before: 'text-quiet',
  coming: 'font-bold text-tide',
} as const

function T({ account, after }: { account: TAccount; after: boolean }) {
  const lines = shownLines(account, after)
  const gone = struck(account, after)
  const balance = after ? account.balance_after : account.balance_booked
  const name = account.party ?? account.name
  function column(side: 'debit' | 'credit') {
    return lines
      .filter((line) => line[side])
      .map((line) => (
        <span key={line.key} className={`block ${INKS[line.tone]}`}>
          {gone.has(line.key) ? (
            <s className="decoration-rust">{amountWords(line[side] ?? '')}</s>
          ) : (
            amountWords(line[side] ?? '')
          )}
        </span>
      ))
  }
  return (
    <figure aria-label={`${account.account} ${name}`} className="min-w-0 text-[13px]">
      <figcaption
        className="truncate border-b-[1.6px] border-ink text-center font-semibold"
        title={`${account.account} ${account.name}${account.party ? `, ${account.party}` : ''}`}
      >
        {name}
      </figcaption>
      <div className="grid grid-cols-2 leading-[18px]">
        <div className="min-h-10 border-r-[1.6px] border-ink px-1.5 py-0.5 text-right">
          <span className="sr-only">Debit</span>
          {column('debit')}
        </div>
        <div className="min-h-10 px-1.5 py-0.5 text-right">
          <span className="sr-only">Credit</span>
          {column('credit')}
        </div>
      </div>
      <div className="border-t border-edge text-center">
        <span className="sr-only">Balance </span>
        {isNil(balance) ? 'nil' : amountWords(balance)}
      </div>
    </figure>
  )
}
