import { useSuspenseQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { useClient } from '../frame/queries'
import { dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { useKept } from '../ui/useKept'
import { usePrinting } from '../ui/usePrinting'
import { Finishing } from './Finishing'
import { Printed } from './Printed'
import { type BankAccount, type Reconciliation, reconciliationOptions } from './queries'
import { type Shown, Spine } from './Spine'
import { SumBar } from './SumBar'
import { useBankDeeds } from './useBankDeeds'

interface StatementProps {
  account: BankAccount
  statement: number
  chooser: ReactNode
  onTakeIn: () => void
  onInHand: () => void
}

const SHOWN: Shown[] = ['all', 'to settle', 'not presented']

/** One statement: the sum in words, the spine, and finishing it. */
export function Statement({ account, statement, chooser, onTakeIn, onInHand }: StatementProps) {
  const client = useClient()
  const { data } = useSuspenseQuery(reconciliationOptions(client.code, account.account, statement))
  const deeds = useBankDeeds(account.account, statement)
  const [shown, setShown] = useKept<Shown>('bank shows', 'all')
  const [telling, tell] = useState(false)
  const printing = usePrinting()
  return (
    <>
      <div className="screen-only flex min-h-0 flex-1 flex-col px-5 pt-3">
        <header className="mb-2 flex flex-wrap items-baseline gap-x-4">
          <h1 className="text-[19px] leading-7 font-semibold whitespace-nowrap">{chooser}</h1>
          <p className="min-w-0 truncate text-quiet">
            {data.agreed} agreed · {data.unagreed} to settle
            {data.carried_in > 0 && ` (${data.carried_in} of earlier statements)`}
          </p>
          <div className="ml-auto flex items-baseline gap-3 whitespace-nowrap text-quiet">
            Show:{' '}
            {SHOWN.map((choice) => (
              <button
                key={choice}
                type="button"
                aria-pressed={shown === choice}
                className={shown === choice ? 'font-semibold text-ink' : 'hover:underline'}
                onClick={() => setShown(choice)}
              >
                {choice}
              </button>
            ))}
            <button type="button" className="text-tide hover:underline" onClick={onInHand}>
              In hand <span className="text-quiet">i</span>
            </button>
            <button type="button" className="text-tide hover:underline" onClick={onTakeIn}>
              Take in a statement <span className="text-quiet">t</span>
            </button>
          </div>
        </header>
        {account.note && (
          <p role="status" className="mb-2 border-l-4 border-cork bg-sheet px-3 py-1.5">
            {account.note}
          </p>
        )}
        <SumBar state={data} />
        <Warnings state={data} open={telling} onOpen={() => tell(!telling)} />
        <div className="flex items-center gap-3 py-2">
          {!data.finished && data.sure > 0 && (
            <Button look="post" hint="s" onClick={() => deeds.agreeSure(false)}>
              {manyWords(data.sure)} sure
            </Button>
          )}
          {!data.finished && data.sure === 0 && data.likely > 0 && (
            <Button look="post" hint="s" onClick={() => deeds.agreeSure(true)}>
              {manyWords(data.likely)} likely
            </Button>
          )}
          <Finishing state={data} deeds={deeds} />
          <ProblemNote problem={deeds.error} />
        </div>
        <Spine state={data} shown={shown} deeds={deeds} />
      </div>
      {printing && <Printed state={data} />}
    </>
  )
}

function Warnings({
  state,
  open,
  onOpen,
}: {
  state: Reconciliation
  open: boolean
  onOpen: () => void
}) {
  const found = [
    ...state.warnings,
    ...(Number(state.start_off_by) !== 0
      ? [`The first statement opens at ${state.start_off_by} other than the books had on that day.`]
      : []),
    ...(state.moved_since
      ? [
          `The books moved under this finished list; it was fixed ${dayWords(state.history.at(-1)?.at ?? '')}.`,
        ]
      : []),
  ]
  if (found.length === 0) return null
  return (
    <p className="mt-2 border-l-4 border-rust bg-sheet px-3 py-1.5">
      {open ? found.join(' ') : found[0]}{' '}
      {found.length > 1 && (
        <button type="button" className="text-tide hover:underline" onClick={onOpen}>
          {open ? 'less' : `and ${found.length - 1} more`}
        </button>
      )}
    </p>
  )
}

function manyWords(count: number): string {
  return count === 1 ? 'Agree the one that is' : `Agree the ${count} that are`
}
