import { useSuspenseQuery } from '@tanstack/react-query'
import { useSearchParams } from 'react-router'
import { useClient } from '../frame/queries'
import { amountWords, counted, longDayWords } from '../ledger/words'
import { Checklist } from './Checklist'
import { ClosingYear } from './ClosingYear'
import { Coming } from './Coming'
import { ConditionRows, MetMark } from './ConditionRows'
import { NewYear } from './NewYear'
import { OpenRemarks } from './OpenRemarks'
import { Pack } from './Pack'
import { Periods } from './Periods'
import { type SignOff, signOffOptions } from './queries'
import { Seals } from './Seals'
import { SignForm } from './SignForm'
import { SinceRead } from './SinceRead'
import { Unadjusted } from './Unadjusted'
import { Unposted } from './Unposted'

/** What the sign-off as at a date needs, signing it, its seals, and who may post in each month. */
export function SignOffPage() {
  const client = useClient()
  const [search, setSearch] = useSearchParams()
  const at = search.get('at') ?? client.as_at
  const { data } = useSuspenseQuery(signOffOptions(client.code, at))
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_430px] gap-8 overflow-auto px-6 pt-4 pb-10">
      <div className="space-y-6">
        <header>
          <h1 className="text-[21px] leading-7 font-semibold">
            Trial balance as at{' '}
            <select
              aria-label="As at the end of"
              className="border-b border-ink bg-transparent"
              value={at}
              onChange={(event) =>
                setSearch((old) => {
                  const next = new URLSearchParams(old)
                  next.set('at', event.target.value)
                  return next
                })
              }
            >
              {client.periods.map((period) => (
                <option key={period.last_day} value={period.last_day}>
                  {longDayWords(period.last_day)}
                </option>
              ))}
            </select>
          </h1>
          <p className="text-quiet">
            Year to {longDayWords(client.year.last_day)}
            {client.year.due && ` · sign-off due ${longDayWords(client.year.due)}`}
            {' · '}profit {amountWords(data.profit)} {client.currency} ·{' '}
            {data.corrections === 0 ? 'no change' : counted(data.corrections, 'change')} of ours in
            it
            {data.preparer && `, most by ${data.preparer}`}
          </p>
        </header>
        <Conditions signOff={data} />
        <OpenRemarks />
        <Checklist signOff={data} />
        <Unadjusted signOff={data} />
        <Unposted signOff={data} />
        <SignForm key={at} signOff={data} />
        <ClosingYear />
        <NewYear signOff={data} />
        <Coming signOff={data} />
      </div>
      <div className="space-y-6">
        <Seals seals={data.seals} />
        <SinceRead />
        <Pack at={at} />
        <Periods />
      </div>
    </div>
  )
}

function Conditions({ signOff }: { signOff: SignOff }) {
  return (
    <section aria-label="What it needs">
      <h2 className="mb-1 font-sans font-semibold text-deep">What it needs</h2>
      <ul className="border-t border-ink">
        <ConditionRows conditions={signOff.conditions} />
        <li className="grid grid-cols-[26px_200px_1fr] items-baseline gap-x-1 border-b border-rule py-1.5">
          <MetMark met={signOff.may_not === null} />
          <strong className="font-semibold">Who signs</strong>
          <span className={signOff.may_not ? 'text-rust' : 'text-quiet'}>
            {signOff.may_not ?? 'You can sign: none of these changes are yours.'}
          </span>
        </li>
      </ul>
    </section>
  )
}
