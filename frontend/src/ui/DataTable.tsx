import { useVirtualizer } from '@tanstack/react-virtual'
import { Popover } from 'radix-ui'
import { type ReactNode, useMemo, useRef, useState } from 'react'
import { useFocusOnArrival } from './focus'
import { useNotice } from './notice'
import { saveFile } from './saveFile'
import { useKept } from './useKept'
import { usePrinting } from './usePrinting'

export interface Column<Row> {
  /** The heading, and the column's name in settings and files. */
  head: string
  cell: (row: Row) => ReactNode
  /** What it sorts as, and what it copies and exports as unless `text` says otherwise. */
  value: (row: Row) => string | number
  /** What it copies and exports as: an amount with all its places. */
  text?: (row: Row) => string
  as?: 'text' | 'figure' | 'row-header'
  /** Of the table's width, in any unit that CSS knows. */
  width?: string
}

interface DataTableProps<Row> {
  /** Says what the table is, to whoever can't see it. */
  caption: string
  /** Under which its sort and columns are remembered. */
  name: string
  columns: Column<Row>[]
  rows: Row[]
  rowKey: (row: Row) => string
  onOpen: (row: Row) => void
  /** Beside the tools: filters of the page's own. */
  tools?: ReactNode
  empty: ReactNode
  selectedKey?: string | null
  /** Something is dragged over a row. */
  onDragOver?: (row: Row) => void
}

interface Settings {
  sort: string | null
  down: boolean
  hidden: string[]
}

const ROW_HEIGHT = 28

/** A table that sorts, hides columns, copies and exports; thousands of rows stay quick. */
export function DataTable<Row>(props: DataTableProps<Row>) {
  const { columns, rows, rowKey, onOpen, caption, name, empty, selectedKey } = props
  const [settings, keep] = useKept<Settings>(`table ${name}`, {
    sort: null,
    down: false,
    hidden: [],
  })
  const shown = columns.filter((column) => !settings.hidden.includes(column.head))
  const sorted = useMemo(() => sortedBy(rows, columns, settings), [rows, columns, settings])
  const frame = useRef<HTMLDivElement>(null)
  const [active, setActive] = useState(0)
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 20,
  })
  useFocusOnArrival(frame)
  const printing = usePrinting()
  const seen = virtual.getVirtualItems()
  // On paper nothing is scrolled to: every row is drawn.
  const places = printing ? sorted.map((_, place) => place) : seen.map((item) => item.index)
  const above = printing ? 0 : (seen[0]?.start ?? 0)
  const below = printing ? 0 : virtual.getTotalSize() - (seen.at(-1)?.end ?? 0)

  function onKeyDown(event: React.KeyboardEvent) {
    const last = sorted.length - 1
    const steps: Record<string, number> = {
      ArrowDown: active + 1,
      ArrowUp: active - 1,
      Home: 0,
      End: last,
      PageDown: active + 20,
      PageUp: active - 20,
    }
    const next = steps[event.key]
    if (next !== undefined) {
      event.preventDefault()
      const place = Math.max(0, Math.min(last, next))
      setActive(place)
      virtual.scrollToIndex(place)
    }
    const row = sorted[active]
    if (event.key === 'Enter' && row && event.target === event.currentTarget) onOpen(row)
  }

  return (
    <div className="flex min-h-0 flex-1 flex-col print:block">
      <TableTools {...props} shown={shown} sorted={sorted} settings={settings} keep={keep} />
      {/* biome-ignore lint/a11y/useSemanticElements: the table within needs a frame that scrolls */}
      <div
        ref={frame}
        role="group"
        aria-label={`${caption}: arrows move, Enter opens`}
        className="min-h-0 flex-1 overflow-auto border-t border-ink print:overflow-visible print:outline-none"
        // biome-ignore lint/a11y/noNoninteractiveTabindex: it is moved in by keys
        tabIndex={0}
        onKeyDown={onKeyDown}
      >
        <table className="w-full table-fixed print:table-auto border-separate border-spacing-0">
          <caption className="sr-only">{caption}</caption>
          <thead>
            <tr>
              {shown.map((column) => (
                <HeadCell
                  key={column.head}
                  column={column}
                  settings={settings}
                  onSort={() => keep(nextSort(settings, column.head))}
                />
              ))}
            </tr>
          </thead>
          <tbody>
            {above > 0 && <tr style={{ height: above }} />}
            {places.map((place) => {
              const row = sorted[place]
              if (!row) return null
              const look = rowLook(rowKey(row) === selectedKey, place === active)
              return (
                <tr
                  key={rowKey(row)}
                  className={`h-7 cursor-pointer ${look}`}
                  onDragOver={
                    props.onDragOver &&
                    ((event) => {
                      event.preventDefault()
                      props.onDragOver?.(row)
                    })
                  }
                  onClick={() => {
                    setActive(place)
                    onOpen(row)
                  }}
                >
                  {shown.map((column) => (
                    <BodyCell key={column.head} column={column} row={row} />
                  ))}
                </tr>
              )
            })}
            {below > 0 && <tr style={{ height: below }} />}
          </tbody>
        </table>
        {sorted.length === 0 && <div className="p-6 text-quiet">{empty}</div>}
      </div>
    </div>
  )
}

function rowLook(selected: boolean, active: boolean): string {
  if (selected) return 'bg-sheet shadow-[inset_4px_0_0_var(--cork)]'
  return active ? 'bg-wash' : 'hover:bg-wash'
}

