import { amountWords, changeWords, dayWords, isNil } from '../ledger/words'
import type { Reconciliation } from './queries'

/** The sum of the reconciliation in words, and the difference that must come to nil. */
export function SumBar({ state }: { state: Reconciliation }) {
  const { sum } = state
  return (
    <section
      aria-label="The sum of the reconciliation"
      className="flex items-stretch border border-b-3 border-edge bg-sheet [border-bottom-style:double]"
    >
      <Part says={`In the books, ${dayWords(state.last_day)}`} amount={sum.ledger} />
      <Sign>+</Sign>
      <Part says={`payments not presented (${sum.presented_count})`} amount={sum.not_presented} />
      <Sign>−</Sign>
      <Part says={`receipts not credited (${sum.credited_count})`} amount={sum.not_credited} />
      {!isNil(sum.booked_later) && (
        <>
          <Sign>+</Sign>
          <Part says="booked later" amount={sum.booked_later} />
        </>
      )}
      <Sign>=</Sign>
      <Part says="should be at the bank" amount={sum.should_be} />
      <Sign>·</Sign>
      <Part says="statement says" amount={sum.closing ?? ''} />
      <Difference value={sum.difference} />
    </section>
  )
}

function Part({ says, amount }: { says: string; amount: string }) {
  return (
    <div className="px-3.5 py-1.5">
      <span className="block text-[13px] leading-4 whitespace-nowrap text-quiet">{says}</span>
      <b className="text-[17px] font-semibold">{amount === '' ? 'nothing' : amountWords(amount)}</b>
    </div>
  )
}

function Sign({ children }: { children: string }) {
  return (
    <span aria-hidden="true" className="self-center text-lg text-quiet">
      {children}
    </span>
  )
}

function Difference({ value }: { value: string | null }) {
  const none = value !== null && isNil(value)
  return (
    <div
      className={`ml-auto border-l border-edge px-5 py-1.5 ${none ? '' : 'bg-rust-wash'}`}
      title="What the statement says less what should be at the bank"
    >
      <span className="block text-[13px] leading-4 text-quiet">Difference</span>
      <b className={`text-[17px] font-semibold ${none ? 'text-moss' : 'text-rust'}`}>
        {value === null ? 'not known' : none ? '✓ 0.00' : changeWords(value)}
      </b>
    </div>
  )
}
