import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { PrintedHead } from '../frame/PrintedHead'
import { useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { useInspect } from '../ledger/inspect'
import { amountWords, capital, isNil, longDayWords } from '../ledger/words'
import { Waiting } from '../ui/Waiting'
import { ViewLinks } from './ViewLinks'

type Statement = Schemas['FinancialStatementAnswer']
type Row = Schemas['StatementRowAnswer']

/** Profit and loss, balance sheet, what moved equity, and where money came from and went. */
export function Financials() {
  const client = useClient()
  const [span] = useSpan()
  const [whole, round] = useState(false)
  const query = { first: span.first, last: span.last, whole }
  const { data } = useQuery({
    queryKey: ['client', client.code, 'financials', query],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/financials', {
          params: { path: { client: client.code }, query },
        }),
      ),
    placeholderData: keepPreviousData,
  })
  if (!data) return <Waiting />
  return (
    <>
      <PrintedHead says="Financial statements" />
      <header className="flex items-baseline gap-4 pt-3 pb-2">
        <h1 className="shrink-0 text-[21px] leading-7 font-semibold min-[1100px]:whitespace-nowrap">
          <span className="hidden print:inline">{client.name}: </span>
          Financial statements
        </h1>
        <p className="text-quiet">
          {longDayWords(data.first)} to {longDayWords(data.last)}, beside the same a year earlier ·{' '}
          {client.currency}
        </p>
        <ViewLinks
          others={[
            { says: 'Worksheet', view: null },
            { says: 'Trial balance', view: 'trial-balance' },
            { says: 'Reading', view: 'reading' },
          ]}
        />
      </header>
      <label className="screen-only flex gap-1.5 pb-3 text-quiet">
        <input type="checkbox" checked={whole} onChange={() => round(!whole)} />
        in whole {client.currency}, rounded so that it still adds up
      </label>
      <div className="grid grid-cols-2 gap-10 max-[1100px]:grid-cols-1">
        <div className="space-y-8">
          <ProfitAndLoss found={data.profit_and_loss} />
          <Money rows={data.money} />
        </div>
        <div className="space-y-8">
          <BalanceSheet found={data.balance_sheet} last={data.last} />
          <Equity rows={data.equity} />
        </div>
      </div>
    </>
  )
}

function ProfitAndLoss({ found }: { found: Statement }) {
  return (
    <Table title="Profit and loss">
      <Section found={found} section="income" />
      <Section found={found} section="cost of sales" />
      {hasRows(found, 'cost of sales') && (
        <Total says="Gross profit" found={found} total="gross_profit" />
      )}
      <Section found={found} section="expenses" total="expenses" />
      <Total says="Profit" found={found} total="profit" last />
    </Table>
  )
}

function BalanceSheet({ found, last }: { found: Statement; last: string }) {
  return (
    <Table title={`Balance sheet, ${longDayWords(last)}`}>
      <Section found={found} section="fixed assets" total="fixed_assets" />
      <Section found={found} section="current assets" total="current_assets" />
      <Total says="Assets" found={found} total="assets" last />
      <Section found={found} section="owed within a year" />
      <Section found={found} section="loans" />
      <Total says="Liabilities" found={found} total="liabilities" />
      <Section found={found} section="equity" total="equity" />
      <Total says="Liabilities and equity" found={found} total="liabilities_and_equity" last />
    </Table>
  )
}

function Table({ title, children }: { title: string; children: React.ReactNode }) {
  return (
    <table className="w-full border-collapse">
      <caption className="border-b border-ink pb-1 text-left text-[17px] font-semibold">
        {title}
      </caption>
      <Heads names={['Account', 'Now', 'A year earlier']} />
      {children}
    </table>
  )
}

function hasRows(found: Statement, section: string): boolean {
  return found.rows.some((row) => row.section === section)
}