function nextSort(settings: Settings, head: string): Settings {
  if (settings.sort !== head) return { ...settings, sort: head, down: false }
  return settings.down
    ? { ...settings, sort: null, down: false }
    : { ...settings, sort: head, down: true }
}

function sortedBy<Row>(rows: Row[], columns: Column<Row>[], settings: Settings): Row[] {
  const column = columns.find((shown) => shown.head === settings.sort)
  if (!column) return rows
  const sign = settings.down ? -1 : 1
  return [...rows].sort((one, other) => {
    const [a, b] = [column.value(one), column.value(other)]
    return (
      sign * (typeof a === 'number' && typeof b === 'number' ? a - b : `${a}`.localeCompare(`${b}`))
    )
  })
}

interface HeadCellProps<Row> {
  column: Column<Row>
  settings: Settings
  onSort: () => void
}

function HeadCell<Row>({ column, settings, onSort }: HeadCellProps<Row>) {
  const sorts = settings.sort === column.head
  const arrow = sorts ? (settings.down ? ' ↓' : ' ↑') : ''
  return (
    <th
      scope="col"
      style={{ width: column.width }}
      aria-sort={sorts ? (settings.down ? 'descending' : 'ascending') : undefined}
      className={`sticky top-0 z-10 border-b border-edge bg-paper px-2 py-1.5 font-semibold text-deep print:static print:w-auto! ${column.as === 'figure' ? 'text-right' : 'text-left'}`}
    >
      {/* A head with a button in it is not repeated on each page. */}
      <span className="hidden print:inline">{column.head}</span>
      <button type="button" className="font-semibold print:hidden" onClick={onSort}>
        {column.head}
        {arrow}
      </button>
    </th>
  )
}

function BodyCell<Row>({ column, row }: { column: Column<Row>; row: Row }) {
  const onPaper = column.width ? 'print:overflow-visible' : 'print:whitespace-normal'
  const look = `truncate border-b border-rule px-2 ${onPaper}`
  if (column.as === 'row-header') {
    return (
      <th scope="row" className={`${look} text-left font-semibold`}>
        {column.cell(row)}
      </th>
    )
  }
  return (
    <td className={`${look} ${column.as === 'figure' ? 'text-right' : ''}`}>{column.cell(row)}</td>
  )
}

interface TableToolsProps<Row> extends DataTableProps<Row> {
  shown: Column<Row>[]
  sorted: Row[]
  settings: Settings
  keep: (settings: Settings) => void
}

function TableTools<Row>(props: TableToolsProps<Row>) {
  const { columns, shown, sorted, settings, keep, tools, name } = props
  const tell = useNotice()
  function cells(separator: string, quoted: (text: string) => string, end: string): string {
    const heads = shown.map((column) => column.head)
    const lines = sorted.map((row) =>
      shown.map((column) => column.text?.(row) ?? `${column.value(row)}`),
    )
    return [heads, ...lines].map((line) => line.map(quoted).join(separator)).join(end)
  }
  return (
    <div className="screen-only flex items-center gap-5 pb-2 text-quiet">
      {tools}
      <div className="ml-auto flex gap-4">
        <Popover.Root>
          <Popover.Trigger className="text-tide hover:underline">Columns</Popover.Trigger>
          <Popover.Portal>
            <Popover.Content
              align="end"
              aria-label="Columns"
              className="z-50 border border-edge bg-sheet px-4 py-3 text-ink shadow-md"
            >
              {columns.map((column) => (
                <label key={column.head} className="flex gap-2 py-0.5">
                  <input
                    type="checkbox"
                    checked={!settings.hidden.includes(column.head)}
                    disabled={column.as === 'row-header'}
                    onChange={() => keep(withToggled(settings, column.head))}
                  />
                  {column.head}
                </label>
              ))}
            </Popover.Content>
          </Popover.Portal>
        </Popover.Root>
        <button
          type="button"
          className="text-tide hover:underline"
          onClick={async () => {
            await navigator.clipboard.writeText(cells('\t', plainCell, '\n'))
            tell({ text: `${sorted.length} rows copied.` })
          }}
        >
          Copy
        </button>
        <button
          type="button"
          className="text-tide hover:underline"
          onClick={() => saveCells(name, cells(',', csvCell, '\r\n'))}
        >
          CSV
        </button>
        <button type="button" className="text-tide hover:underline" onClick={() => window.print()}>
          Print
        </button>
      </div>
    </div>
  )
}

function withToggled(settings: Settings, head: string): Settings {
  const hidden = settings.hidden.includes(head)
    ? settings.hidden.filter((other) => other !== head)
    : [...settings.hidden, head]
  return { ...settings, hidden }
}

function plainCell(text: string): string {
  return text.replace(/[\t\r\n]+/g, ' ')
}

/** Quoted, and never a formula to the spreadsheet that opens it. */
function csvCell(text: string): string {
  const safe = /^[=+@\t\r]|^-(?!\d)/.test(text) ? `'${text}` : text
  return /[",\r\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe
}

/** Begins with a byte-order mark: spreadsheets take it for UTF-8 then. */
function saveCells(name: string, cells: string) {
  saveFile(`${name}.csv`, new Blob([`\ufeff${cells}`], { type: 'text/csv' }))
}
