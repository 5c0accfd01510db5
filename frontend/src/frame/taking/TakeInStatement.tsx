import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { answered, api, ProblemError, type Schemas } from '../../api/client'
import { amountWords, counted, longDayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { ProblemNote } from '../../ui/ProblemNote'
import { useClient, useRefreshClient } from '../queries'
import { ColumnChooser } from './ColumnChooser'

interface TakeInStatementProps {
  /** A file that was dropped on the page. */
  first: File | null
  account: string | null
  /** Where it leads to, once it is taken in. */
  next?: string
  onClose: () => void
}

type Columns = Schemas['ColumnsModel']

/** What is sent. *sure*: it is of that account, whatever speaks against it. */
interface Asked {
  file: File
  columns: Columns | null
  account: string | null
  sure?: boolean
}

/** Takes in a statement file: whole or not at all, and says what was new in it. */
export function TakeInStatement({
  first,
  account,
  next = 'To the statement',
  onClose,
}: TakeInStatementProps) {
  const client = useClient()
  const refresh = useRefreshClient()
  const [file, setFile] = useState<File | null>(null)
  const [said, say] = useState<string | null>(account)
  const send = useMutation({
    mutationFn: (asked: Asked) =>
      answered(
        api.POST('/api/clients/{client}/statements', {
          params: {
            path: { client: client.code },
            query: {
              name: asked.file.name,
              ...(asked.account && { account: asked.account }),
              ...(asked.columns && { columns: JSON.stringify(asked.columns) }),
              ...(asked.sure && { sure: true }),
            },
          },
          body: asked.file as never,
          bodySerializer: (body) => body as never,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ),
    onSuccess: refresh,
  })
  const { mutate } = send
  function choose(chosen: File) {
    setFile(chosen)
    mutate({ file: chosen, columns: null, account: said })
  }
  const sent = useRef(false)
  useEffect(() => {
    if (first && !sent.current) {
      sent.current = true
      setFile(first)
      mutate({ file: first, columns: null, account })
    }
  }, [first, account, mutate])
  const asks = send.data?.asks
  const lift = send.error instanceof ProblemError ? send.error.lift : null
  return (
    <Dialog title="Take in a statement" onClose={onClose}>
      <div className="space-y-4">
        {!send.isPending && !send.data && (
          <>
            <p className="text-quiet">
              The file that the bank gives out: OFX, camt.053, MT940, CSV or a spreadsheet, whatever
              its name. What was taken in before is known and not taken twice.
            </p>
            <input
              type="file"
              aria-label="Choose a statement file"
              onChange={(event) => event.target.files?.[0] && choose(event.target.files[0])}
            />
          </>
        )}
        {send.isPending && <p role="status">Reading {file?.name} …</p>}
        <ProblemNote problem={send.error} />
        {lift?.setting === 'sure' && send.variables && (
          <Button look="post" onClick={() => mutate({ ...send.variables, sure: true })}>
            {lift.says}
          </Button>
        )}
        {account === null && file && (send.error || asks) && (
          <WhoseStatement
            value={said}
            onChoose={(code) => {
              say(code)
              mutate({ file, columns: null, account: code })
            }}
          />
        )}
        {asks && file && (
          <ColumnChooser
            key={asks.heading.join()}
            asks={asks}
            onChosen={(columns) => mutate({ file, columns, account: said })}
          />
        )}
        {send.data?.taken.map((report) => (
          <Report key={`${report.account} ${report.last_day}`} taken={report} />
        ))}
        {send.data && !asks && (
          <Button look="post" onClick={onClose}>
            {next}
          </Button>
        )}
      </div>
    </Dialog>
  )
}

interface WhoseStatementProps {
  value: string | null
  onChoose: (account: string) => void
}

/** Asked where the file does not say whose it is, and more than one account could be meant. */
function WhoseStatement({ value, onChoose }: WhoseStatementProps) {
  const client = useClient()
  const { data } = useQuery({
    queryKey: ['client', client.code, 'bank'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/bank', { params: { path: { client: client.code } } }),
      ),
  })
  return (
    <label className="block">
      <span className="block text-quiet">Whose statement it is</span>
      <select
        className="w-80 border border-edge bg-sheet px-2 py-1.5"
        value={value ?? ''}
        onChange={(event) => onChoose(event.target.value)}
      >
        <option value="" disabled>
          choose the account
        </option>
        {(data?.accounts ?? []).map((known) => (
          <option key={known.account} value={known.account}>
            {known.account} {known.name}
          </option>
        ))}
      </select>
    </label>
  )
}

function Report({ taken }: { taken: Schemas['TakenAnswer'] }) {
  const fresh = taken.lines - taken.already
  return (
    <section aria-label={`Taken in for ${taken.account}`} className="space-y-1">
      <p className="font-semibold">
        {fresh > 0
          ? `${counted(fresh, 'new line')} of ${taken.account}, ${longDayWords(taken.first_day)} to ${longDayWords(taken.last_day)}.`
          : `Nothing new: all ${counted(taken.lines, 'line')} of ${taken.account} were here already.`}
      </p>
      {fresh > 0 && taken.already > 0 && (
        <p className="text-quiet">{counted(taken.already, 'line')} were here already.</p>
      )}
      <p className="text-quiet">
        Opening {taken.opening === null ? 'not given' : amountWords(taken.opening)}, closing{' '}
        {taken.closing === null ? 'not given' : amountWords(taken.closing)}.
      </p>
      {taken.settled.map((done) => (
        <p key={done} className="text-moss">
          ✓ {done}
        </p>
      ))}
      {taken.warnings.map((warning) => (
        <p key={warning} className="text-rust">
          {warning}
        </p>
      ))}
    </section>
  )
}
