import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { answered, api, type Schemas } from '../api/client'
import { PrintedHead } from '../frame/PrintedHead'
import { useClient } from '../frame/queries'
import { type Remark, remarksOptions } from '../frame/remarks/queries'
import { useSpan } from '../frame/useSpan'
import { Amount } from '../ledger/Amount'
import { useInspect } from '../ledger/inspect'
import { amountWords, capital, changeWords, isNil, longDayWords } from '../ledger/words'
import { useFirstRow } from '../ui/focus'
import { moveInRows } from '../ui/rows'
import { Waiting } from '../ui/Waiting'
import { MonthBars } from './MonthBars'
import { ViewLinks } from './ViewLinks'

type Analysis = Schemas['AnalysisAnswer']
type Row = Schemas['ReadingAnswer']

const SECTIONS = ['income', 'cost of sales', 'expenses']

/** The span beside the same a year earlier: account by account, month by month, and ratios. */
export function Reading() {
  const client = useClient()
  const [span] = useSpan()
  const query = { first: span.first, last: span.last }
  const { data } = useQuery({
    queryKey: ['client', client.code, 'analysis', query],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/analysis', {
          params: { path: { client: client.code }, query },
        }),
      ),
    placeholderData: keepPreviousData,
  })
  const { data: remarked } = useQuery(remarksOptions(client.code))
  if (!data) return <Waiting />
  const notes = remarked?.remarks.filter((remark) => remark.about === 'account') ?? []
  const open = data.rows.filter((row) => row.asks && !noteOn(row, notes)).length
  return (
    <>
      <PrintedHead says="Analytical reading" />
      <header className="flex items-baseline gap-4 pt-3 pb-2">
        <h1 className="shrink-0 text-[21px] leading-7 font-semibold min-[1100px]:whitespace-nowrap">
          <span className="hidden print:inline">{client.name}: </span>
          Analytical reading
        </h1>
        <p className="min-w-0 truncate text-quiet">
          {longDayWords(data.first)} to {longDayWords(data.last)}, beside the same a year earlier ·{' '}
          {open === 0 ? 'nothing asks for a word' : `${open} ask for a word`}
        </p>
        <ViewLinks
          others={[
            { says: 'Worksheet', view: null },
            { says: 'Trial balance', view: 'trial-balance' },
            { says: 'Statements', view: 'statements' },
          ]}
        />
      </header>
      <Ratios found={data} />
      <Accounts found={data} notes={notes} />
    </>
  )
}

function noteOn(row: Row, notes: Remark[]): Remark | undefined {
  return notes.find((remark) => remark.name === row.account)
}

function Ratios({ found }: { found: Analysis }) {
  return (
    <dl className="mb-4 flex flex-wrap gap-x-8 gap-y-2 border-y border-rule py-2">
      {found.ratios
        .filter((ratio) => [ratio.now, ratio.before].some((value) => value && !isNil(value)))
        .map((ratio) => (
          <div key={ratio.name} title={ratio.how}>
            <dt className="text-quiet">{ratio.name}</dt>
            <dd>
              <strong className="font-semibold">{withUnit(ratio.now, ratio.unit)}</strong>{' '}
              <span className="text-quiet">was {withUnit(ratio.before, ratio.unit)}</span>
            </dd>
          </div>
        ))}
    </dl>
  )
}

function withUnit(value: string | null, unit: string): string {
  if (value === null) return 'not known'
  return unit === '%' ? `${amountWords(value)}%` : `${amountWords(value)} ${unit}`
}

function Accounts({ found, notes }: { found: Analysis; notes: Remark[] }) {
  const table = useFirstRow<HTMLTableElement>()
  const planned = found.rows.some((row) => row.budget !== null)
  const heads = ['Now', 'A year earlier', 'Change', '', ...(planned ? ['Budget'] : [])]
  return (
    <table ref={table} className="w-full border-collapse" onKeyDown={moveInRows}>
      <caption className="sr-only">Accounts beside a year earlier</caption>
      <thead>
        <tr className="border-b border-ink text-deep">
          <th scope="col" className="py-1.5 pr-2.5 text-left font-semibold">
            Account
          </th>
          {heads.map((head) => (
            <th key={head} scope="col" className="px-2.5 text-right font-semibold">
              {head || <span className="sr-only">in percent</span>}
            </th>
          ))}
          <th scope="col" className="px-2.5 text-left font-semibold">
            Month by month
            <span className="block text-[12px] font-normal text-quiet">
              line: a year earlier · <span className="text-rust">red: broke its run</span>
            </span>
          </th>
          <th scope="col" className="w-1/3 pl-2.5 text-left font-semibold">
            Explanation
          </th>
        </tr>
      </thead>
      {SECTIONS.map((section) => {
        const rows = found.rows.filter((row) => row.section === section)
        if (rows.length === 0) return null
        return (
          <tbody key={section}>
            <tr>
              <th
                scope="rowgroup"
                colSpan={heads.length + 3}
                className="pt-3 pb-1 text-left font-display font-semibold"
              >
                {capital(section)}
              </th>
            </tr>
            {rows.map((row) => (
              <AccountRow
                key={row.account}
                row={row}
                months={found.months}
                planned={planned}
                note={noteOn(row, notes)}
              />
            ))}
          </tbody>
        )
      })}
    </table>
  )
}

interface AccountRowProps {
  row: Row
  months: string[]
  /** There is a budget to be beside. */
  planned: boolean
  note: Remark | undefined
}

function AccountRow({ row, months, planned, note }: AccountRowProps) {
  const inspect = useInspect()
  const open = () => inspect({ kind: 'account', name: row.account, figure: 'adjusted' })
  return (
    <tr className="h-8 cursor-pointer border-b border-rule hover:bg-wash" onClick={open}>
      <th scope="row" className="pr-2.5 text-left font-normal whitespace-nowrap">
        <button type="button" data-row className="w-full text-left">
          <span className="mr-2.5 text-quiet">{row.account}</span>
          {row.name}
        </button>
      </th>
      <td className="px-2.5 text-right">
        <Amount value={row.now} />
      </td>
      <td className="px-2.5 text-right text-quiet">
        <Amount value={row.before} nil="" />
      </td>
      <td className={`px-2.5 text-right ${row.asks ? 'font-semibold' : 'text-quiet'}`}>
        {isNil(row.change) ? '' : changeWords(row.change)}
      </td>
      <td className={`px-2.5 text-right ${row.asks ? 'font-semibold' : 'text-quiet'}`}>
        {percentWords(row.percent)}
      </td>
      {planned && (
        <td className="px-2.5 text-right text-quiet">
          {row.budget && <Amount value={row.budget} />}
        </td>
      )}
      <td className="px-2.5">
        <MonthBars row={row} months={months} />
      </td>
      <td className="pl-2.5">
        {note ? (
          <span>
            {note.said.text} <span className="text-[13px] text-quiet">{note.said.by}</span>
          </span>
        ) : (
          row.asks && <span className="text-rust">asks for a word: open it and remark on it</span>
        )}
      </td>
    </tr>
  )
}

function percentWords(percent: number | null): string {
  if (percent === null) return ''
  if (percent === 0) return '0%'
  return percent < 0 ? `−${-percent}%` : `+${percent}%`
}
