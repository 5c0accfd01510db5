import { useSuspenseQuery } from '@tanstack/react-query'
import { Popover } from 'radix-ui'
import type { Schemas } from '../api/client'
import { PrintedHead } from '../frame/PrintedHead'
import { useClient } from '../frame/queries'
import { sheetQuery, useSheet } from '../frame/useSheet'
import { useSpan } from '../frame/useSpan'
import { worksheetOptions } from '../frame/worksheet'
import { counted, dayWords, isNil, longDayWords } from '../ledger/words'
import { useKept } from '../ui/useKept'
import { Choices } from './Choices'
import { ViewLinks } from './ViewLinks'
import { COLUMNS, type ColumnName, WorksheetTable } from './WorksheetTable'

type Sheet = Schemas['WorksheetAnswer']

/** Last year, as received, the entries, adjusted: each figure opens to what it consists of. */
export function Worksheet() {
  const client = useClient()
  const [span] = useSpan()
  const [of, choose] = useSheet()
  const { data } = useSuspenseQuery(worksheetOptions(client, span, of))
  const { against } = of
  const file = new URLSearchParams({
    year: data.year,
    at: span.last,
    ...sheetQuery(of, span.first, client.year.first_day),
  })
  const [hidden, hide] = useKept<ColumnName[]>('worksheet columns', [
    'profit_and_loss',
    'balance_sheet',
  ])
  const shown = COLUMNS.filter((column) => isShown(column.name, hidden, data)).map((column) =>
    column.name === 'last_year' && against ? { ...column, head: against } : column,
  )
  return (
    <>
      <PrintedHead says="Worksheet" />
      <header className="flex items-baseline gap-4 pt-3 pb-2">
        <h1 className="shrink-0 text-[21px] leading-7 font-semibold min-[1100px]:whitespace-nowrap">
          <span className="hidden print:inline">{client.name}: </span>
          {data.first === client.year.first_day
            ? `Worksheet as at ${longDayWords(data.as_at)}`
            : `Worksheet, ${dayWords(data.first)} to ${dayWords(data.as_at)}`}
        </h1>
        <p className="min-w-0 truncate text-quiet">
          {of.closing ? 'with closing entries' : 'before closing entries'} · {client.currency} ·{' '}
          {counted(data.rows.length, 'account')} · {comparedWords(data)}
        </p>
        <Choices sheet={data} />
        <Against against={against} onChoose={(label) => choose({ against: label })} />
        <Columns hidden={hidden} onChange={hide} />
        <ViewLinks
          others={[
            { says: 'Trial balance', view: 'trial-balance' },
            { says: 'Statements', view: 'statements' },
            { says: 'Reading', view: 'reading' },
          ]}
          file={{
            says: 'XLSX',
            href: `/api/clients/${client.code}/worksheet.xlsx?${file}`,
          }}
        />
      </header>
      {data.rows.length === 0 ? (
        <p className="py-8 text-quiet">
          No account has a figure by {longDayWords(data.as_at)}. Choose another year or later months
          above, or take in newer books on the desk.
        </p>
      ) : (
        <WorksheetTable sheet={data} columns={shown} />
      )}
    </>
  )
}

function comparedWords(sheet: Sheet): string {
  if (sheet.compared === 'not in the books') return 'the earlier year is not in the books'
  return `the earlier year ${sheet.compared}, at ${dayWords(sheet.compared_at)}`
}

interface AgainstProps {
  against: string | null
  onChoose: (label: string | null) => void
}

/** Which earlier year stands beside it, where there is more than one. */
function Against({ against, onChoose }: AgainstProps) {
  const client = useClient()
  const earlier = client.years.filter((year) => year.last_day < client.year.first_day)
  if (earlier.length < 2) return null
  return (
    <select
      aria-label="Beside it"
      className="screen-only bg-transparent text-tide"
      value={against ?? ''}
      onChange={(event) => onChoose(event.target.value || null)}
    >
      <option value="">beside last year</option>
      {earlier.slice(0, -1).map((year) => (
        <option key={year.label} value={year.label}>
          beside {year.label}
        </option>
      ))}
    </select>
  )
}

/** A column of entries that nobody made takes no room until it is asked for. */
function isShown(name: ColumnName, hidden: ColumnName[], sheet: Sheet): boolean {
  if (name === 'reclassifications' && !sheet.entries.reclassifications) return false
  if (name === 'closing' && !sheet.rows.some((row) => !isNil(row.closing))) return false
  if (name === 'budget' && !sheet.has_budget) return false
  return !hidden.includes(name)
}

interface ColumnsProps {
  hidden: ColumnName[]
  onChange: (hidden: ColumnName[]) => void
}

function Columns({ hidden, onChange }: ColumnsProps) {
  return (
    <Popover.Root>
      <Popover.Trigger className="screen-only text-tide hover:underline">Columns</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          aria-label="Columns of the worksheet"
          className="z-50 border border-edge bg-sheet px-4 py-3 shadow-md"
        >
          {COLUMNS.map((column) => (
            <label key={column.name} className="flex gap-2 py-0.5">
              <input
                type="checkbox"
                checked={!hidden.includes(column.name)}
                onChange={() =>
                  onChange(
                    hidden.includes(column.name)
                      ? hidden.filter((name) => name !== column.name)
                      : [...hidden, column.name],
                  )
                }
              />
              {column.head}
            </label>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  )
}
