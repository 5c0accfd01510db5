import { useSuspenseQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { answered, api, type Schemas } from '../../api/client'
import { EntryLines } from '../../ledger/EntryLines'
import { useInspect } from '../../ledger/inspect'
import { PlainWords } from '../../ledger/PlainWords'
import { amountWords, capital, dayWords, isNil, keyerWords, plainWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { Remarks } from '../remarks/Remarks'
import { useClientCode } from '../useClientCode'
import { useSpanSearch } from '../useSpan'
import { AmendedTrail } from './AmendedTrail'
import { AskAbout } from './AskAbout'
import { ByHand } from './ByHand'
import { Papers } from './Papers'
import { ReceiptPanel } from './ReceiptPanel'
import { TakeBack } from './TakeBack'

type Detail = Schemas['DetailAnswer']

interface TransactionDetailProps {
  name: string
  /** Whether copying it into a new entry is offered. */
  canCopy?: boolean
}

/** A transaction with all that hangs on it: double entry, allocations, corrections, papers. */
export function TransactionDetail({ name, canCopy = false }: TransactionDetailProps) {
  const client = useClientCode()
  const { data } = useSuspenseQuery({
    queryKey: ['client', client, 'transaction', name],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/transactions/{transaction}', {
          params: { path: { client, transaction: name } },
        }),
      ),
  })
  return (
    <div className="space-y-5">
      <Head detail={data} as={canCopy ? 'h1' : 'h3'} />
      <EntryLines lines={data.slip.lines} />
      <Links detail={data} />
      {data.plain && (
        <details className="border-l-4 border-edge bg-sheet px-3 py-1.5">
          <summary className="cursor-pointer text-tide">In the bookkeeper’s words</summary>
          <PlainWords told={data.plain} />
        </details>
      )}
      <AmendedTrail rows={data.amendments} />
      <Papers transaction={name} papers={data.slip.papers} />
      <Deeds detail={data} />
      <Remarks about="transaction" name={name} />
      {canCopy && <CopyLinks name={name} />}
    </div>
  )
}

function Head({ detail, as: Heading }: { detail: Detail; as: 'h1' | 'h3' }) {
  const { slip, brought_by: brought } = detail
  const kind = slip.entry_kind ? `${slip.entry_kind} entry` : plainWords(slip.kind)
  return (
    <div>
      <Heading className="font-display text-xl font-semibold">
        {capital(kind)}
        {slip.party_name && `, ${slip.party_name}`} {amountWords(slip.total)}
      </Heading>
      <dl className="mt-1 grid grid-cols-[110px_1fr_110px_1fr] gap-x-3">
        <Fact name="Posted on">
          {dayWords(slip.date)} <span className="text-quiet">({detail.state})</span>
        </Fact>
        <Fact name="Reference">{slip.reference ?? '–'}</Fact>
        <Fact name="On the paper">{slip.document_date ? dayWords(slip.document_date) : '–'}</Fact>
        <Fact name="Due">{slip.due_date ? dayWords(slip.due_date) : '–'}</Fact>
        <Fact name="Keyed">
          {slip.entered_at
            ? `${dayWords(slip.entered_at)} ${slip.entered_at.slice(11, 16)}`
            : 'not known'}
          {slip.entered_by && ` by ${keyerWords(slip)}`}
        </Fact>
        {slip.memo !== slip.reason && <Fact name="Text">{slip.memo ?? '–'}</Fact>}
      </dl>
      {brought && (
        <p className="mt-2 border-l-4 border-cork bg-sheet px-3 py-1.5">
          <strong>{brought.reason}</strong>
          <br />
          <span className="text-quiet">
            change {brought.number} by {brought.by}, {dayWords(brought.at)}{' '}
            {brought.at.slice(11, 16)}
            {brought.approved_by && `, approved by ${brought.approved_by}`}
            {brought.route && `, route ${plainWords(brought.route)}`}
            {brought.undone && ' · taken back since'}
          </span>
        </p>
      )}
    </div>
  )
}

function Fact({ name, children }: { name: string; children: ReactNode }) {
  return (
    <>
      <dt className="text-quiet">{name}</dt>
      <dd>{children}</dd>
    </>
  )
}

