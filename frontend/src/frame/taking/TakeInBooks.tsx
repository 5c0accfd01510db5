import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { answered, api, ProblemError, type Schemas } from '../../api/client'
import { counted } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { Dialog } from '../../ui/Dialog'
import { ProblemNote } from '../../ui/ProblemNote'
import { usePerson } from '../session'
import { ComingBooks } from './ComingBooks'

type Job = Schemas['JobAnswer']

interface TakeInBooksProps {
  /** A file that was dropped on the page. */
  first: File | null
  /** The client whose books they have to be; anybody's where none is named. */
  client?: string
  /** A job that looked at them before, and what it saw. */
  looked?: string
  coming?: Schemas['NewerBooksAnswer']
  onClose: () => void
}

/** Takes in a zip of books: it is sent, read and checked while this stays open or not. */
export function TakeInBooks({ first, client, looked, coming, onClose }: TakeInBooksProps) {
  const queries = useQueryClient()
  const person = usePerson()
  const [job, setJob] = useState<string | null>(null)
  const send = useMutation({
    mutationFn: (file: File) => answered(sendBooks(file, client)),
    onSuccess: (started) => setJob(started.job),
  })
  const takeIn = useMutation({
    mutationFn: (looked: string) =>
      answered(api.POST('/api/books/seen', { body: { job: looked } })),
    onSuccess: (started) => setJob(started.job),
  })
  const { mutate } = send
  const sent = useRef(false)
  useEffect(() => {
    if (first && !sent.current) {
      sent.current = true
      mutate(first)
    }
  }, [first, mutate])
  const { data: progress } = useQuery({
    queryKey: ['job', job],
    queryFn: () => answered(api.GET('/api/jobs/{job}', { params: { path: { job: job ?? '' } } })),
    enabled: job !== null,
    refetchInterval: (query) => (isOver(query.state.data) ? false : 400),
  })
  const over = isOver(progress)
  const seen = progress?.coming ?? (job ? undefined : coming)
  const seenBy = progress?.coming ? job : job ? null : looked
  useEffect(() => {
    if (over) queries.invalidateQueries()
  }, [over, queries])
  const again = () => {
    setJob(null)
    send.reset()
    takeIn.reset()
  }
  return (
    <Dialog title={seen ? `Newer books of ${seen.name}` : 'Take in books'} onClose={onClose}>
      <div className="space-y-4">
        {!job && !looked && !send.isPending && <Choose onFile={mutate} />}
        {send.isPending && <Progress says="sending the file" />}
        <ProblemNote problem={send.error} />
        {progress && !over && <Progress says={progress.progress} />}
        {progress?.problem && (
          <>
            <ProblemNote problem={new ProblemError(progress.problem, 422)} />
            <p className="text-quiet">
              Put these right where the books come from, then take them in again.
            </p>
            <Button onClick={again}>Choose another file</Button>
          </>
        )}
        <ProblemNote problem={takeIn.error} />
        {seen && seenBy && (
          <>
            <ComingBooks coming={seen} />
            {mayBring(person, seen.waits_for) ? (
              <div className="flex gap-2">
                <Button
                  look="post"
                  autoFocus
                  disabled={takeIn.isPending}
                  onClick={() => takeIn.mutate(seenBy)}
                >
                  Take them in
                </Button>
                <Button onClick={onClose}>Leave the books as they are</Button>
              </div>
            ) : (
              <div className="flex items-baseline gap-4">
                <p className="grow border-l-4 border-cork bg-sheet px-3 py-2">
                  They move finished months: they wait on the Books page for a {seen.waits_for}, who
                  takes them in.
                </p>
                <Button autoFocus onClick={onClose}>
                  Done
                </Button>
              </div>
            )}
          </>
        )}
        {progress?.taken_in && (
          <Report taken={progress.taken_in} within={client !== undefined} onClose={onClose} />
        )}
      </div>
    </Dialog>
  )
}

/** Whether one takes in books that wait for that role. */
function mayBring(person: Schemas['PersonAnswer'], role: string | null | undefined): boolean {
  if (!role) return true
  return person.may.includes(role === 'reviewer' ? 'set-periods' : 'reopen')
}

function sendBooks(file: File, client: string | undefined) {
  const sent = {
    body: file as never,
    bodySerializer: (body: unknown) => body as never,
    headers: { 'Content-Type': 'application/zip' },
  }
  const query = { name: file.name }
  return client
    ? api.POST('/api/clients/{client}/books', { params: { path: { client }, query }, ...sent })
    : api.POST('/api/books', { params: { query }, ...sent })
}

function isOver(job: Job | undefined): boolean {
  return job !== undefined && job.state !== 'queued' && job.state !== 'running'
}

function Choose({ onFile }: { onFile: (file: File) => void }) {
  return (
    <section
      aria-label="Drop books here"
      className="border border-dashed border-edge bg-sheet p-8 text-center"
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault()
        event.stopPropagation()
        const file = event.dataTransfer.files[0]
        if (file) onFile(file)
      }}
    >
      <p className="mb-3">
        Drop a books folder here, as a .zip, or a standard audit file (.xml): a new client, or newer
        books of one you have.
      </p>
      <p className="mb-3">
        A ledger, trial balance or open items as CSV or a spreadsheet?{' '}
        <Link className="text-tide underline" to="/take-in">
          Take in what a client sent
        </Link>
      </p>
      <label className="inline-block cursor-pointer border border-edge bg-paper px-3.5 py-1.5 font-semibold focus-within:outline-2 focus-within:outline-tide">
        Choose a file
        <input
          type="file"
          accept=".zip,application/zip,.xml,application/xml"
          className="sr-only"
          onChange={(event) => {
            const file = event.target.files?.[0]
            if (file) onFile(file)
          }}
        />
      </label>
      <p className="mt-3 text-quiet">
        Everything is checked first. When a fault is found nothing is taken in, and every fault is
        listed with its file and line.
      </p>
    </section>
  )
}

function Progress({ says }: { says: string }) {
  return (
    <div role="status">
      <p>{says || 'waiting'} …</p>
      <div className="mt-2 h-1.5 overflow-hidden bg-wash">
        <div className="h-full w-1/3 bg-tide motion-safe:animate-pulse" />
      </div>
      <p className="mt-2 text-quiet">
        You can close this: it goes on, and the desk shows the client.
      </p>
    </div>
  )
}

interface ReportProps {
  taken: Schemas['TakenInAnswer']
  /** One is in the client's books already. */
  within: boolean
  onClose: () => void
}

function Report({ taken, within, onClose }: ReportProps) {
  const navigate = useNavigate()
  return (
    <div className="space-y-3">
      <p className="border-l-4 border-moss bg-sheet px-3 py-2">
        <strong>{taken.client} is taken in.</strong>
        <br />
        {counted(taken.transactions, 'transaction')} with {counted(taken.lines, 'line')}:{' '}
        {taken.new} new, {taken.changed} changed, {taken.removed} removed.
      </p>
      {taken.warnings.length > 0 && (
        <ul className="list-disc pl-5 text-quiet">
          {taken.warnings.map((warning) => (
            <li key={warning}>{warning}</li>
          ))}
        </ul>
      )}
      {within ? (
        <Button look="post" onClick={onClose}>
          Done
        </Button>
      ) : (
        <Button
          look="post"
          onClick={() => {
            onClose()
            navigate(`/clients/${taken.client}/review`)
          }}
        >
          Review {taken.client}
        </Button>
      )}
    </div>
  )
}
