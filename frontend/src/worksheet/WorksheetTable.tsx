import type { ReactNode } from 'react'
import type { Schemas } from '../api/client'
import { Amount } from '../ledger/Amount'
import { type FigureColumn, useInspect } from '../ledger/inspect'
import { amountWords, counted, dayWords, isNil, SECTION_TITLES } from '../ledger/words'
import { useFirstRow } from '../ui/focus'
import { ProblemNote } from '../ui/ProblemNote'
import { moveInRows } from '../ui/rows'
import { type LineWork, Marks, useLineWork, useMarkKeys } from './LineMarks'

type Sheet = Schemas['WorksheetAnswer']
type Row = Schemas['WorksheetRowAnswer']
type Figures = Schemas['WorksheetFiguresAnswer']
export type ColumnName = FigureColumn | 'change' | 'budget' | 'profit_and_loss' | 'balance_sheet'

interface Column {
  name: ColumnName
  head: string
  /** Entries of ours: in their own ink, nothing where nothing was posted. */
  ours?: boolean
  strong?: boolean
}

export const COLUMNS: Column[] = [
  { name: 'last_year', head: 'Last year' },
  { name: 'as_received', head: 'As received' },
  { name: 'corrections', head: 'Corrections', ours: true },
  { name: 'adjusting', head: 'Adjusting', ours: true },
  { name: 'reclassifications', head: 'Reclassified', ours: true },
  { name: 'closing', head: 'Closing', ours: true },
  { name: 'adjusted', head: 'Adjusted', strong: true },
  { name: 'budget', head: 'Budget' },
  { name: 'change', head: 'Change' },
  { name: 'profit_and_loss', head: 'Profit and loss' },
  { name: 'balance_sheet', head: 'Balance sheet' },
]

const SECTIONS = ['income', 'expense', 'asset', 'liability', 'equity']

/** The column whose movements a cell consists of: what is derived from the adjusted balance opens that. */
function opensTo(name: ColumnName): FigureColumn {
  switch (name) {
    case 'change':
    case 'budget':
    case 'profit_and_loss':
    case 'balance_sheet':
      return 'adjusted'
    default:
      return name
  }
}

interface WorksheetTableProps {
  sheet: Sheet
  columns: Column[]
}

export function WorksheetTable({ sheet, columns }: WorksheetTableProps) {
  const table = useFirstRow<HTMLTableElement>()
  const work = useLineWork(sheet.as_at)
  const problem = useMarkKeys(sheet, work)
  return (
    <>
      <ProblemNote problem={problem} />
      <Lines table={table} sheet={sheet} columns={columns} work={work} />
    </>
  )
}

interface LinesProps extends WorksheetTableProps {
  table: React.RefObject<HTMLTableElement | null>
  work: Map<string, LineWork>
}

function Lines({ table, sheet, columns, work }: LinesProps) {
  return (
    <table ref={table} className="w-full border-separate border-spacing-0" onKeyDown={moveInRows}>
      <caption className="sr-only">Worksheet, {sheet.year}</caption>
      <thead>
        <tr className="text-deep">
          <th
            scope="col"
            className="sticky top-0 border-b border-ink bg-paper px-2.5 py-1.5 text-left font-semibold"
          >
            No.
          </th>
          <th
            scope="col"
            className="sticky top-0 border-b border-ink bg-paper px-2.5 text-left font-semibold"
          >
            Account
          </th>
          {columns.map((column) => (
            <th
              key={column.name}
              scope="col"
              className="sticky top-0 border-b border-ink bg-paper px-2.5 text-right leading-[17px] font-semibold"
            >
              {column.head}
              <span className="block text-[12px] font-normal text-quiet">
                {beneath(column, sheet)}
              </span>
            </th>
          ))}
          <th
            scope="col"
            className="sticky top-0 border-b border-ink bg-paper px-2.5 text-right leading-[17px] font-semibold"
          >
            Marks
            <span className="block text-[12px] font-normal text-quiet">p, v</span>
          </th>
        </tr>
      </thead>
      {sheet.groups.length > 0
        ? sheet.groups.map((group) => (
            <Group key={group.title} group={group} sheet={sheet} columns={columns} work={work} />
          ))
        : SECTIONS.map((type) => (
            <Section key={type} type={type} sheet={sheet} columns={columns} work={work} />
          ))}
      <tfoot>
        <SumRow
          section="all"
          title={
            sheet.is_narrowed
              ? 'All that stands on it'
              : 'All accounts: nil where debits equal credits'
          }
          figures={sheet.totals}
          columns={columns}
          nil="nil"
        />
      </tfoot>
    </table>
  )
}

function beneath(column: Column, sheet: Sheet): string {
  if (column.name === 'last_year')
    return sheet.compared === 'not in the books' ? '' : dayWords(sheet.compared_at)
  if (!column.ours) return ''
  const count = sheet.entries[column.name] ?? 0
  return count === 0 ? 'no entries' : counted(count, 'entry', 'entries')
}

interface GroupProps extends WorksheetTableProps {
  group: Sheet['groups'][number]
  work: Map<string, LineWork>
}

/** Accounts under a heading of another reader's. */
function Group({ group, sheet, columns, work }: GroupProps) {
  const rows = sheet.rows.filter((row) => group.accounts.includes(row.account))
  return (
    <tbody>
      <tr>
        <th
          scope="rowgroup"
          colSpan={3 + columns.length}
          className="border-b border-rule px-2.5 pt-3 pb-1 text-left font-display font-semibold"
        >
          {group.title}
        </th>
      </tr>
      {rows.map((row) => (
        <AccountRow key={row.account} row={row} columns={columns} work={work.get(row.account)} />
      ))}
      <SumRow section="all" title={group.title} figures={group} columns={columns} />
    </tbody>
  )
}

