import { useClient } from '../frame/queries'
import { amountWords, dayWords, longDayWords } from '../ledger/words'
import type { Reconciliation, SpineRow } from './queries'

const DAY = 24 * 3600 * 1000

/** The reconciliation on paper: the sum, what is outstanding with its age, what is agreed. */
export function Printed({ state }: { state: Reconciliation }) {
  const client = useClient()
  const outstanding = state.rows.filter((row) => row.kind !== 'agreed' && row.entries.length > 0)
  const lone = state.rows.filter((row) => row.kind !== 'agreed' && row.lines.length > 0)
  const agreed = state.rows.filter((row) => row.kind === 'agreed')
  const { sum } = state
  const last = state.history.at(-1)
  return (
    <article aria-label="Reconciliation on paper" className="hidden space-y-4 print:block">
      <h1 className="text-xl font-semibold">
        {client.name}: {state.account} {state.name}, statement to {longDayWords(state.last_day)}
      </h1>
      <p>
        {state.finished
          ? `Finished by ${last?.by}, ${dayWords(last?.at ?? '')}.`
          : 'Not finished: this is how it stands.'}
        {state.moved_since && ' The books moved since; figures are as they are now.'}
      </p>
      <p>
        Books {amountWords(sum.ledger)} + payments not presented {amountWords(sum.not_presented)} −
        receipts not credited {amountWords(sum.not_credited)} = {amountWords(sum.should_be)} ·
        statement {sum.closing === null ? 'without balance' : amountWords(sum.closing)} · difference{' '}
        {sum.difference === null ? 'not known' : amountWords(sum.difference)}.
      </p>
      <Table title="Not presented and not credited" rows={outstanding} aged={state.last_day} />
      <Table title="On the statement and not agreed" rows={lone} />
      <Table title="Agreed" rows={agreed} />
    </article>
  )
}

function Table({ title, rows, aged }: { title: string; rows: SpineRow[]; aged?: string }) {
  if (rows.length === 0) return null
  return (
    <table className="w-full border-collapse text-left">
      <caption className="text-left font-semibold">
        {title}: {rows.length}
      </caption>
      <tbody>
        {rows.map((row) => {
          const entry = row.entries[0]
          const line = row.lines[0]
          const amount = aged ? entry?.amount : (line?.amount ?? entry?.amount)
          return (
            <tr key={`${entry?.transaction} ${line?.ref}`} className="border-b border-rule">
              <td className="w-24">{dayWords(row.day)}</td>
              <td className="w-28">{row.entries.map((booked) => booked.transaction).join(', ')}</td>
              <td>{[entry?.who, entry?.text, entry?.reference].filter(Boolean).join(', ')}</td>
              <td>{aged ? '' : row.lines.map((printed) => printed.text).join(', ')}</td>
              {aged && <td className="w-24">{ageWords(entry?.date ?? aged, aged)}</td>}
              <td className="w-28 text-right">{amountWords(amount ?? '')}</td>
            </tr>
          )
        })}
      </tbody>
    </table>
  )
}

function ageWords(day: string, at: string): string {
  const days = Math.round((Date.parse(at) - Date.parse(day)) / DAY)
  return `${days} days`
}
