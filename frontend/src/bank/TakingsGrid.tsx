import { useMutation, useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { PostPanel } from '../frame/PostPanel'
import { chartOptions, useClient } from '../frame/queries'
import { useAct } from '../frame/useAct'
import { useSpan } from '../frame/useSpan'
import { AccountPicker } from '../ledger/AccountPicker'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { useSettled } from '../ui/useSettled'

type Day = Schemas['KeyedDay']

const FIELDS = ['cash', 'card', 'returns'] as const
const NEW_DAYS = 7

/** Takings by day and tender, keyed or from the till's file; the whole grid posts at once. */
export function TakingsGrid() {
  const client = useClient()
  const [span] = useSpan()
  const { data: chart } = useQuery(chartOptions(client.code, span.last))
  const income = (chart?.accounts ?? []).filter((account) => account.type === 'income')
  const preset = income.find((account) => account.role === 'sales') ?? income[0]
  const [sales, setSales] = useState<string | null>(null)
  const [tax, setTax] = useState<string | null>(null)
  const [days, setDays] = useState<Day[]>(() => daysFrom(span.last))
  const file = useRef<HTMLInputElement>(null)
  const account = sales ?? preset?.code ?? ''
  const taxCode = tax ?? income.find((known) => known.code === account)?.tax_code ?? ''
  const keyed = days.filter((day) => day.cash || day.card || day.returns)
  const body = JSON.parse(
    useSettled(JSON.stringify({ days: keyed, sales: account, tax_code: taxCode || null }), 150),
  ) as Omit<Schemas['TakingsAct'], 'act'>
  const acting = useAct({
    act: body.days.length > 0 && body.sales !== '' ? { act: 'takings', ...body } : null,
    onDone: () => setDays(daysFrom(span.last)),
  })
  const reading = useMutation({
    mutationFn: (chosen: File) =>
      answered(
        api.POST('/api/clients/{client}/takings/file', {
          params: { path: { client: client.code } },
          body: chosen as never,
          bodySerializer: (content) => content as never,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ),
    onSuccess: (found) => setDays(found.days.map((day) => ({ ...day }) as Day)),
  })
  function change(place: number, part: Partial<Day>) {
    setDays(days.map((day, at) => (at === place ? { ...day, ...part } : day)))
  }
  return (
    <section aria-label="Takings by day">
      <header className="mb-2 flex items-baseline gap-3">
        <h2 className="text-[19px] leading-7 font-semibold">Takings</h2>
        <p className="text-quiet">what was sold each day, by what it was paid with</p>
        <Button className="ml-auto" onClick={() => file.current?.click()}>
          From the till's file
        </Button>
        <input
          ref={file}
          type="file"
          className="sr-only"
          tabIndex={-1}
          aria-label="The till's file"
          onChange={(event) => {
            const chosen = event.target.files?.[0]
            if (chosen) reading.mutate(chosen)
            event.target.value = ''
          }}
        />
      </header>
      <ProblemNote problem={reading.error} />
      <div className="mb-2 grid grid-cols-[1fr_160px] gap-3">
        <div>
          <span className="block text-quiet">Income account</span>
          <div className="border border-edge bg-sheet">
            <AccountPicker
              label="Income account of the takings"
              value={account}
              options={income}
              onPick={setSales}
            />
          </div>
        </div>
        <label>
          <span className="block text-quiet">Tax in them</span>
          <select
            className="w-full border border-edge bg-sheet px-2 py-1.5"
            value={taxCode}
            onChange={(event) => setTax(event.target.value)}
          >
            <option value="">none</option>
            {(chart?.taxes ?? [])
              .filter((code) => code.rate !== '0')
              .map((code) => (
                <option key={code.code} value={code.code}>
                  {code.code} {code.rate}%
                </option>
              ))}
          </select>
        </label>
      </div>
      <table className="w-full border-collapse bg-sheet">
        <caption className="sr-only">Takings by day and tender</caption>
        <thead>
          <tr className="border-b border-ink bg-paper text-left text-deep">
            <th scope="col" className="px-2 py-1 font-semibold">
              <span className="flex items-baseline gap-2">
                Day
                <WeekButton
                  says="week before"
                  sign="‹"
                  onPress={() => setDays(shifted(days, -7))}
                />
                <WeekButton says="week after" sign="›" onPress={() => setDays(shifted(days, 7))} />
              </span>
            </th>
            <th scope="col" className="px-2 text-right font-semibold">
              Cash
            </th>
            <th scope="col" className="px-2 text-right font-semibold">
              Card
            </th>
            <th scope="col" className="px-2 text-right font-semibold">
              Returns
            </th>
            <th scope="col" className="px-2 font-semibold">
              given back in
            </th>
          </tr>
        </thead>
        <tbody>
          {days.map((day, place) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a row of the grid is its place
            <tr key={place} className="border-b border-rule focus-within:bg-wash">
              <th scope="row" className="px-2 py-1 text-left font-normal whitespace-nowrap">
                <span className="inline-block w-9 text-quiet">{weekday(day.day)}</span>
                {dayWords(day.day)}
              </th>
              {FIELDS.map((field) => (
                <td key={field} className="border-l border-edge">
                  <input
                    aria-label={`${field}, row ${place + 1}`}
                    className="w-full bg-transparent px-2 py-1 text-right"
                    inputMode="decimal"
                    value={day[field] ?? ''}
                    onChange={(event) => change(place, { [field]: event.target.value })}
                  />
                </td>
              ))}
              <td className="border-l border-edge">
                <select
                  aria-label={`Returns given back in, row ${place + 1}`}
                  className="w-full bg-transparent px-2 py-1"
                  value={day.returns_on ?? 'cash'}
                  onChange={(event) => change(place, { returns_on: event.target.value })}
                >
                  <option value="cash">cash</option>
                  <option value="card">on the card</option>
                </select>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="mt-3">
        {keyed.length > 0 ? (
          <PostPanel label="Post the takings" acting={acting} />
        ) : (
          <p className="text-quiet">
            Key a day's cash and card sales, tax in them; what was given back goes under returns.
            Cash waits in hand until it is banked, cards until they are paid out.
          </p>
        )}
      </div>
    </section>
  )
}

function WeekButton({ says, sign, onPress }: { says: string; sign: string; onPress: () => void }) {
  return (
    <button
      type="button"
      aria-label={says}
      title={says}
      className="px-1 font-normal text-tide"
      onClick={onPress}
    >
      {sign}
    </button>
  )
}

function weekday(day: string): string {
  const at = new Date(`${day}T00:00:00Z`)
  return ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'][at.getUTCDay()] ?? ''
}

/** The next or the last week, empty: what was keyed is posted first. */
function shifted(days: Day[], by: number): Day[] {
  const last = new Date(`${days.at(-1)?.day}T00:00:00Z`)
  last.setUTCDate(last.getUTCDate() + by)
  return daysFrom(last.toISOString().slice(0, 10))
}

/** The week up to the day, without amounts. */
function daysFrom(last: string): Day[] {
  return Array.from({ length: NEW_DAYS }, (_, back) => {
    const day = new Date(`${last}T00:00:00Z`)
    day.setUTCDate(day.getUTCDate() - (NEW_DAYS - 1 - back))
    return {
      day: day.toISOString().slice(0, 10),
      cash: '',
      card: '',
      returns: '',
      returns_on: 'cash',
      reference: null,
    }
  })
}
