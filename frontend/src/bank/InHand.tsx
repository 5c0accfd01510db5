import { useSuspenseQuery } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { useClient } from '../frame/queries'
import { useInspect } from '../ledger/inspect'
import { amountWords, counted, dayWords } from '../ledger/words'
import { SettledDays } from './SettledDays'
import { TakingsGrid } from './TakingsGrid'

/** What has been received and is not at the bank yet; and the takings, keyed by day. */
export function InHand({ onBank }: { onBank: () => void }) {
  const client = useClient()
  const inspect = useInspect()
  const { data } = useSuspenseQuery({
    queryKey: ['client', client.code, 'in hand'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/in-hand', { params: { path: { client: client.code } } }),
      ),
  })
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,430px)_minmax(0,1fr)] gap-8 overflow-auto px-5 pt-3 pb-8">
      <section aria-label="Receipts in hand">
        <header className="mb-2 flex items-baseline gap-3">
          <h1 className="text-[19px] leading-7 font-semibold">In hand</h1>
          <p className="text-quiet">
            {counted(data.receipts.length, 'receipt')} · {amountWords(data.total)}
          </p>
          <button type="button" className="ml-auto text-tide hover:underline" onClick={onBank}>
            To the statements
          </button>
        </header>
        {data.receipts.length === 0 ? (
          <p className="text-quiet">
            Nothing is in hand: what was received on an account with the role unbanked has all been
            taken to the bank.
          </p>
        ) : (
          <table className="w-full border-collapse">
            <caption className="sr-only">Receipts in hand, the oldest first</caption>
            <thead>
              <tr className="border-b border-ink text-left text-deep">
                <th scope="col" className="py-1 font-semibold">
                  Received
                </th>
                <th scope="col" className="font-semibold">
                  From
                </th>
                <th scope="col" className="text-right font-semibold">
                  Days
                </th>
                <th scope="col" className="text-right font-semibold">
                  Amount
                </th>
              </tr>
            </thead>
            <tbody>
              {data.receipts.map((receipt) => (
                <tr key={receipt.transaction} className="h-7 border-b border-rule">
                  <td className="whitespace-nowrap">
                    <button
                      type="button"
                      className="text-tide hover:underline"
                      onClick={() => inspect({ kind: 'transaction', name: receipt.transaction })}
                    >
                      {dayWords(receipt.date)}
                    </button>
                  </td>
                  <td className="max-w-0 truncate">{receipt.who ?? receipt.text}</td>
                  <td
                    className={`text-right ${receipt.days > 14 ? 'font-semibold text-rust' : ''}`}
                  >
                    {receipt.days}
                  </td>
                  <td className="text-right">{amountWords(receipt.left)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
        <p className="mt-3 text-quiet">
          What the bank credited in one sum is banked from its statement line: open it on the
          statement, and the receipts that make it up are offered.
        </p>
      </section>
      <div>
        <TakingsGrid />
        <SettledDays />
      </div>
    </div>
  )
}
