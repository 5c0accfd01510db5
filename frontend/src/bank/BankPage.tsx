import { useSuspenseQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { useNavigate, useParams, useSearchParams } from 'react-router'
import { useClient } from '../frame/queries'
import { TakeInStatement } from '../frame/taking/TakeInStatement'
import { useSpanSearch } from '../frame/useSpan'
import { longDayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { InHand } from './InHand'
import { bankOptions } from './queries'
import { Statement } from './Statement'

/** The bank: an account, one of its statements, and both sides of it tied across a spine of dates. */
export function BankPage() {
  const client = useClient()
  const { account: named } = useParams()
  const [search, setSearch] = useSearchParams()
  const [taking, setTaking] = useState<File | 'choose' | null>(null)
  const { data } = useSuspenseQuery(bankOptions(client.code))
  const account =
    data.accounts.find((known) => known.account === named) ??
    data.accounts.find((known) => known.statements.length > 0) ??
    data.accounts[0]
  const wanted = Number(search.get('statement')) || null
  const statement =
    account?.statements.find((listed) => listed.number === wanted) ??
    account?.statements.find((listed) => !listed.finished) ??
    account?.statements.at(-1)
  const found = statement?.number
  useEffect(() => {
    // The address names what is shown, so that finishing it does not turn the page.
    if (wanted === null && found !== undefined) {
      setSearch(
        (old) => {
          const next = new URLSearchParams(old)
          next.set('statement', `${found}`)
          return next
        },
        { replace: true },
      )
    }
  }, [wanted, found, setSearch])
  function show(view: string | null) {
    setSearch((old) => {
      const next = new URLSearchParams(old)
      if (view) next.set('view', view)
      else next.delete('view')
      return next
    })
  }
  useKeys('Bank', [
    { keys: 't', does: 'take in a statement', run: () => setTaking('choose') },
    { keys: 'i', does: 'receipts in hand and takings', run: () => show('in-hand') },
  ])
  if (search.get('view') === 'in-hand') return <InHand onBank={() => show(null)} />
  return (
    <section
      aria-label="Bank"
      className="flex min-h-0 flex-1 flex-col"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        setTaking(event.dataTransfer.files[0] ?? null)
      }}
    >
      {account && statement ? (
        <Statement
          key={`${account.account} ${statement.number}`}
          account={account}
          statement={statement.number}
          chooser={<Chooser account={account.account} statement={statement.number} />}
          onTakeIn={() => setTaking('choose')}
          onInHand={() => show('in-hand')}
        />
      ) : (
        <NoStatement
          named={account?.name ?? null}
          note={account?.note ?? null}
          onTakeIn={() => setTaking('choose')}
          onInHand={() => show('in-hand')}
        />
      )}
      {taking && (
        <TakeInStatement
          first={taking instanceof File ? taking : null}
          account={account?.account ?? null}
          onClose={() => setTaking(null)}
        />
      )}
    </section>
  )
}

interface NoStatementProps {
  named: string | null
  /** Why its statements are kept and not matched. */
  note: string | null
  onTakeIn: () => void
  onInHand: () => void
}

function NoStatement({ named, note, onTakeIn, onInHand }: NoStatementProps) {
  return (
    <div className="max-w-2xl space-y-3 p-8">
      <h1 className="text-[21px] leading-7 font-semibold">No statement yet</h1>
      <p className="text-quiet">
        {named
          ? `Take in a statement of ${named}: the file that the bank gives out, as OFX, camt.053, MT940, CSV or a spreadsheet. `
          : 'There is no account with the role bank in these books. '}
        Its lines stand on the right then, the books on the left, and what agrees is tied across.
      </p>
      {note && <p className="border-l-4 border-cork bg-sheet px-3 py-1.5">{note}</p>}
      <Button look="post" hint="t" onClick={onTakeIn}>
        Take in a statement
      </Button>{' '}
      <Button hint="i" onClick={onInHand}>
        Receipts in hand and takings
      </Button>
    </div>
  )
}

/** Which account and which statement, as a heading that can be changed. */
function Chooser({ account, statement }: { account: string; statement: number }) {
  const client = useClient()
  const search = useSpanSearch()
  const navigate = useNavigate()
  const { data } = useSuspenseQuery(bankOptions(client.code))
  const own = data.accounts.find((known) => known.account === account)
  function go(code: string, number?: number) {
    const more = number ? `${search ? `${search}&` : '?'}statement=${number}` : search
    navigate(`/clients/${client.code}/bank/${code}${more}`)
  }
  return (
    <>
      <select
        aria-label="Account"
        className="max-w-80 border-b border-ink bg-transparent"
        value={account}
        onChange={(event) => go(event.target.value)}
      >
        {data.accounts.map((known) => (
          <option key={known.account} value={known.account}>
            {known.account} {known.name}
          </option>
        ))}
      </select>
      , to{' '}
      <select
        aria-label="Statement"
        className="border-b border-ink bg-transparent"
        value={statement}
        onChange={(event) => go(account, Number(event.target.value))}
      >
        {[...(own?.statements ?? [])].reverse().map((listed) => (
          <option key={listed.number} value={listed.number}>
            {longDayWords(listed.last_day)}
            {listed.finished
              ? ', finished'
              : listed.unagreed > 0
                ? `, ${listed.unagreed} left`
                : ''}
          </option>
        ))}
      </select>
    </>
  )
}
