import { useState } from 'react'
import { Link } from 'react-router'
import { AttachPaper, type KeptPaper } from '../frame/AttachPaper'
import { PaperShown } from '../frame/PaperShown'
import { useClient } from '../frame/queries'
import { Remarks } from '../frame/remarks/Remarks'
import { useAct } from '../frame/useAct'
import { useSpanSearch } from '../frame/useSpan'
import { useInspect } from '../ledger/inspect'
import { amountWords, counted, dayWords, isNil } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextArea, TextField } from '../ui/TextField'
import { usePostKey } from '../ui/usePostKey'
import type { Part, TieOut } from './queries'

interface ProofProps {
  proof: TieOut
  at: string
  onDone: () => void
}

/** Both figures with what they consist of, what keeps them apart, and agreeing them. */
export function Proof({ proof, at, onDone }: ProofProps) {
  const client = useClient()
  const search = useSpanSearch()
  const [outside, key] = useState('')
  const [note, say] = useState(proof.state === 'fallen' ? '' : (proof.note ?? ''))
  const [paper, keep] = useState<KeptPaper | null>(null)
  const asksFigure = proof.keyed && (proof.outside === null || proof.state !== 'agreed')
  const differs = outside === '' && proof.difference !== null && !isNil(proof.difference)
  const known = proof.outside !== null || outside.trim() !== ''
  const wantsWhy = differs || (proof.lacks !== '' && outside === '')
  const ready = known && (!wantsWhy || note.trim() !== '') && proof.state !== 'agreed'
  const acting = useAct({
    act: ready
      ? {
          act: 'tie-out',
          tie_out: proof.id,
          as_at: at,
          note,
          outside: signedLike(proof.books, outside),
          paper: paper?.digest ?? null,
          paper_name: paper?.name ?? null,
        }
      : null,
    onDone,
  })
  const may = ready && acting.preview !== undefined && acting.isCurrent && !acting.isPending
  function agree() {
    if (may) acting.post(note || 'agreed')
  }
  usePostKey('The proof', 'agree it', agree, proof.id)
  return (
    <article
      aria-label="The proof"
      className="flex min-h-0 flex-col overflow-auto border-l border-edge pt-4 pr-5 pl-6"
    >
      <h2 className="text-[19px] leading-7 font-semibold">{proof.title}</h2>
      {proof.evidence.length > 0 && <p className="text-quiet">{proof.evidence.join(' · ')}</p>}
      {proof.lacks && (
        <p className="mt-2 border-l-4 border-cork bg-sheet px-3 py-1.5">
          {proof.lacks}{' '}
          {proof.kind === 'bank' && (
            <Link
              className="text-tide hover:underline"
              to={`/clients/${client.code}/bank/${proof.accounts[0]}${search}`}
            >
              Go to the bank
            </Link>
          )}
        </p>
      )}
      {proof.state === 'fallen' && <Fallen proof={proof} />}
      <div className="mt-3 grid grid-cols-2 gap-6">
        <Parts title="In the books" parts={proof.of_books} total={proof.books} />
        <Parts title="From outside" parts={proof.of_outside} total={proof.outside} />
      </div>
      {proof.causes.length > 0 && <Causes proof={proof} />}
      <div className="mt-4">
        <Remarks about="tie-out" name={proof.id} />
      </div>
      <div className="sticky bottom-0 mt-auto space-y-2 border-t border-edge bg-paper pt-2.5 pb-3">
        {proof.state === 'agreed' ? (
          <Agreed proof={proof} />
        ) : (
          <>
            {asksFigure && (
              <div className="flex items-end gap-3">
                <TextField
                  className="w-52"
                  label={`Figure of a paper, in ${client.currency}`}
                  inputMode="decimal"
                  value={outside}
                  onChange={(event) => {
                    acting.reset()
                    key(event.target.value)
                  }}
                />
                <AttachPaper label="The paper of this figure" kept={paper} onKeep={keep} />
              </div>
            )}
            <ProblemNote problem={acting.problem} />
            <div className="flex items-end gap-2">
              <TextArea
                className="grow"
                label={wantsWhy ? 'Why it can be agreed all the same' : 'Note, where one is needed'}
                value={note}
                onChange={(event) => {
                  acting.reset()
                  say(event.target.value)
                }}
              />
              <Button look="post" hint="Ctrl ↵" disabled={!may} onClick={agree}>
                Agree it
              </Button>
            </div>
          </>
        )}
      </div>
    </article>
  )
}