function Section({ found, section, total }: { found: Statement; section: string; total?: string }) {
  const rows = found.rows.filter((row) => row.section === section)
  if (rows.length === 0) return null
  return (
    <tbody>
      <tr>
        <th scope="rowgroup" colSpan={3} className="pt-2 text-left font-semibold text-deep">
          {capital(section)}
        </th>
      </tr>
      {rows.map((row) => (
        <Line key={row.account} row={row} />
      ))}
      {total && rows.length > 1 && (
        <tr className="border-t border-edge font-semibold">
          <th scope="row" className="py-0.5 text-left font-semibold">
            <span className="sr-only">{capital(section)} together</span>
          </th>
          <td className="w-28 text-right">{amountWords(found.totals[total] ?? '')}</td>
          <td className="w-28 text-right text-quiet">
            {amountWords(found.totals[`${total}_before`] ?? '')}
          </td>
        </tr>
      )}
    </tbody>
  )
}

/** Of what stands on no account nothing is opened. */
const OWN = ['profit', 'brought-forward']

function Line({ row }: { row: Row }) {
  const inspect = useInspect()
  return (
    <tr className="border-b border-rule">
      <th scope="row" className="py-0.5 text-left font-normal">
        {OWN.includes(row.account) ? (
          row.name
        ) : (
          <button
            type="button"
            className="text-left hover:underline"
            onClick={() => inspect({ kind: 'account', name: row.account })}
          >
            <span className="mr-2 text-quiet">{row.account}</span>
            {row.name}
          </button>
        )}
        {row.bent && (
          <span className="ml-2 text-quiet" title="Rounded so that the whole adds up">
            ±1
          </span>
        )}
      </th>
      <td className="w-28 text-right">{figure(row.amount)}</td>
      <td className="w-28 text-right text-quiet">{figure(row.before)}</td>
    </tr>
  )
}

function figure(amount: string): string {
  return isNil(amount) ? '–' : amountWords(amount)
}

interface TotalProps {
  says: string
  found: Statement
  total: string
  /** The last of its statement: a double line below. */
  last?: boolean
}

function Total({ says, found, total, last = false }: TotalProps) {
  return (
    <tbody>
      <tr
        className={`font-semibold ${last ? 'border-t border-b-3 border-t-ink border-b-ink [border-bottom-style:double]' : 'border-y border-ink'}`}
      >
        <th scope="row" className="py-1 text-left font-semibold">
          {says}
        </th>
        <td className="w-28 text-right">{amountWords(found.totals[total] ?? '')}</td>
        <td className="w-28 text-right text-quiet">
          {amountWords(found.totals[`${total}_before`] ?? '')}
        </td>
      </tr>
    </tbody>
  )
}

function Equity({ rows }: { rows: Schemas['EquityAnswer'][] }) {
  const inspect = useInspect()
  return (
    <table className="w-full border-collapse">
      <caption className="border-b border-ink pb-1 text-left text-[17px] font-semibold">
        What moved equity
      </caption>
      <Heads names={['Account', 'Stood at', 'Moved', 'Stands at']} />
      <tbody>
        {rows.map((row) => (
          <tr key={row.account} className="border-b border-rule text-right">
            <th scope="row" className="py-0.5 text-left font-normal">
              {OWN.includes(row.account) ? (
                row.name
              ) : (
                <button
                  type="button"
                  className="text-left hover:underline"
                  onClick={() => inspect({ kind: 'account', name: row.account })}
                >
                  {row.name}
                </button>
              )}
            </th>
            <td className="w-28">{figure(row.opening)}</td>
            <td className="w-28">{figure(row.moved)}</td>
            <td className="w-28">{figure(row.closing)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Money({ rows }: { rows: Schemas['MoneyAnswer'][] }) {
  return (
    <table className="w-full border-collapse">
      <caption className="border-b border-ink pb-1 text-left text-[17px] font-semibold">
        Where money came from and went
      </caption>
      <Heads names={['Source', 'Came', 'Went']} />
      <tbody>
        {rows.map((row) => (
          <tr key={row.source} className="border-b border-rule text-right">
            <th scope="row" className="py-0.5 text-left font-normal">
              {capital(row.source)}
            </th>
            <td className="w-28">{figure(row.came)}</td>
            <td className="w-28">{figure(row.went)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Heads({ names }: { names: string[] }) {
  return (
    <thead>
      <tr className="text-right text-deep">
        {names.map((name, place) => (
          <th
            key={name}
            scope="col"
            className={`py-1 font-semibold ${place === 0 ? 'text-left' : 'w-28'}`}
          >
            {name}
          </th>
        ))}
      </tr>
    </thead>
  )
}
