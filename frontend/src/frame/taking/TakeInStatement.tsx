import { useMutation } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { answered, api, type Schemas } from '../../api/client'
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
  const send = useMutation({
    mutationFn: (asked: { file: File; columns: Columns | null }) =>
      answered(
        api.POST('/api/clients/{client}/statements', {
          params: {
            path: { client: client.code },
            query: {
              name: asked.file.name,
              ...(account && { account }),
              ...(asked.columns && { columns: JSON.stringify(asked.columns) }),
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
    mutate({ file: chosen, columns: null })
  }
  const sent = useRef(false)
  useEffect(() => {
    if (first && !sent.current) {
      sent.current = true
      setFile(first)
      mutate({ file: first, columns: null })
    }
  }, [first, mutate])
  const asks = send.data?.asks
  return (
    <Dialog title="Take in a statement" onClose={onClose}>
      <div className="space-y-4">
        {!send.isPending && !send.data && (
          <>
            <p className="text-quiet">
              The file that the bank gives out: OFX, camt.053, MT940 or CSV, whatever its name. What
              was taken in before is known and not taken twice.
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
        {asks && file && (
          <ColumnChooser
            key={asks.heading.join()}
            asks={asks}
            onChosen={(columns) => mutate({ file, columns })}
          />
        )}
        {send.data?.taken.map((one) => (
          <Report key={`${one.account} ${one.last_day}`} taken={one} />
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