function Links({ detail }: { detail: Detail }) {
  const { slip } = detail
  const links: [string, string | null][] = [
    ['Corrects', slip.corrects],
    ['Reverses', slip.reverses],
    ['Corrected by', detail.corrected_by],
    ['Reversed by', detail.reversed_by],
  ]
  const code = useClientCode()
  const search = useSpanSearch()
  return (
    <div className="space-y-1">
      {detail.settled.map((row) => (
        <p key={row.allocation.id} className={row.stands ? '' : 'text-quiet line-through'}>
          Settled {amountWords(row.allocation.amount)} with <Opens name={row.other} />
          {row.other_reference && ` (${row.other_reference})`} on {dayWords(row.allocation.date)}
        </p>
      ))}
      {detail.open.map((item) => (
        <p key={`${item.account} ${item.party}`}>
          {isNil(item.open) ? (
            <span className="text-moss">
              Nothing of it is open{item.party_name && ` with ${item.party_name}`}.
            </span>
          ) : (
            <span className="font-semibold text-rust">
              {amountWords(item.open.replace('-', ''))} of it is open
              {item.party_name ? ` with ${item.party_name}` : ', with no party'}.
            </span>
          )}
        </p>
      ))}
      {links.map(
        ([says, name]) =>
          name && (
            <p key={says}>
              {says} <Opens name={name} />
            </p>
          ),
      )}
      {detail.points.map((point) => (
        <p key={point.id}>
          In review:{' '}
          <Link
            className="text-tide hover:underline"
            to={`/clients/${code}/review/${point.id}${search}`}
          >
            {point.summary}
          </Link>
        </p>
      ))}
    </div>
  )
}

function Opens({ name }: { name: string }) {
  const inspect = useInspect()
  return (
    <button
      type="button"
      className="font-semibold text-tide hover:underline"
      onClick={() => inspect({ kind: 'transaction', name })}
    >
      {name}
    </button>
  )
}

function Deeds({ detail }: { detail: Detail }) {
  const [search] = useSearchParams()
  const [doing, setDoing] = useState<string | null>(search.get('do'))
  const brought = detail.brought_by
  const canTakeBack = brought?.can_take_back
  if (doing === 'take back' && brought) {
    return <TakeBack change={brought.number} onCancel={() => setDoing(null)} />
  }
  if (doing === 'ask') {
    return (
      <AskAbout
        about={detail.slip.id}
        transactions={[detail.slip.id]}
        onDone={() => setDoing(null)}
      />
    )
  }
  if (doing === 'receipt') {
    return <ReceiptPanel transaction={detail.slip.id} onDone={() => setDoing(null)} />
  }
  const way = detail.by_hand.find((offered) => offered.route === doing)
  if (way)
    return (
      <ByHand
        way={way}
        slip={detail.slip}
        openable={detail.openable}
        onCancel={() => setDoing(null)}
      />
    )
  return (
    <div className="flex flex-wrap gap-2">
      {detail.by_hand.map((offered) => (
        <Button key={offered.route} onClick={() => setDoing(offered.route)}>
          {offered.short}
        </Button>
      ))}
      <Button onClick={() => setDoing('ask')}>Ask the client about it</Button>
      {detail.brings_money && <Button onClick={() => setDoing('receipt')}>Receipt for it</Button>}
      {canTakeBack && (
        <Button onClick={() => setDoing('take back')}>Take change {brought.number} back</Button>
      )}
    </div>
  )
}

/** A copy carries accounts, parties and tax; never the date, and the sums only on request. */
function CopyLinks({ name }: { name: string }) {
  const client = useClientCode()
  const search = useSpanSearch().replace('?', '&')
  const to = `/clients/${client}/entries/new?copy=${encodeURIComponent(name)}`
  return (
    <p className="flex gap-5 border-t border-rule pt-3">
      <Link className="text-tide hover:underline" to={`${to}${search}`}>
        Copy as a new entry
      </Link>
      <Link className="text-tide hover:underline" to={`${to}&sums=yes${search}`}>
        Copy with its amounts
      </Link>
      <Link
        className="text-tide hover:underline"
        to={`/clients/${client}/entries/recipe-repeat${search.replace('&', '?')}`}
        state={{ begins: { transaction: name } }}
      >
        Repeat it
      </Link>
    </p>
  )
}
