import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { dayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { ProblemNote } from '../../ui/ProblemNote'
import { TextArea } from '../../ui/TextField'
import { AttachPaper, type KeptPaper } from '../AttachPaper'
import { PaperShown } from '../PaperShown'
import { useClientCode } from '../useClientCode'
import { type About, type Remark, remarksOptions, useClearing, useRemarking } from './queries'

interface RemarksProps {
  about: About
  name: string
}

/** What was remarked on something, and a field to remark on it. */
export function Remarks({ about, name }: RemarksProps) {
  const client = useClientCode()
  const { data } = useQuery(remarksOptions(client))
  const own = data?.remarks.filter((remark) => remark.about === about && remark.name === name) ?? []
  return (
    <section aria-label="Remarks" className="space-y-2 border-t border-rule pt-2">
      {own.length > 0 && <h3 className="font-sans font-semibold text-deep">Remarks</h3>}
      {own.map((remark) => (
        <RemarkThread key={remark.said.number} remark={remark} />
      ))}
      <Write about={about} name={name} opens="Remark on it" />
    </section>
  )
}

/** A remark with its answers, and what can be done with it. */
export function RemarkThread({ remark }: { remark: Remark }) {
  const clearing = useClearing(useClientCode())
  return (
    <div
      className={`border-l-4 bg-sheet px-3 py-1.5 ${remark.waits ? 'border-cork' : 'border-edge'}`}
    >
      <Said said={remark.said} />
      {remark.answers.map((answer) => (
        <div key={answer.number} className="mt-1 pl-4">
          <Said said={answer} />
        </div>
      ))}
      {remark.cleared_by && remark.cleared_at && (
        <p className="text-[13px] text-moss">
          cleared by {remark.cleared_by}, {dayWords(remark.cleared_at)}
        </p>
      )}
      {remark.waits && (
        <div className="mt-1 flex flex-wrap items-start gap-4">
          <Write
            about={remark.about}
            name={remark.name}
            answers={remark.said.number}
            opens="Answer"
          />
          {remark.may_clear && (
            <Button
              look="bare"
              disabled={clearing.isPending}
              onClick={() => clearing.mutate(remark.said.number)}
            >
              Clear it
            </Button>
          )}
        </div>
      )}
      <ProblemNote problem={clearing.error} />
    </div>
  )
}

function Said({ said }: { said: Remark['said'] }) {
  const [looks, look] = useState(false)
  return (
    <div>
      <span className="whitespace-pre-line">{said.text}</span>{' '}
      <span className="text-[13px] text-quiet">
        {said.by}, {dayWords(said.at)} {said.at.slice(11, 16)}
      </span>
      {said.paper && (
        <>
          {' '}
          <button
            type="button"
            aria-expanded={looks}
            className="text-tide hover:underline"
            onClick={() => look(!looks)}
          >
            {said.paper.name}
          </button>
          {looks && <PaperShown name={said.paper.name} digest={said.paper.digest} />}
        </>
      )}
    </div>
  )
}

interface WriteProps extends RemarksProps {
  answers?: number
  opens: string
}

function Write({ about, name, answers, opens }: WriteProps) {
  const remarking = useRemarking(useClientCode())
  const [writing, write] = useState(false)
  const [text, setText] = useState('')
  const [asks, setAsks] = useState(true)
  const [paper, keep] = useState<KeptPaper | null>(null)
  if (!writing) {
    return (
      <Button look="bare" onClick={() => write(true)}>
        {opens}
      </Button>
    )
  }
  function send() {
    if (!text.trim()) return
    remarking.mutate(
      {
        about,
        name,
        text,
        asks: asks && answers === undefined,
        answers: answers ?? null,
        paper: paper?.digest ?? null,
      },
      {
        onSuccess: () => {
          setText('')
          keep(null)
          write(false)
        },
      },
    )
  }
  return (
    <form
      className="w-full space-y-2"
      onSubmit={(event) => {
        event.preventDefault()
        send()
      }}
    >
      <TextArea
        label={answers === undefined ? 'Remark' : 'Answer'}
        hideLabel
        autoFocus
        rows={2}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) {
            event.preventDefault()
            event.stopPropagation()
            send()
          }
        }}
      />
      {answers === undefined && (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            checked={asks}
            onChange={(event) => setAsks(event.target.checked)}
          />
          has to be cleared before the sign-off
        </label>
      )}
      <AttachPaper label="A paper with it" kept={paper} onKeep={keep} />
      <div className="flex gap-2">
        <Button type="submit" disabled={!text.trim() || remarking.isPending} hint="Ctrl ↵">
          {answers === undefined ? 'Remark' : 'Answer'}
        </Button>
        <Button look="bare" onClick={() => write(false)}>
          Cancel
        </Button>
      </div>
      <ProblemNote problem={remarking.error} />
    </form>
  )
}
