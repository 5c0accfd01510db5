import { useSuspenseQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { useNavigate, useSearchParams } from 'react-router'
import { PlainPage } from '../frame/PlainPage'
import { deskOptions } from '../frame/queries'
import { takeHanded } from '../frame/taking/handed'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { ProblemNote } from '../ui/ProblemNote'
import { Comes } from './Comes'
import { FilesRead } from './FilesRead'
import { Proofs } from './Proofs'
import { Questions } from './Questions'
import { useListings } from './useListings'
import { WhoseBooks } from './WhoseBooks'

/** What a client sent: dropped together, read, proved, asked about, and taken in. */
export function TakeInPage() {
  const [params] = useSearchParams()
  const navigate = useNavigate()
  const { data: desk } = useSuspenseQuery(deskOptions)
  const listings = useListings(params.get('client'))
  const { bring, found, whose } = listings
  const begun = useRef(false)
  useEffect(() => {
    const files = begun.current ? [] : takeHanded()
    begun.current = true
    if (files.length > 0) bring(files)
  }, [bring])
  const known = desk.rows.find((row) => row.code === whose.client)
  const isNamed = whose.client !== null || (whose.new.code !== '' && whose.new.name !== '')
  const isReady =
    found !== null &&
    !found.taken &&
    found.questions.length === 0 &&
    found.faults.length === 0 &&
    isNamed &&
    !listings.isAtWork
  useKeys('Take in', [
    { keys: 'Control+Enter', does: 'take it in', run: () => isReady && listings.takeIn() },
  ])
  return (
    <PlainPage title={known ? `Take in what ${known.name} sent` : 'Take in what a client sent'}>
      <h1 className="sr-only">Take in what a client sent</h1>
      <div className="grid grid-cols-[320px_minmax(0,1fr)] items-start gap-8">
        <div
          className={
            found?.taken
              ? 'hidden'
              : 'space-y-6 [@media(min-height:700px)]:sticky [@media(min-height:700px)]:top-0'
          }
        >
          <Bring onFiles={bring} isFirst={listings.files.length === 0} />
          <ul className="space-y-1">
            {listings.files.map((file) => (
              <li key={file.name} className="flex items-baseline gap-2 border-b border-rule py-1">
                <span className="min-w-0 grow break-words">{file.name}</span>
                <button
                  type="button"
                  className="text-tide hover:underline"
                  aria-label={`Leave out ${file.name}`}
                  onClick={() => listings.remove(file.name)}
                >
                  leave out
                </button>
              </li>
            ))}
          </ul>
          {listings.files.map((file) => (
            <ProblemNote key={file.name} problem={file.problem} />
          ))}
          {(listings.files.length > 0 || whose.client !== null) && (
            <WhoseBooks
              whose={whose}
              clients={desk.rows}
              why={found?.proposed?.why ?? null}
              onChange={listings.setWhose}
            />
          )}
        </div>
        <div className="min-w-0 space-y-7 pb-16" aria-live="polite">
          {listings.isAtWork && <p role="status">{listings.says || 'reading'} …</p>}
          <ProblemNote problem={listings.isAtWork ? null : listings.problem} />
          {!found && !listings.isAtWork && !listings.problem && <WhatMayCome />}
          {found && !found.taken && (
            <>
              <Faults faults={found.faults} />
              <Questions
                questions={found.questions}
                isAtWork={listings.isAtWork}
                onAnswer={listings.answer}
              />
              <Proofs held={found.held} failed={found.failed} />
              <Comes found={found} />
              <FilesRead
                files={found.files}
                answers={listings.answers}
                onColumns={listings.answer}
              />
            </>
          )}
          {found?.taken && (
            <section className="space-y-3">
              <p className="border-l-4 border-moss bg-sheet px-3 py-2">
                <strong>{found.client} is taken in.</strong>
                <br />
                {counted(found.transactions, 'transaction')}: {found.new} new, {found.changed}{' '}
                changed, {found.removed} gone.
                {found.warnings.map((warning) => (
                  <span key={warning} className="block">
                    {warning}
                  </span>
                ))}
              </p>
              <Button
                look="post"
                autoFocus
                onClick={() => navigate(`/clients/${found.client}/review`)}
              >
                Review {found.client}
              </Button>
            </section>
          )}
        </div>
      </div>
      {found && !found.taken && (
        <footer className="fixed inset-x-0 bottom-0 flex items-baseline gap-6 border-t border-edge bg-sheet px-6 py-3">
          <p className="mr-auto">
            {isNamed ? '' : 'Say whose books they are. '}
            {found.questions.length > 0
              ? `${counted(found.questions.length, 'question')} first`
              : found.faults.length > 0
                ? 'Nothing can be taken in as it is.'
                : `${counted(found.transactions, 'transaction')}: ${found.new} new, ${found.changed} changed, ${found.removed} gone`}
          </p>
          <Button look="post" hint="ctrl ↵" disabled={!isReady} onClick={listings.takeIn}>
            Take it in
          </Button>
        </footer>
      )}
    </PlainPage>
  )
}

function Bring({ onFiles, isFirst }: { onFiles: (files: File[]) => void; isFirst: boolean }) {
  return (
    <section
      aria-label="Drop files here"
      className="border border-dashed border-edge bg-sheet px-4 py-5"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        onFiles([...event.dataTransfer.files])
      }}
    >
      <p className="mb-3">Drop everything together, as it came.</p>
      <label className="inline-block cursor-pointer border border-edge bg-paper px-3.5 py-1.5 font-semibold focus-within:outline-2 focus-within:outline-tide">
        Choose files
        <input
          type="file"
          multiple
          ref={(input) => {
            if (isFirst) input?.focus()
          }}
          accept=".csv,.txt,.tsv,.tab,.xlsx,.xlsm,.xls,.ods,.prn,.htm,.html,.xml,.ofx,.qfx,.sta,.mt940,.zip"
          className="sr-only"
          onChange={(event) => {
            onFiles([...(event.target.files ?? [])])
            event.target.value = ''
          }}
        />
      </label>
    </section>
  )
}

function WhatMayCome() {
  return (
    <section className="max-w-[62ch] space-y-3">
      <p>
        A general ledger or journal, a trial balance, open items, a chart of accounts, lists of
        customers and suppliers: CSV or a spreadsheet, in any columns and layout, by themselves or
        in a zip. The bank’s statements with them, as OFX, camt.053, MT940 or a table.
      </p>
      <p className="text-quiet">
        Each is read in the way that proves itself: entries balance, running balances run, totals
        total. What two readings fit is asked, with a row of the file. You see what comes before
        anything is taken in, and the same layout asks nothing next month.
      </p>
    </section>
  )
}

function Faults({ faults }: { faults: string[] }) {
  if (faults.length === 0) return null
  return (
    <div role="alert" className="border-l-4 border-rust bg-sheet px-3 py-2">
      <strong className="text-rust">These files can’t be taken in as they are.</strong>
      <ul className="mt-1 list-disc pl-5">
        {faults.map((fault) => (
          <li key={fault}>{fault}</li>
        ))}
      </ul>
    </div>
  )
}
