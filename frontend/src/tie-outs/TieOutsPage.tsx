import { useSuspenseQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useSearchParams } from 'react-router'
import { tieOutsOptions, useClient } from '../frame/queries'
import { useSpan } from '../frame/useSpan'
import { amountWords, isNil, longDayWords } from '../ledger/words'
import { useKeys } from '../ui/keys'
import { Proof } from './Proof'
import type { TieOut } from './queries'
import { StateMark } from './StateMark'

const PARAMETER = 'proof'

/** Every proof of the trial balance: what the books have, what is known from outside, who agreed it. */
export function TieOutsPage() {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useSuspenseQuery(tieOutsOptions(client.code, span.last))
  const [search, setSearch] = useSearchParams()
  const rows = data.tie_outs
  const [named, name] = useState(() => search.get(PARAMETER))
  const place = placeOf(rows, named)
  const chosen = rows[place]
  // Kept in the address once keys have settled on it, so that the page comes back to it.
  useEffect(() => {
    if (named && named !== search.get(PARAMETER)) {
      setSearch(
        (old) => {
          const next = new URLSearchParams(old)
          next.set(PARAMETER, named)
          return next
        },
        { replace: true },
      )
    }
  }, [named, search, setSearch])
  function step(by: number) {
    name((old) => {
      const now = placeOf(rows, old)
      return rows[now + by]?.id ?? rows[now]?.id ?? null
    })
  }
  function goOn() {
    const after = [...rows.slice(place + 1), ...rows.slice(0, place)]
    name(after.find((row) => row.state !== 'agreed')?.id ?? chosen?.id ?? null)
  }
  useKeys('Tie-outs', [
    { keys: 'ArrowDown', does: 'next proof', run: () => step(1) },
    { keys: 'ArrowUp', does: 'proof before', run: () => step(-1) },
  ])
  const open = rows.filter((row) => row.state !== 'agreed').length
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_minmax(0,1fr)] max-[1100px]:grid-cols-1">
      <section aria-label="Proofs" className="min-h-0 overflow-auto px-5 pt-4 pb-10">
        <h1 className="text-[21px] leading-7 font-semibold">
          Proofs as at {longDayWords(data.as_at)}
        </h1>
        <p className="mb-2 text-quiet">
          {open === 0
            ? 'All agreed. One whose figures move falls open by itself.'
            : `${open} of ${rows.length} to agree before the trial balance is signed.`}
        </p>
        <table className="w-full border-collapse">
          <caption className="sr-only">Proofs</caption>
          <thead>
            <tr className="border-b border-ink text-left text-deep">
              <th scope="col" className="py-1 font-semibold">
                What
              </th>
              <th scope="col" className="text-right font-semibold">
                In the books
              </th>
              <th scope="col" className="text-right font-semibold">
                From outside
              </th>
              <th scope="col" className="text-right font-semibold">
                Difference
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((row) => (
              <Row key={row.id} row={row} isChosen={row === chosen} onChoose={() => name(row.id)} />
            ))}
          </tbody>
        </table>
      </section>
      {chosen && (
        <Proof key={`${chosen.id} ${data.as_at}`} proof={chosen} at={data.as_at} onDone={goOn} />
      )}
    </div>
  )
}

/** Of the proof that is looked at; without one, of the first that is not agreed. */
function placeOf(rows: TieOut[], name: string | null): number {
  const named = rows.findIndex((row) => row.id === name)
  return named >= 0
    ? named
    : Math.max(
        rows.findIndex((row) => row.state !== 'agreed'),
        0,
      )
}

interface RowProps {
  row: TieOut
  isChosen: boolean
  onChoose: () => void
}

function Row({ row, isChosen, onChoose }: RowProps) {
  const differs = row.difference !== null && !isNil(row.difference)
  return (
    <tr
      className={`cursor-pointer border-b border-rule align-baseline ${isChosen ? 'bg-sheet shadow-[inset_4px_0_0_var(--cork)]' : 'hover:bg-wash'}`}
      onClick={onChoose}
    >
      <th scope="row" className="py-1.5 pr-3 pl-2 text-left font-normal">
        <button type="button" aria-current={isChosen || undefined} className="text-left">
          <StateMark state={row.state} />{' '}
          <span className={isChosen ? 'font-semibold' : ''}>{row.title}</span>
        </button>
        <span
          className={`pl-5 text-[13px] ${isChosen ? 'block' : 'line-clamp-2'} ${row.state === 'fallen' ? 'text-rust' : 'text-quiet'}`}
        >
          {standing(row)}
        </span>
      </th>
      <td className="w-[104px] text-right">{amountWords(row.books)}</td>
      <td className="w-[104px] text-right">
        {row.outside === null ? (
          <span className="text-quiet">not known</span>
        ) : (
          amountWords(row.outside)
        )}
      </td>
      <td
        className={`w-[104px] pr-1 text-right ${differs ? 'font-semibold text-rust' : 'text-quiet'}`}
      >
        {row.difference === null ? '' : differs ? amountWords(row.difference) : 'nil'}
      </td>
    </tr>
  )
}

function standing(row: TieOut): string {
  if (row.state === 'fallen') return `${row.by} agreed it; since then ${row.moved.join('; ')}`
  if (row.state === 'agreed')
    return `${row.by} ${row.at?.slice(0, 16).replace('T', ' ')}${row.note ? `: ${row.note}` : ''}`
  return row.lacks || row.evidence.join(', ')
}
