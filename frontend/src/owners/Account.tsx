import type { Schemas } from '../api/client'
import { useInspect } from '../ledger/inspect'
import { amountWords, capital, isNil, longDayWords } from '../ledger/words'
import { BalanceLine } from './BalanceLine'

type OwnerAccount = Schemas['OwnerAccountAnswer']

/** One owner's account: opening, what came and went by its nature, closing, and how it ran. */
export function Account({ account }: { account: OwnerAccount }) {
  const inspect = useInspect()
  return (
    <article aria-label={account.name} className="grid grid-cols-[320px_1fr] gap-6">
      <div>
        <h2 className="text-[17px] font-semibold">
          <button
            type="button"
            className="text-left hover:text-tide"
            onClick={() => inspect({ kind: 'account', name: account.account })}
          >
            <span className="mr-2 font-normal text-quiet">{account.account}</span>
            {account.name}
          </button>
        </h2>
        <table className="mt-1 w-full border-collapse">
          <caption className="sr-only">Statement of {account.name}</caption>
          <tbody>
            <Row says="Opening" amount={account.opening} />
            {account.moved.map((row) => (
              <Row
                key={row.nature}
                says={`${capital(row.nature)}`}
                aside={`${row.count}`}
                amount={row.amount}
              />
            ))}
            <Row says="Closing" amount={account.closing} isSum />
          </tbody>
        </table>
        <Overdrawn account={account} />
      </div>
      <BalanceLine account={account} />
    </article>
  )
}

interface RowProps {
  says: string
  aside?: string
  amount: string
  isSum?: boolean
}

function Row({ says, aside, amount, isSum = false }: RowProps) {
  return (
    <tr className={`h-7 ${isSum ? 'border-t border-ink font-semibold' : 'border-b border-rule'}`}>
      <th scope="row" className={`text-left ${isSum ? '' : 'font-normal'}`}>
        {says}
        {aside && <span className="ml-2 text-quiet">{aside}</span>}
      </th>
      <td className="text-right">{amountWords(amount)}</td>
    </tr>
  )
}

/** Whether the owner owes: since when, how much at most. Balances are what is owed to the owner. */
function Overdrawn({ account }: { account: OwnerAccount }) {
  if (!account.can_owe) {
    return <p className="mt-2 text-quiet">In brackets: what was taken out.</p>
  }
  if (!account.overdrawn_since) {
    return <p className="mt-2 text-moss">✓ Not overdrawn: nothing is owed by the owner.</p>
  }
  return (
    <p className="mt-2 border-l-4 border-rust bg-sheet px-3 py-1.5 text-rust">
      <strong>Overdrawn since {longDayWords(account.overdrawn_since)}.</strong>
      {!isNil(account.lowest.balance) && (
        <>
          {' '}
          At most {amountWords(account.lowest.balance.replace('-', ''))} on{' '}
          {longDayWords(account.lowest.day)}.
        </>
      )}
    </p>
  )
}
