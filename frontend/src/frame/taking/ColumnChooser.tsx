import { useState } from 'react'
import type { Schemas } from '../../api/client'
import { Button } from '../../ui/Button'

type Columns = Schemas['ColumnsModel']

interface ColumnChooserProps {
  asks: Schemas['AskedColumns']
  onChosen: (columns: Columns) => void
}

const MEANINGS = {
  '': 'not used',
  day: 'day',
  text: 'text',
  amount: 'amount, money in positive',
  turned: 'amount, money out positive',
  money_in: 'money in',
  money_out: 'money out',
  reference: 'reference',
  balance: 'running balance',
  bank_id: "the bank's id",
  value_day: 'value day',
  counterparty: 'payee or payer',
  side: 'in or out (debit or credit)',
} as const

type Meaning = keyof typeof MEANINGS

const ORDERS = {
  ymd: 'year, month, day',
  dmy: 'day, month, year',
  mdy: 'month, day, year',
} as const

/** Which column of a CSV is what: asked once, with a guess, and remembered for the account. */
export function ColumnChooser({ asks, onChosen }: ColumnChooserProps) {
  const [meanings, setMeanings] = useState<Meaning[]>(() => guessed(asks))
  const [order, setOrder] = useState<keyof typeof ORDERS>(
    (asks.guessed?.day_order as keyof typeof ORDERS) ?? 'dmy',
  )
  const columns = columnsOf(meanings, order)
  return (
    <section aria-label="Which column is what" className="space-y-3">
      <p>
        <strong className="font-semibold">Say once which column is what.</strong> Nothing was taken
        in yet; the answer is remembered for this account.
      </p>
      <div className="overflow-x-auto">
        <table className="border-collapse text-left text-[13px]">
          <thead>
            <tr>
              {asks.heading.map((name, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
                <th key={place} scope="col" className="border border-edge px-2 py-1 font-semibold">
                  {name || '(no name)'}
                  <select
                    aria-label={`What ${name || `column ${place + 1}`} is`}
                    className="mt-1 block border border-edge bg-sheet px-1 py-0.5 font-normal"
                    value={meanings[place]}
                    onChange={(event) =>
                      setMeanings(
                        meanings.map((chosen, at) =>
                          at === place ? (event.target.value as Meaning) : chosen,
                        ),
                      )
                    }
                  >
                    {Object.entries(MEANINGS).map(([meaning, says]) => (
                      <option key={meaning} value={meaning}>
                        {says}
                      </option>
                    ))}
                  </select>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {asks.rows.map((row, number) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
              <tr key={number}>
                {asks.heading.map((_, place) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
                  <td key={place} className="border border-rule px-2 py-0.5">
                    {row[place]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <label className="flex items-center gap-2">
        Days are written as
        <select
          className="border border-edge bg-sheet px-2 py-1"
          value={order}
          onChange={(event) => setOrder(event.target.value as keyof typeof ORDERS)}
        >
          {Object.entries(ORDERS).map(([name, says]) => (
            <option key={name} value={name}>
              {says}
            </option>
          ))}
        </select>
      </label>
      <Button look="post" disabled={!columns} onClick={() => columns && onChosen(columns)}>
        Take it in so
      </Button>
      {!columns && (
        <span className="ml-3 text-quiet">
          Needed: the day, a text, and an amount (or money in and money out).
        </span>
      )}
    </section>
  )
}

function guessed(asks: Schemas['AskedColumns']): Meaning[] {
  const found: Meaning[] = asks.heading.map(() => '')
  const guess = asks.guessed
  if (!guess) return found
  for (const name of Object.keys(MEANINGS) as Meaning[]) {
    const value = name && name !== 'turned' ? guess[name] : null
    for (const place of Array.isArray(value) ? value : [value]) {
      if (typeof place === 'number') found[place] = name
    }
  }
  return guess.turned ? found.map((meaning) => (meaning === 'amount' ? 'turned' : meaning)) : found
}

function columnsOf(meanings: Meaning[], order: string): Columns | null {
  function at(meaning: Meaning): number | null {
    const place = meanings.indexOf(meaning)
    return place < 0 ? null : place
  }
  const day = at('day')
  const text = meanings.flatMap((chosen, place) => (chosen === 'text' ? [place] : []))
  const amount = at('amount') ?? at('turned')
  const pair = at('money_in') !== null && at('money_out') !== null
  const named = text.length > 0 || at('counterparty') !== null
  if (day === null || !named || (amount === null && !pair)) return null
  return {
    day,
    text,
    day_order: order,
    amount,
    money_in: amount === null ? at('money_in') : null,
    money_out: amount === null ? at('money_out') : null,
    reference: at('reference'),
    balance: at('balance'),
    bank_id: at('bank_id'),
    value_day: at('value_day'),
    counterparty: at('counterparty'),
    turned: at('turned') !== null,
    side: at('side'),
  }
}
