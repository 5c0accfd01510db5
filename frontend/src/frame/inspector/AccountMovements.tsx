import { useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../../api/client'
import { type FigureColumn, useInspect } from '../../ledger/inspect'
import { amountWords, longDayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { chartOptions, useClient } from '../queries'
import { Remarks } from '../remarks/Remarks'
import { useSheet } from '../useSheet'
import { useSpan } from '../useSpan'
import { worksheetOptions } from '../worksheet'
import { AskAbout } from './AskAbout'
import { Movements } from './Movements'
import { RecodeLines } from './RecodeLines'

interface AccountMovementsProps {
  code: string
  /** The worksheet's column whose figure is being looked into: then only what it consists of. */
  figure?: FigureColumn | undefined
}

/** One account in the months being looked at, with the way to its aged list where it has one. */
export function AccountMovements({ code, figure }: AccountMovementsProps) {
  if (figure === 'last_year') return <LastYear code={code} />
  return <Spanned code={code} figure={figure} />
}

/** The year before, as the books have it; where it was signed otherwise, that is said. */
function LastYear({ code }: { code: string }) {
  const client = useClient()
  const [span] = useSpan()
  const [of] = useSheet()
  const { data: sheet } = useSuspenseQuery(worksheetOptions(client, span, of))
  const signed =
    sheet.compared === 'as signed'
      ? (sheet.rows.find((row) => row.account === code)?.last_year ?? null)
      : null
  const { compared_from: first, compared_at: last } = sheet
  return (
    <Movement
      code={code}
      span={{ first, last }}
      closing="out"
      alone
      dimension={of.dimension}
      signed={signed}
    />
  )
}

function Spanned({ code, figure }: AccountMovementsProps) {
  const client = useClient()
  const [span] = useSpan()
  const [of] = useSheet()
  const column = figure === 'adjusted' ? undefined : figure === 'last_year' ? undefined : figure
  // A figure of the worksheet opens to just what it is of.
  return (
    <Movement
      code={code}
      span={span}
      column={column}
      closing={figure && !of.closing ? 'out' : 'in'}
      alone={Boolean(figure) && (of.alone || span.first < client.year.first_day)}
      dimension={figure ? of.dimension : null}
    />
  )
}

interface MovementProps {
  code: string
  span: { first: string; last: string }
  column?: Exclude<FigureColumn, 'last_year' | 'adjusted'> | undefined
  closing: 'in' | 'out'
  /** Income and costs begin at nil with the first day. */
  alone: boolean
  dimension: string | null
  /** The figure that was signed for that year, where the worksheet shows it. */
  signed?: string | null
}

const ONLY: Record<NonNullable<MovementProps['column']>, string> = {
  as_received: 'as received, without our entries',
  corrections: 'our corrections',
  adjusting: 'our adjusting and reversing entries',
  reclassifications: 'our reclassifications',
  closing: 'closing entries',
}

/** A question names the entries that it is about, the latest of them. */
const MOST_ASKED = 20

function Movement(props: MovementProps) {
  const [asks, ask] = useState(false)
  const [recodes, recode] = useState(false)
  const { code, span, column, closing, alone, dimension, signed = null } = props
  const { code: client } = useClient()
  const inspect = useInspect()
  const { first, last } = span
  const query = {
    ...{ first, last, closing, alone },
    ...(column && { column }),
    ...(dimension && { dimension }),
  }
  const { data: ledger } = useSuspenseQuery({
    queryKey: ['client', client, 'account', code, query],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/accounts/{account}', {
          params: { path: { client, account: code }, query },
        }),
      ),
  })
  const { data: chart } = useSuspenseQuery(chartOptions(client, last))
  const account = chart.accounts.find((known) => known.code === code)
  const aged = account && /^(receivables|payables)$/.test(account.role) ? account.role : null
  return (
    <div className="space-y-3">
      <div>
        <h3 className="font-display text-xl font-semibold">
          {code} {ledger.name}
        </h3>
        <p className="text-quiet">
          {account?.type}
          {account?.role && `, ${account.role.replace(/-/g, ' ')}`} · {longDayWords(first)} to{' '}
          {longDayWords(last)}, by posting date
          {closing === 'in' ? ', closing entries in it' : ', before closing entries'}
          {dimension && ` · ${dimension} alone`}
        </p>
        {column && <p className="font-semibold text-tide">Only {ONLY[column]}</p>}
        {signed !== null && (
          <p>
            The worksheet shows the signed figure, {amountWords(signed)}
            {signed === ledger.closing
              ? ', which these books have too.'
              : `; these books have ${amountWords(ledger.closing)}.`}
          </p>
        )}
        {aged && (
          <button
            type="button"
            className="font-semibold text-tide hover:underline"
            onClick={() => inspect({ kind: 'aged', name: aged })}
          >
            Who owes what: the aged list
          </button>
        )}
      </div>
      {ledger.statements.length > 0 && (
        <p>
          Statements kept with the books:{' '}
          {ledger.statements.map((kept) => (
            <a
              key={kept.digest}
              className="mr-3 text-tide hover:underline"
              href={`/api/clients/${encodeURIComponent(client)}/papers/${kept.digest}`}
            >
              {kept.name}
            </a>
          ))}
        </p>
      )}
      {asks ? (
        <AskAbout
          about={ledger.name}
          transactions={ledger.movements.slice(-MOST_ASKED).map((move) => move.transaction)}
          onDone={() => ask(false)}
        />
      ) : recodes ? (
        <RecodeLines ledger={ledger} onDone={() => recode(false)} />
      ) : (
        ledger.movements.length > 0 && (
          <p className="screen-only flex gap-5">
            <Button look="bare" onClick={() => ask(true)}>
              Ask the client about it
            </Button>
            <Button look="bare" onClick={() => recode(true)}>
              Recode several
            </Button>
          </p>
        )
      )}
      <Movements ledger={ledger} caption={`Movements of ${ledger.name}`} />
      {account && <Remarks about="account" name={code} />}
    </div>
  )
}
