import { useEffect, useRef, useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { OpenForThis } from '../frame/OpenForThis'
import { usePrepare } from '../frame/prepared'
import { useClient } from '../frame/queries'
import { usePerson } from '../frame/session'
import { useAct } from '../frame/useAct'
import { useSpan } from '../frame/useSpan'
import { TPair } from '../ledger/TPair'
import { amountWords, capital, dayWords, isNil } from '../ledger/words'
import { Button } from '../ui/Button'
import { whatOneCameFor } from '../ui/focus'
import { ProblemNote } from '../ui/ProblemNote'
import { usePostKey } from '../ui/usePostKey'
import { ComposerHead } from './ComposerHead'
import { ComposerLines } from './ComposerLines'
import { isBlank, type Keyed, sent } from './composed'
import { PapersBeside } from './PapersBeside'
import { Scale } from './Scale'
import { useKeptDraft, useWorkedOut } from './useComposing'

interface ComposerProps {
  initial: Keyed
  /** The day by which short forms of days in it were keyed, where it was kept. */
  initialNear: string | null
  draftId: string | null
  /** Names the visit that is to begin in a field: the first, or of a draft the first that is empty. */
  focusOn: string | null
  /** Called with the number of the posted entry, or nothing where it was dropped. */
  onDone: (first: string | null) => void
}

/** Journal lines as on paper: keyed, worked out by the server, seen before they are posted. */
export function Composer({ initial, initialNear, draftId, focusOn, onDone }: ComposerProps) {
  const [span] = useSpan()
  const [entry, keep] = useState(initial)
  // What `pe` meant when it was keyed, it means still when other months are looked at.
  const [near, setNear] = useState(initialNear ?? span.last)
  const [opens, open] = useState(false)
  const [beside, putBeside] = useState<string | null>(null)
  const client = useClient()
  const form = useRef<HTMLFormElement>(null)
  function setEntry(next: Keyed) {
    keep(next)
    if (next.date !== entry.date || next.reverse_on !== entry.reverse_on) setNear(span.last)
  }
  const worked = useWorkedOut(entry, near, opens)
  const draft = useKeptDraft(entry, near, draftId)
  const preview = worked.data?.preview ?? null
  const { writes_drafts: writesDrafts } = usePerson()
  const deed = preview?.held || writesDrafts ? 'Hand it in' : 'Post'
  const acting = useAct({
    act: { act: 'entry', entry: sent(entry), near },
    opens,
    draft: draft.id,
    shown: preview,
    onDone: async (change) => {
      draft.drop()
      const first = change?.entries[0]?.id ?? null
      if (first && beside) await use(first, beside)
      onDone(first)
    },
  })
  async function use(transaction: string, digest: string) {
    const path = { client: client.code }
    await answered(
      api.POST('/api/clients/{client}/incoming/used', {
        params: { path },
        body: { digest, transaction },
      }),
    )
  }
  const ready = worked.isCurrent && preview !== null && entry.reason.trim() !== ''
  usePrepare(preview?.effect)
  useEffect(() => {
    if (focusOn === null || !form.current) return
    const fields = [...form.current.querySelectorAll<HTMLInputElement>('[data-wanted]')]
    const empty = fields.find((field) => field.value === '')
    ;(draftId ? empty : whatOneCameFor(form.current))?.focus()
  }, [focusOn, draftId])
  function post() {
    if (ready && !acting.isPending) acting.post(entry.reason)
  }
  usePostKey('The entry', deed, post, preview ? 'it can be seen' : null)

  return (
    <div className="space-y-4">
      <PapersBeside chosen={beside} onChoose={putBeside} />
      <form
        ref={form}
        aria-label="Entry"
        onKeyDown={goOn}
        className="space-y-4"
        onSubmit={(event) => {
          event.preventDefault()
          post()
        }}
      >
        <h1 className="text-[21px] leading-7 font-semibold">
          {capital(entry.kind)} entry, not yet posted
        </h1>
        {writesDrafts && !preview && (
          <p className="border-l-4 border-cork bg-sheet px-3 py-1.5">
            What you write here counts nowhere until a reviewer or partner has looked at it and
            posted it. You see all that it would move; hand it in when it is as you mean it.
          </p>
        )}
        <ComposerHead entry={entry} worked={worked.data} onChange={setEntry} />
        <ComposerLines entry={entry} worked={worked.data} onChange={setEntry} />
        <div className="flex items-center gap-3">
          <Balance worked={worked.data} />
          <span role="status" className="ml-auto text-quiet">
            {draft.keptAt && `kept as a draft, ${draft.keptAt}`}
          </span>
          {entry.lines[0]?.text && (
            <Button look="bare" onClick={() => setEntry(withOneText(entry))}>
              First text to all lines
            </Button>
          )}
          {!isBlank(entry) && (
            <Button
              onClick={async () => {
                await draft.drop()
                onDone(null)
              }}
            >
              Drop it
            </Button>
          )}
          <Button look="post" hint="Ctrl ↵" type="submit" disabled={!ready || acting.isPending}>
            {deed}
          </Button>
        </div>
        {preview?.held && (
          <p className="border-l-4 border-cork bg-sheet px-3 py-1.5">{preview.held}</p>
        )}
        <OpenForThis periods={worked.data?.openable ?? []} opens={opens} onChoose={open} />
        <Refused worked={worked.data} />
        <ProblemNote problem={worked.error ?? draft.problem ?? acting.problem} />
        {preview && entry.reason.trim() === '' && (
          <p className="text-rust">
            Give the reason: somebody else has to understand the entry in six months.
          </p>
        )}
        {preview?.warnings.map((warning) => (
          <p key={warning} className="border-l-4 border-cork bg-sheet px-3 py-1.5">
            {warning}
          </p>
        ))}
        {preview && <TPair accounts={preview.t_accounts} />}
        {worked.data?.reverse_on && preview && (
          <p className="border border-dashed border-edge bg-wash px-3 py-1.5">
            The mirror entry on {dayWords(worked.data.reverse_on)} is made when you post, carries
            this reason, and goes with this one if it is taken back.
          </p>
        )}
      </form>
    </div>
  )
}

/** Enter goes from field to field: only the button and Ctrl+Enter post. */
function goOn(event: React.KeyboardEvent<HTMLFormElement>) {
  const field = event.target as HTMLElement
  if (event.key !== 'Enter' || event.ctrlKey || event.metaKey) return
  if (event.defaultPrevented || !/^(INPUT|SELECT)$/.test(field.tagName)) return
  event.preventDefault()
  const fields = [
    ...event.currentTarget.querySelectorAll<HTMLElement>(
      'input:not([type=checkbox]), select, textarea',
    ),
  ]
  fields[fields.indexOf(field) + 1]?.focus()
}

function withOneText(entry: Keyed): Keyed {
  const text = entry.lines[0]?.text ?? ''
  return { ...entry, lines: entry.lines.map((line) => (line.account ? { ...line, text } : line)) }
}

function Balance({ worked }: { worked: Schemas['ComposedAnswer'] | undefined }) {
  if (!worked) return <Scale difference="level" />
  const { difference } = worked
  if (isNil(difference)) {
    const empty = isNil(worked.debits)
    return (
      <span className="flex items-center gap-2 text-moss">
        <Scale difference="level" />
        {empty ? (
          <span className="text-quiet">debits and credits will be weighed here</span>
        ) : (
          <strong>balanced at {amountWords(worked.debits)}</strong>
        )}
      </span>
    )
  }
  const lacks = difference.startsWith('-') ? 'debit' : 'credit'
  return (
    <span className="flex items-center gap-2">
      <Scale difference={lacks === 'credit' ? 'debit' : 'credit'} />
      <span>
        <strong className="text-rust">
          {amountWords(difference.replace('-', ''))} to {lacks}
        </strong>{' '}
        <span className="text-quiet">is offered on the next line: Enter takes it</span>
      </span>
    </span>
  )
}

function Refused({ worked }: { worked: Schemas['ComposedAnswer'] | undefined }) {
  if (!worked?.refused) return null
  return (
    <p role="alert" className="border-l-4 border-rust bg-sheet px-3 py-1.5">
      <strong className="text-rust">It can’t be posted as it stands.</strong> {worked.refused}
    </p>
  )
}
