import { useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { PrintedHead } from '../frame/PrintedHead'
import { useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { useInspect } from '../ledger/inspect'
import { amountWords, longDayWords } from '../ledger/words'
import { useFirstRow } from '../ui/focus'
import { moveInRows } from '../ui/rows'
import { ViewLinks } from './ViewLinks'

type Column = 'adjusted' | 'as-received'
type Closing = 'in' | 'out'

/** The trial balance in two columns, with what was chosen about it said on it. */
export function TrialBalance() {
  const client = useClient()
  const [span] = useSpan()
  const [column, setColumn] = useState<Column>('adjusted')
  const [closing, setClosing] = useState<Closing>('out')
  const [basis, setBasis] = useState<'accruals' | 'cash'>('accruals')
  const query = { at: span.last, column, closing, basis }
  const { data } = useSuspenseQuery({
    queryKey: ['client', client.code, 'trial balance', query],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/trial-balance', {
          params: { path: { client: client.code }, query },
        }),
      ),
  })
  const file = new URLSearchParams(query).toString()
  return (
    <>
      <PrintedHead says="Trial balance" />
      <header className="flex items-baseline gap-4 pt-3 pb-2">
        <h1 className="text-[21px] leading-7 font-semibold">
          <span className="hidden print:inline">{client.name}: </span>
          Trial balance as at {longDayWords(data.at)}
        </h1>
        <p className="text-quiet">
          {column === 'adjusted' ? 'with every entry of ours' : 'as received'} · closing entries{' '}
          {closing === 'in' ? 'in' : 'left out'}
          {basis === 'cash' && ' · by settlement: what is open is neither cost nor income'} ·{' '}
          {client.currency}
        </p>
        <ViewLinks
          others={[
            { says: 'Worksheet', view: null },
            { says: 'Statements', view: 'statements' },
          ]}
          file={{ says: 'CSV', href: `/api/clients/${client.code}/trial-balance.csv?${file}` }}
        />
      </header>
      <div className="screen-only flex gap-6 pb-2 text-quiet">
        <label className="flex gap-1.5">
          <input
            type="checkbox"
            checked={column === 'as-received'}
            onChange={() => {
              setColumn(column === 'adjusted' ? 'as-received' : 'adjusted')
              setBasis('accruals')
            }}
          />
          as received, without our entries
        </label>
        <label className="flex gap-1.5">
          <input
            type="checkbox"
            checked={closing === 'in'}
            onChange={() => setClosing(closing === 'in' ? 'out' : 'in')}
          />
          after closing entries
        </label>
        <label className="flex gap-1.5">
          <input
            type="checkbox"
            checked={basis === 'cash'}
            disabled={column === 'as-received'}
            onChange={() => setBasis(basis === 'cash' ? 'accruals' : 'cash')}
          />
          on a cash basis
        </label>
      </div>
      <Rows balance={data} />
    </>
  )
}

function Rows({ balance }: { balance: Schemas['TrialBalanceAnswer'] }) {
  const inspect = useInspect()
  const table = useFirstRow<HTMLTableElement>()
  return (
    <table
      ref={table}
      className="w-full max-w-4xl border-separate border-spacing-0"
      onKeyDown={moveInRows}
    >
      <caption className="sr-only">Trial balance</caption>
      <thead>
        <tr className="text-deep">
          {['No.', 'Account', 'Type', 'Debit', 'Credit'].map((head, place) => (
            <th
              key={head}
              scope="col"
              className={`sticky top-0 border-b border-ink bg-paper px-2.5 py-1.5 font-semibold ${place > 2 ? 'text-right' : 'text-left'}`}
            >
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {balance.rows.map((row) => {
          const credit = row.balance.startsWith('-')
          return (
            <tr
              key={row.account}
              className="h-7 cursor-pointer hover:bg-wash"
              onClick={() => inspect({ kind: 'account', name: row.account })}
            >
              <td className="border-b border-rule px-2.5 text-quiet">
                {row.account === 'brought-forward' ? '' : row.account}
              </td>
              <th scope="row" className="border-b border-rule px-2.5 text-left font-normal">
                <button type="button" data-row className="w-full text-left">
                  {row.name}
                </button>
              </th>
              <td className="border-b border-rule px-2.5 text-quiet">{row.type}</td>
              <td className="border-b border-rule px-2.5 text-right">
                {!credit && amountWords(row.balance)}
              </td>
              <td className="border-b border-rule px-2.5 text-right">
                {credit && amountWords(row.balance.slice(1))}
              </td>
            </tr>
          )
        })}
      </tbody>
      <tfoot>
        <tr className="h-8 font-semibold">
          <th scope="row" colSpan={3} className="px-2.5 text-left font-semibold">
            Total
          </th>
          <td className="border-b-3 border-edge px-2.5 text-right [border-bottom-style:double]">
            {amountWords(balance.debits)}
          </td>
          <td className="border-b-3 border-edge px-2.5 text-right [border-bottom-style:double]">
            {amountWords(balance.credits.replace('-', ''))}
          </td>
        </tr>
      </tfoot>
    </table>
  )
}
