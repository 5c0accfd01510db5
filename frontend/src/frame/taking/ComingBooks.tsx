import type { ReactNode } from 'react'
import type { Schemas } from '../../api/client'
import {
  amountWords,
  changeWords,
  counted,
  dayWords,
  longDayWords,
  shortDayWords,
} from '../../ledger/words'

type Coming = Schemas['NewerBooksAnswer']
type Moves = Schemas['BroughtAnswer']

/** What newer books would bring, before they are taken in: what is finished and moves comes first. */
export function ComingBooks({ coming }: { coming: Coming }) {
  const { moves, broken } = coming
  const finished = moves.months.some((month) => month.finished)
  return (
    <div className="space-y-4">
      <p>
        {counted(coming.transactions, 'transaction')}: {coming.new} new, {coming.changed} changed,{' '}
        {coming.removed} gone. Nothing is taken in yet; what you posted stays on top.
      </p>
      {coming.warnings.map((warning) => (
        <p key={warning} className="border-l-4 border-cork bg-sheet px-3 py-2">
          {warning}
        </p>
      ))}
      {broken.map((day) => (
        <p key={day} role="alert" className="border-l-4 border-rust bg-sheet px-3 py-2">
          <strong className="text-rust">They break the seal as at {longDayWords(day)}:</strong> what
          was signed would not be what the books say.
        </p>
      ))}
      {moves.finished.length > 0 && moves.finished_on && <Finished moves={moves} />}
      {moves.ours.length > 0 && <Ours rows={moves.ours} />}
      <Months months={moves.months} />
      {!finished && broken.length === 0 && (
        <p className="text-quiet">Nothing of a finished or held month moves.</p>
      )}
      <Years years={moves.years} />
      {moves.rows.length > 0 && <Rows moves={moves} />}
    </div>
  )
}

function Part({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section aria-label={title}>
      <h3 className="border-b border-ink font-semibold text-deep">{title}</h3>
      {children}
    </section>
  )
}

function Finished({ moves }: { moves: Moves }) {
  return (
    <Part title={`Finished figures that would move, as at ${dayWords(moves.finished_on ?? '')}`}>
      <ul>
        {moves.finished.map((row) => (
          <li key={row.account} className="flex gap-2 border-b border-rule py-0.5">
            <span className="grow">
              {row.account} {row.name}
            </span>
            <Moved row={row} />
          </li>
        ))}
      </ul>
    </Part>
  )
}

function Ours({ rows }: { rows: Moves['ours'] }) {
  return (
    <Part title="Corrections of ours that they have too">
      <ul>
        {rows.map((row) => (
          <li key={row.summary} className="flex gap-4 border-b border-rule py-0.5">
            <span className="grow">{row.summary}</span>
            <span>{amountWords(row.amount)}</span>
          </li>
        ))}
      </ul>
      <p className="text-quiet">
        Until one of the two is taken back they count twice. Once the books are in, each is a point
        on the Review page: ours is taken back in one step, or theirs is voided.
      </p>
    </Part>
  )
}

function Months({ months }: { months: Moves['months'] }) {
  return (
    <table className="w-full max-w-[640px]">
      <thead>
        <tr className="border-b border-ink text-left text-deep">
          <th className="font-semibold">Month</th>
          <th className="font-semibold">State</th>
          {['New', 'Changed', 'Gone'].map((title) => (
            <th key={title} className="text-right font-semibold">
              {title}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {months.map((month) => (
          <tr key={month.first_day} className="border-b border-rule">
            <td>to {dayWords(month.last_day)}</td>
            <td className={month.finished ? 'text-rust' : 'text-quiet'}>
              {month.finished ?? 'open'}
            </td>
            <Count of={month.new} />
            <Count of={month.changed} />
            <Count of={month.removed} />
          </tr>
        ))}
      </tbody>
    </table>
  )
}

function Count({ of }: { of: number }) {
  return <td className={`text-right ${of ? '' : 'text-quiet'}`}>{of || '–'}</td>
}

function Years({ years }: { years: Moves['years'] }) {
  return (
    <ul className="max-w-[640px]">
      {years.map((year) => (
        <li key={year.year} className="flex gap-2 border-b border-rule py-0.5">
          <span className="grow">Profit, year {year.year}</span>
          <Moved row={year} />
        </li>
      ))}
    </ul>
  )
}

function Moved({ row }: { row: { before: string; after: string; change: string } }) {
  return (
    <span>
      {amountWords(row.before)} → {amountWords(row.after)}{' '}
      <strong>{changeWords(row.change)}</strong>
    </span>
  )
}

function Rows({ moves }: { moves: Moves }) {
  return (
    <Part title="What changed, is gone, or is new in a finished month">
      <dl className="text-[13px]">
        {moves.rows.map((row) => (
          <div key={row.id} className="border-b border-rule py-0.5">
            <dt>
              {shortDayWords(row.day)} {row.id}
              {row.before === null && ' is new'}
              {row.now === null && ' is gone'}
            </dt>
            {row.before && <dd className="pl-4 text-quiet">was {row.before}</dd>}
            {row.now && <dd className="pl-4">now {row.now}</dd>}
          </div>
        ))}
      </dl>
      {moves.row_count > moves.rows.length && (
        <p className="text-quiet">and {moves.row_count - moves.rows.length} more</p>
      )}
    </Part>
  )
}