interface SectionProps extends WorksheetTableProps {
  type: string
  work: Map<string, LineWork>
}

function Section({ type, sheet, columns, work }: SectionProps) {
  const rows = sheet.rows.filter((row) => row.type === type)
  const sum = sheet.sections[type]
  const title = SECTION_TITLES[type] ?? type
  if (rows.length === 0 || !sum) return null
  return (
    <tbody>
      <tr>
        <th
          scope="rowgroup"
          colSpan={3 + columns.length}
          className="border-b border-rule px-2.5 pt-3 pb-1 text-left font-display font-semibold"
        >
          {title}
        </th>
      </tr>
      {rows.map((row) => (
        <AccountRow key={row.account} row={row} columns={columns} work={work.get(row.account)} />
      ))}
      <SumRow section={type} title={title} figures={sum} columns={columns} />
      {type === 'expense' && sheet.sections.profit && (
        <SumRow
          section="profit"
          title={SECTION_TITLES.profit ?? ''}
          figures={sheet.sections.profit}
          columns={columns}
          isProfit
        />
      )}
    </tbody>
  )
}

interface AccountRowProps {
  row: Row
  columns: Column[]
  work: LineWork | undefined
}

function AccountRow({ row, columns, work }: AccountRowProps) {
  const inspect = useInspect()
  const open = (figure: FigureColumn) => inspect({ kind: 'account', name: row.account, figure })
  const code = row.account === 'brought-forward' ? '' : row.account
  return (
    <tr
      data-account={row.account}
      className="h-7 cursor-pointer hover:bg-wash"
      onClick={() => open('adjusted')}
    >
      <td className="border-b border-rule px-2.5 text-quiet">{code}</td>
      <th scope="row" className="border-b border-rule px-2.5 text-left font-normal">
        <button type="button" data-row className="w-full text-left">
          {row.name}
        </button>
      </th>
      {columns.map((column) => (
        <td
          key={column.name}
          className={`border-b border-rule px-2.5 text-right whitespace-nowrap ${inkOf(column)}`}
        >
          <FigureButton
            says={`${row.name}, ${column.head}: ${cellWords(column, row, row)}`}
            onOpen={() => open(opensTo(column.name))}
          >
            <Cell column={column} figures={row} row={row} nil="" />
          </FigureButton>
        </td>
      ))}
      <td className="border-b border-rule px-2.5 text-right whitespace-nowrap">
        <Marks work={work} />
      </td>
    </tr>
  )
}

function inkOf(column: Column): string {
  if (column.ours) return 'font-semibold text-tide'
  return column.strong ? 'font-semibold' : ''
}

interface CellProps {
  column: Column
  figures: Figures
  row?: Row
  nil: string
}

function Cell({ column, figures, row, nil }: CellProps) {
  switch (column.name) {
    case 'change':
      return percentWords(figures.change_percent)
    case 'profit_and_loss':
    case 'balance_sheet': {
      const value = row?.[column.name]
      return value ? <Amount value={value} nil="" /> : null
    }
    default:
      return <Amount value={figures[column.name]} nil={nil} />
  }
}

/** The figure of a cell in words; `nil` where there is none. */
function cellWords(column: Column, figures: Figures, row?: Row): string {
  switch (column.name) {
    case 'change':
      return percentWords(figures.change_percent) || 'nil'
    case 'profit_and_loss':
    case 'balance_sheet':
      return amountWords(row?.[column.name] ?? '') || 'nil'
    default:
      return isNil(figures[column.name]) ? 'nil' : amountWords(figures[column.name])
  }
}

interface FigureButtonProps {
  says: string
  onOpen: () => void
  children: ReactNode
}

/** A figure that opens to what it consists of; the arrows reach it from its row. */
function FigureButton({ says, onOpen, children }: FigureButtonProps) {
  return (
    <button
      type="button"
      data-figure
      aria-label={says}
      tabIndex={-1}
      className="min-h-5 w-full text-right"
      onClick={(event) => {
        event.stopPropagation()
        onOpen()
      }}
    >
      {children}
    </button>
  )
}

function percentWords(percent: number | null): string {
  if (percent === null) return ''
  return percent < 0 ? `(${-percent}%)` : `${percent}%`
}

interface SumRowProps {
  section: string
  title: string
  figures: Figures
  columns: Column[]
  isProfit?: boolean
  nil?: string
}

function SumRow({ section, title, figures, columns, isProfit = false, nil = '' }: SumRowProps) {
  const inspect = useInspect()
  const open = (figure: FigureColumn) => inspect({ kind: 'section', name: section, figure })
  const look = `border-b-3 border-edge [border-bottom-style:double] ${isProfit ? 'bg-wash' : ''}`
  return (
    <tr className="h-7 cursor-pointer font-semibold hover:bg-wash" onClick={() => open('adjusted')}>
      <td className={look} />
      <th scope="row" className={`${look} px-2.5 text-left font-semibold`}>
        <button type="button" data-row className="w-full text-left">
          {title}
        </button>
      </th>
      {columns.map((column) => (
        <td key={column.name} className={`${look} px-2.5 text-right`}>
          <FigureButton
            says={`${title}, ${column.head}: ${cellWords(column, figures)}`}
            onOpen={() => open(opensTo(column.name))}
          >
            <Cell column={column} figures={figures} nil={nil} />
          </FigureButton>
        </td>
      ))}
      <td className={look} />
    </tr>
  )
}
