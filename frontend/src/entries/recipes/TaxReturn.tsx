import { useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answered, api, type Schemas } from '../../api/client'
import { DayField } from '../../frame/DayField'
import { PostPanel } from '../../frame/PostPanel'
import { useClient } from '../../frame/queries'
import { sessionOptions, usePerson } from '../../frame/session'
import { useAct } from '../../frame/useAct'
import { useSpan, useSpanSearch } from '../../frame/useSpan'
import { useInspect } from '../../ledger/inspect'
import { amountWords, dayWords, longDayWords } from '../../ledger/words'
import { TaxScheme } from './TaxScheme'

const HEAD = 'border-b border-ink py-1 font-semibold text-deep'

/** Whether the tax accounts moved by just what the return says. */
function isTied(data: { due: string; moved: string }): boolean {
  return data.due.replace('-', '') === data.moved.replace('-', '')
}

/** Whether the accounts say the same; with a flat rate, how much of what they have is kept. */
function Tied({ found }: { found: Schemas['TaxAnswer'] }) {
  const client = useClient()
  const search = useSpanSearch()
  if (isTied(found)) return <span className="text-quiet">as the tax accounts moved</span>
  if (found.scheme === 'flat')
    return (
      <span>
        the tax accounts have {amountWords(found.moved.replace('-', ''))}:{' '}
        <Link
          className="text-tide hover:underline"
          to={`/clients/${client.code}/entries/recipe-flat-rate-tax${search}`}
        >
          post what is kept
        </Link>
      </span>
    )
  return (
    <span className="text-rust">
      the tax accounts moved by {amountWords(found.moved)}: something there has no code
    </span>
  )
}

/** Tax by code of the days that are looked at, what earlier days left for them, and filing the return. */
export function TaxReturn() {
  const client = useClient()
  const person = usePerson()
  const inspect = useInspect()
  const [span] = useSpan()
  const { data: session } = useSuspenseQuery(sessionOptions)
  const query = { first: span.first, last: span.last }
  const { data } = useSuspenseQuery({
    queryKey: ['client', client.code, 'tax', query],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/tax', { params: { path: { client: client.code }, query } }),
      ),
  })
  const [filedOn, file] = useState(session.today)
  const may = person.may.includes('set-periods')
  const acting = useAct({
    act:
      may && !data.filed_on && filedOn
        ? { act: 'file-return', first: span.first, last: span.last, filed_on: filedOn }
        : null,
    keepsLast: true,
  })
  return (
    <section aria-label="Tax return" className="max-w-3xl space-y-4">
      <header>
        <h1 className="text-[21px] leading-7 font-semibold">Tax return</h1>
        <p className="text-quiet">
          {longDayWords(span.first)} to {longDayWords(span.last)} ·{' '}
          {data.returned_through
            ? `returned through ${longDayWords(data.returned_through)}`
            : 'nothing was returned yet'}
        </p>
        <TaxScheme found={data} may={may} />
      </header>
      <table className="w-full border-collapse">
        <caption className="sr-only">Tax by code</caption>
        <thead className="text-left">
          <tr>
            <th scope="col" className={HEAD}>
              Code
            </th>
            {['Sales', 'Tax on sales', 'Purchases', 'Tax on purchases'].map((head) => (
              <th key={head} scope="col" className={`${HEAD} text-right`}>
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {data.codes.map((row) => (
            <tr key={row.code} className="border-b border-rule">
              <th scope="row" className="py-1 text-left font-normal">
                <span className="mr-2 text-quiet">{row.code}</span>
                {row.name}
              </th>
              {[row.sales, row.tax_on_sales, row.purchases, row.tax_on_purchases].map(
                (figure, place) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: four columns that stay
                  <td key={place} className="text-right">
                    {amountWords(figure)}
                  </td>
                ),
              )}
            </tr>
          ))}
        </tbody>
      </table>
      <p className="flex items-baseline gap-3 border-b-3 border-edge pb-1 [border-bottom-style:double]">
        <strong className="grow">
          {data.due.startsWith('-') ? 'Comes back' : 'To be paid'} for these days
        </strong>
        <Tied found={data} />
        <strong>{amountWords(data.due.replace('-', ''))}</strong>
      </p>
      {data.late.length > 0 && (
        <div>
          <h2 className="font-sans font-semibold text-deep">
            Of earlier days, whose own return was filed
          </h2>
          <ul className="border-t border-ink">
            {data.late.map((row) => (
              <li key={row.transaction} className="flex gap-3 border-b border-rule py-0.5">
                <span className="w-24 text-quiet">{dayWords(row.date)}</span>
                <button
                  type="button"
                  className="grow truncate text-left hover:underline"
                  onClick={() => inspect({ kind: 'transaction', name: row.transaction })}
                >
                  {row.says}
                </button>
                <span>{amountWords(row.tax)}</span>
              </li>
            ))}
          </ul>
        </div>
      )}
      {data.filed_on ? (
        <p className="border-l-4 border-moss-fill bg-sheet px-3 py-1.5">
          Filed on {longDayWords(data.filed_on)}: what is corrected in these days belongs to the
          next return.
        </p>
      ) : may ? (
        <div className="space-y-3">
          <div className="w-60">
            <DayField label="Filed on" value={filedOn} onDay={file} />
          </div>
          <PostPanel label="The return is filed" acting={acting} />
        </div>
      ) : (
        <p className="text-quiet">A reviewer or partner marks a return as filed.</p>
      )}
    </section>
  )
}
