import { Suspense, useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { useClient } from '../frame/queries'
import { hand } from '../frame/taking/handed'
import { TakeInBooks } from '../frame/taking/TakeInBooks'
import { TakeInStatement } from '../frame/taking/TakeInStatement'
import { useSpanSearch } from '../frame/useSpan'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { Waiting } from '../ui/Waiting'
import { Accounts } from './Accounts'
import { ChooseFile } from './ChooseFile'
import { Intake } from './Intake'
import { Lists } from './Lists'

/** What is being taken in: a file once it is known what it is. */
type Taking = { what: 'choose' } | { what: 'books' | 'statement'; file: File }

/** What was taken in and when, and the chart of accounts. A file dropped anywhere is taken in. */
export function BooksPage() {
  const client = useClient()
  const { view } = useParams()
  const search = useSpanSearch()
  const navigate = useNavigate()
  const [taking, setTaking] = useState<Taking | null>(null)
  const onAccounts = view === 'accounts'
  const onLists = view === 'lists'
  async function take(file: File | undefined, all: File[] = []) {
    if (all.length > 1 || /\.(xlsx|xlsm|xls|ods)$/i.test(file?.name ?? '')) {
      hand(all)
      navigate(`/take-in?client=${client.code}`)
    } else if (file) setTaking({ what: await kindOf(file), file })
  }
  useKeys('Books', [
    { keys: 't', does: 'take in a file', run: () => setTaking({ what: 'choose' }) },
    {
      keys: 'a',
      does: onAccounts ? 'what was taken in' : 'accounts',
      run: () => navigate(`/clients/${client.code}/books${onAccounts ? '' : '/accounts'}${search}`),
    },
    {
      keys: 'l',
      does: onLists ? 'what was taken in' : 'lists to be saved',
      run: () => navigate(`/clients/${client.code}/books${onLists ? '' : '/lists'}${search}`),
    },
  ])
  return (
    <section
      aria-label="Books"
      className="flex min-h-0 flex-1 flex-col px-5 pt-3"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        take(event.dataTransfer.files[0], [...event.dataTransfer.files])
      }}
    >
      <header className="mb-3 flex items-baseline gap-6">
        <ViewLink to="" isOn={!onAccounts && !onLists}>
          Taken in
        </ViewLink>
        <ViewLink to="/accounts" isOn={onAccounts}>
          Accounts
          {client.guesses > 0 && (
            <span className="ml-2 text-[14px] text-deep">
              {counted(client.guesses, 'guess', 'guesses')} to confirm
            </span>
          )}
        </ViewLink>
        <ViewLink to="/lists" isOn={onLists}>
          Lists
        </ViewLink>
        <p className="ml-auto text-quiet">Drop newer books or a bank statement anywhere here, or</p>
        <Button hint="t" onClick={() => setTaking({ what: 'choose' })}>
          Take in a file
        </Button>
      </header>
      <Suspense fallback={<Waiting />}>
        {onAccounts ? <Accounts /> : onLists ? <Lists /> : <Intake />}
      </Suspense>
      {taking?.what === 'choose' && <ChooseFile onFile={take} onClose={() => setTaking(null)} />}
      {taking?.what === 'books' && (
        <TakeInBooks first={taking.file} client={client.code} onClose={() => setTaking(null)} />
      )}
      {taking?.what === 'statement' && (
        <TakeInStatement
          first={taking.file}
          account={null}
          next="Done"
          onClose={() => setTaking(null)}
        />
      )}
    </section>
  )
}

/** By what is in it, whatever its name: books come as a zip, or as a standard audit file. */
async function kindOf(file: File): Promise<'books' | 'statement'> {
  const begins = new Uint8Array(await file.slice(0, 2000).arrayBuffer())
  const zip = [0x50, 0x4b, 0x03, 0x04]
  if (zip.every((byte, place) => begins[place] === byte)) return 'books'
  return new TextDecoder().decode(begins).includes('AuditFile') ? 'books' : 'statement'
}

interface ViewLinkProps {
  to: string
  isOn: boolean
  children: React.ReactNode
}

function ViewLink({ to, isOn, children }: ViewLinkProps) {
  const client = useClient()
  const search = useSpanSearch()
  return (
    <h1 className="text-[21px] leading-7">
      <Link
        to={`/clients/${client.code}/books${to}${search}`}
        aria-current={isOn ? 'page' : undefined}
        className={isOn ? 'font-semibold' : 'text-quiet hover:text-ink'}
      >
        {children}
      </Link>
    </h1>
  )
}
