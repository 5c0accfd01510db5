import { useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../../api/client'
import { Amount } from '../../ledger/Amount'
import { useInspect } from '../../ledger/inspect'
import { amountWords, isNil, longDayWords, shortDayWords } from '../../ledger/words'
import { useClientCode } from '../useClientCode'
import { useSpan } from '../useSpan'
import { MergeParty } from './MergeParty'
import { Movements } from './Movements'

export function partyOptions(client: string, party: string, first: string, last: string) {
  return {
    queryKey: ['client', client, 'party', party, first, last],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/parties/{party}', {
          params: { path: { client, party }, query: { first, last } },
        }),
      ),
  }
}

/** A party's history in order with its running balance, and what is open of it now. */
export function PartyHistory({ code }: { code: string }) {
  const client = useClientCode()
  const [span] = useSpan()
  const inspect = useInspect()
  const [merging, merge] = useState(false)
  const { data } = useSuspenseQuery(partyOptions(client, code, span.first, span.last))
  return (
    <div className="space-y-4">
      <div>
        <h3 className="font-display text-xl font-semibold">{data.ledger.name}</h3>
        <p className="text-quiet">
          {code} · {longDayWords(span.first)} to {longDayWords(span.last)}, on the control accounts
          {data.also.length > 0 && <> · also known as {data.also.join(', ')}</>}
        </p>
        <button
          type="button"
          className="text-tide hover:underline"
          aria-expanded={merging}
          onClick={() => merge(!merging)}
        >
          It is in the books under another name too
        </button>
      </div>
      {merging && <MergeParty code={code} name={data.ledger.name} onDone={() => merge(false)} />}
      <Movements ledger={data.ledger} caption={`History of ${data.ledger.name}`} />
      <section aria-label="Open now">
        <h4 className="font-semibold text-deep">
          Open now: {isNil(data.open) ? 'nil' : amountWords(data.open)}
        </h4>
        {data.items.length === 0 ? (
          <p className="text-quiet">Everything of this party is settled.</p>
        ) : (
          <table className="w-full border-collapse">
            <caption className="sr-only">Open items</caption>
            <thead>
              <tr className="border-b border-ink text-left text-deep">
                <th scope="col" className="py-1 font-semibold">
                  Item
                </th>
                <th scope="col" className="font-semibold">
                  Date
                </th>
                <th scope="col" className="text-right font-semibold">
                  Amount
                </th>
                <th scope="col" className="text-right font-semibold">
                  Open
                </th>
              </tr>
            </thead>
            <tbody>
              {data.items.map((item) => (
                <tr
                  key={`${item.transaction} ${item.account}`}
                  className="h-7 border-b border-rule"
                >
                  <th scope="row" className="text-left font-normal">
                    <button
                      type="button"
                      className="hover:text-tide hover:underline"
                      onClick={() => inspect({ kind: 'transaction', name: item.transaction })}
                    >
                      {item.reference ?? item.transaction}
                    </button>
                  </th>
                  <td>{shortDayWords(item.date)}</td>
                  <td className="text-right">
                    <Amount value={item.amount} />
                  </td>
                  <td className="text-right font-semibold">
                    <Amount value={item.open} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </section>
    </div>
  )
}