/** A paper gives what is owed as a plain sum: it has the sign that the books have. */
function signedLike(books: string, keyed: string): string {
  const sum = keyed.trim()
  return books.startsWith('-') && sum && !/^[-(]/.test(sum) ? `-(${sum})` : sum
}

function Fallen({ proof }: { proof: TieOut }) {
  const inspect = useInspect()
  return (
    <div role="status" className="mt-2 border-l-4 border-rust bg-sheet px-3 py-2">
      <p>
        {proof.by} agreed it{proof.at && `, ${dayWords(proof.at)}`}. Since then{' '}
        {proof.moved.join('; ')}.
      </p>
      {proof.since.map((change) => (
        <p key={change.number} className="text-quiet">
          Change {change.number} by {change.by}, {dayWords(change.on)}: {change.what}
        </p>
      ))}
      {proof.accounts[0] && (
        <button
          type="button"
          className="text-tide hover:underline"
          onClick={() => inspect({ kind: 'account', name: proof.accounts[0] as string })}
        >
          Look at its movements
        </button>
      )}
    </div>
  )
}

const FIRST = 40

function Parts({ title, parts, total }: { title: string; parts: Part[]; total: string | null }) {
  const inspect = useInspect()
  const [all, showAll] = useState(false)
  const shown = all ? parts : parts.slice(0, FIRST)
  function open(part: Part) {
    if (part.transaction) inspect({ kind: 'transaction', name: part.transaction })
    else if (part.party) inspect({ kind: 'party', name: part.party })
    else if (part.account) inspect({ kind: 'account', name: part.account })
  }
  return (
    <section aria-label={title}>
      <p className="flex justify-between border-b border-ink pb-1 font-semibold">
        <span className="text-deep">{title}</span>
        <span>{total === null ? 'not known' : amountWords(total)}</span>
      </p>
      {shown.map((part) => (
        <p
          key={`${part.says} ${part.transaction} ${part.account}`}
          className="flex justify-between gap-3 border-b border-rule py-0.5"
        >
          {part.transaction || part.party || part.account ? (
            <button
              type="button"
              className="truncate text-left text-tide hover:underline"
              onClick={() => open(part)}
            >
              {part.says}
            </button>
          ) : (
            <span className="truncate">{part.says}</span>
          )}
          <span>{amountWords(part.amount)}</span>
        </p>
      ))}
      {parts.length > FIRST && !all && (
        <Button look="bare" onClick={() => showAll(true)}>
          And {parts.length - FIRST} more
        </Button>
      )}
      {parts.length === 0 && total !== null && (
        <p className="py-0.5 text-quiet">nothing stands there</p>
      )}
    </section>
  )
}

function Causes({ proof }: { proof: TieOut }) {
  const inspect = useInspect()
  return (
    <section aria-label="What keeps them apart" className="mt-4">
      <h3 className="border-b border-ink pb-1 font-sans font-semibold text-deep">
        What keeps them apart
      </h3>
      {proof.causes.map((cause) => (
        <p key={cause.says} className="flex justify-between gap-3 border-b border-rule py-0.5">
          <span>
            {cause.says}{' '}
            {cause.transactions.slice(0, 3).map((name) => (
              <button
                key={name}
                type="button"
                className="mr-2 text-tide hover:underline"
                onClick={() => inspect({ kind: 'transaction', name })}
              >
                {name}
              </button>
            ))}
            {cause.transactions.length > 3 && (
              <span className="text-quiet">
                and {counted(cause.transactions.length - 3, 'other')}
              </span>
            )}
          </span>
          <span className="text-rust">
            {cause.amount === null ? '' : amountWords(cause.amount)}
          </span>
        </p>
      ))}
    </section>
  )
}

function Agreed({ proof }: { proof: TieOut }) {
  return (
    <div className="space-y-2">
      <p className="flex items-baseline gap-4">
        <span className="text-moss">
          Agreed by {proof.by}
          {proof.at && `, ${dayWords(proof.at)} ${proof.at.slice(11, 16)}`}
        </span>
        {proof.note && <span className="text-quiet">{proof.note}</span>}
        {proof.paper && <span>by {proof.paper.name}</span>}
      </p>
      {proof.paper && <PaperShown name={proof.paper.name} digest={proof.paper.digest} />}
    </div>
  )
}
