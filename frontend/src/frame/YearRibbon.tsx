import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import type { Schemas } from '../api/client'
import { SmallMark } from '../ledger/SmallMark'
import { counted, longDayWords } from '../ledger/words'
import { tieOutsOptions, useClient } from './queries'
import { useSpan } from './useSpan'

type Period = Schemas['PeriodAnswer']

/** The months of the year as one strip: posting states, open points, seals; and the span chosen. */
export function YearRibbon() {
  const client = useClient()
  const [span, setSpan] = useSpan()
  const [from, setFrom] = useState<number | null>(null)
  const dragged = useRef(false)
  const { periods } = client
  const { data } = useQuery(tieOutsOptions(client.code, client.as_at))
  const proofs = data?.tie_outs ?? []
  const proved = proofs.filter((proof) => proof.state === 'agreed').length

  function choose(start: number, end: number) {
    const [low, high] = start < end ? [start, end] : [end, start]
    const [first, last] = [periods[low], periods[high]]
    if (!first || !last) return
    const same = !span.isDefault && first.first_day === span.first && last.last_day === span.last
    setSpan(same ? null : { first: first.first_day, last: last.last_day })
  }

  return (
    <fieldset
      className="ml-auto flex h-9 shrink-0"
      aria-label={`Months of ${client.year.label}. A click shows one month, dragging several.`}
    >
      {periods.map((period, place) => (
        <Month
          key={period.first_day}
          period={period}
          proofs={data && period.last_day === client.as_at ? `${proved} of ${proofs.length}` : null}
          within={period.first_day >= span.first && period.last_day <= span.last}
          isDefault={span.isDefault}
          onPress={() => {
            setFrom(place)
            dragged.current = false
          }}
          onEnter={() => {
            if (from !== null && from !== place) dragged.current = true
          }}
          onRelease={(extends_) => {
            const start = extends_
              ? periods.findIndex((month) => month.first_day === span.first)
              : (from ?? place)
            choose(start, place)
            setFrom(null)
          }}
          onKey={() => choose(place, place)}
        />
      ))}
      <Closing client={client} />
    </fieldset>
  )
}

interface MonthProps {
  period: Period
  /** In the month to sign off next: how many tie-outs are agreed. */
  proofs: string | null
  within: boolean
  isDefault: boolean
  onPress: () => void
  onEnter: () => void
  onRelease: (extend: boolean) => void
  onKey: () => void
}

const STATES: Record<string, string> = {
  open: 'bg-sheet border-solid',
  held: 'bg-sheet border-dashed',
  barred: 'hatched border-solid',
}

function Month(props: MonthProps) {
  const { period, within, isDefault } = props
  const open = period.open_points ?? 0
  const points = open > 0 ? ` ${counted(open, 'open point')}` : ''
  const says = [
    `${period.name}${points}`,
    `posting ${period.state}`,
    period.why,
    period.agreed !== null && `the bank ${period.agreed}% agreed`,
    props.proofs && `${props.proofs} tie-outs agreed`,
    period.seal && `signed off as at ${longDayWords(period.seal.as_at)}`,
    period.seal?.broken && 'the seal is broken',
  ]
    .filter(Boolean)
    .join(', ')
  return (
    <button
      type="button"
      aria-label={says}
      aria-pressed={within}
      title={says}
      onMouseDown={props.onPress}
      onMouseEnter={props.onEnter}
      onMouseUp={(event) => props.onRelease(event.shiftKey)}
      onKeyDown={(event) => {
        if (event.key === 'Enter' || event.key === ' ') {
          event.preventDefault()
          props.onKey()
        }
      }}
      className={`relative w-[35px] border min-[1180px]:w-[42px] border-r-0 border-edge pt-[3px] pl-1.5 text-left align-top text-xs leading-[14px] ${STATES[period.state]} ${monthLook(within, isDefault)}`}
    >
      <span className="absolute top-[3px] left-1.5">{period.name}</span>{' '}
      {open > 0 && <b className="absolute top-[3px] right-0.5 font-semibold text-rust">{open}</b>}
      {period.agreed !== null && (
        <span
          aria-hidden="true"
          className="absolute bottom-0 left-0 h-[5px] bg-moss-fill"
          style={{ width: `${period.agreed}%` }}
        />
      )}
      {props.proofs && !period.seal && (
        <span
          aria-hidden="true"
          data-proofs={props.proofs.replace(' of ', '/')}
          className="absolute right-0.5 bottom-[5px] text-[10px] leading-[12px] text-quiet after:content-[attr(data-proofs)]"
        />
      )}
      {period.seal && (
        <span className="absolute bottom-0.5 left-1.5">
          <SmallMark broken={period.seal.broken} />
        </span>
      )}
    </button>
  )
}

function monthLook(within: boolean, isDefault: boolean): string {
  if (!within) return 'text-quiet'
  return isDefault
    ? 'text-ink shadow-[inset_0_2px_0_var(--edge)]'
    : 'font-semibold text-ink shadow-[inset_0_3px_0_var(--cork)]'
}

function Closing({ client }: { client: Schemas['ClientAnswer'] }) {
  const barred = client.periods.at(-1)?.state === 'barred'
  return (
    <span
      title={`Closing slot, after ${longDayWords(client.year.last_day)}: closing entries sit here`}
      className={`w-[34px] border border-edge pt-[3px] pl-1.5 text-xs leading-[14px] text-quiet ${barred ? 'hatched' : 'bg-wash'}`}
    >
      YE
    </span>
  )
}
