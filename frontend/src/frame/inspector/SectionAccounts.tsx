import { useSuspenseQuery } from '@tanstack/react-query'
import { Amount } from '../../ledger/Amount'
import { type FigureColumn, useInspect } from '../../ledger/inspect'
import { counted, isNil, longDayWords, SECTION_TITLES } from '../../ledger/words'
import { moveInRows } from '../../ui/rows'
import { useClient } from '../queries'
import { useSheet } from '../useSheet'
import { useSpan } from '../useSpan'
import { worksheetOptions } from '../worksheet'

interface SectionAccountsProps {
  /** A type of account, `profit` for income less costs, or `all`. */
  section: string
  figure: FigureColumn
}

/** What a total of the worksheet consists of: the accounts of its section, each of which opens in turn. */
export function SectionAccounts({ section, figure }: SectionAccountsProps) {
  const client = useClient()
  const [span] = useSpan()
  const [of] = useSheet()
  const inspect = useInspect()
  const { data: sheet } = useSuspenseQuery(worksheetOptions(client, span, of))
  const types = section === 'profit' ? ['income', 'expense'] : [section]
  const rows = sheet.rows.filter(
    (row) => (section === 'all' || types.includes(row.type)) && !isNil(row[figure]),
  )
  const total = section === 'all' ? sheet.totals : sheet.sections[section]
  const at = figure === 'last_year' ? sheet.compared_at : sheet.as_at
  return (
    <div className="space-y-3">
      <div>
        <h3 className="font-display text-xl font-semibold">
          {SECTION_TITLES[section] ?? section}: {FIGURE_WORDS[figure]}
        </h3>
        <p className="text-quiet">
          {counted(rows.length, 'account')} with a figure · at {longDayWords(at)},{' '}
          {of.closing ? 'closing entries in it' : 'before closing entries'}
          {of.dimension && ` · ${of.dimension} alone`}
        </p>
      </div>
      <table className="w-full border-separate border-spacing-0" onKeyDown={moveInRows}>
        <caption className="sr-only">Accounts of the section</caption>
        <tbody>
          {rows.map((row) => (
            <tr
              key={row.account}
              className="h-7 cursor-pointer hover:bg-wash"
              onClick={() => inspect({ kind: 'account', name: row.account, figure })}
            >
              <td className="border-b border-rule px-2 text-quiet">
                {row.account === 'brought-forward' ? '' : row.account}
              </td>
              <th scope="row" className="border-b border-rule px-2 text-left font-normal">
                <button type="button" data-row className="w-full text-left">
                  {row.name}
                </button>
              </th>
              <td className="border-b border-rule px-2 text-right whitespace-nowrap">
                <Amount value={row[figure]} />
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="h-8 font-semibold">
            <th scope="row" colSpan={2} className="px-2 text-left font-semibold">
              Total
            </th>
            <td className="border-b-3 border-edge px-2 text-right [border-bottom-style:double]">
              {total && <Amount value={total[figure]} />}
            </td>
          </tr>
        </tfoot>
      </table>
    </div>
  )
}

const FIGURE_WORDS: Record<FigureColumn, string> = {
  last_year: 'last year',
  as_received: 'as received',
  corrections: 'corrections',
  adjusting: 'adjusting entries',
  reclassifications: 'reclassified',
  closing: 'closing entries',
  adjusted: 'adjusted',
}
