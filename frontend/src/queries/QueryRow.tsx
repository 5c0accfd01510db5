import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answered, api } from '../api/client'
import { AnswerNote } from '../frame/asking/AnswerNote'
import { useClient, useRefreshClient } from '../frame/queries'
import { useSpanSearch } from '../frame/useSpan'
import { useInspect } from '../ledger/inspect'
import { amountWords, counted, dayWords } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'
import { TextArea } from '../ui/TextField'
import type { Query } from './queries'

interface QueryRowProps {
  query: Query
  /** Whether it goes with the next message; null where that is no question. */
  goes: boolean | null
  onGoes: (goes: boolean) => void
  onSendAgain: () => void
}

/** One question with its entries on the left; what came back, or what it waits for, on the right. */
export function QueryRow({ query, goes, onGoes, onSendAgain }: QueryRowProps) {
  const client = useClient()
  const search = useSpanSearch()
  const inspect = useInspect()
  const [writing, write] = useState<'wording' | 'answer' | null>(null)
  const deed = useDeed(query)
  return (
    <li className="grid grid-cols-[1fr_1fr] gap-6 border-b border-rule py-2.5">
      <div>
        <p className="flex items-baseline gap-2">
          {goes !== null && (
            <input
              type="checkbox"
              data-row
              aria-label={`Send question ${query.number}`}
              checked={goes}
              onChange={(event) => onGoes(event.target.checked)}
            />
          )}
          <span className="text-quiet">{query.number}</span>
          <span className="whitespace-pre-line font-semibold">{query.question}</span>
        </p>
        {query.about.map((entry, place) => (
          <p key={entry.transaction} className="flex min-h-6 gap-3">
            <button
              type="button"
              data-row={(goes === null && place === 0) || undefined}
              className="min-h-6 min-w-0 grow truncate text-left hover:text-tide hover:underline"
              onClick={() => inspect({ kind: 'transaction', name: entry.transaction })}
            >
              <span className="text-quiet">{dayWords(entry.date)}</span> {entry.words}
            </button>
            <span>{amountWords(entry.amount)}</span>
          </p>
        ))}
        <p className="text-quiet">
          asked by {query.by}, {dayWords(query.at)}
          {query.point && (
            <>
              {' · '}
              <Link
                className="text-tide underline"
                to={`/clients/${client.code}/review/${query.point}${search}`}
              >
                its review point
              </Link>
            </>
          )}
        </p>
      </div>
      <div className="space-y-2">
        {query.answers.map((answer) => (
          <AnswerNote key={answer.number} answer={answer} />
        ))}
        {query.answers.length === 0 && <p className="text-quiet">{waits(query)}</p>}
        {query.state !== 'done' && writing === null && (
          <p className="flex flex-wrap gap-x-4">
            {query.sent.length === 0 && query.answers.length === 0 && (
              <Button look="bare" onClick={() => write('wording')}>
                Word it otherwise
              </Button>
            )}
            {query.sent.length > 0 && query.answers.length === 0 && (
              <Button look="bare" onClick={onSendAgain}>
                Send a reminder
              </Button>
            )}
            <Button look="bare" onClick={() => write('answer')}>
              Write down an answer
            </Button>
            {!query.point && (
              <Button look="bare" onClick={() => deed.mutate({ what: 'end', text: '' })}>
                {query.sent.length > 0 || query.answers.length > 0
                  ? 'Lay it aside'
                  : 'Take it back'}
              </Button>
            )}
          </p>
        )}
        {writing && (
          <Writing
            label={writing === 'wording' ? 'The question' : 'What the client said'}
            begin={writing === 'wording' ? query.question : ''}
            busy={deed.isPending}
            onKeep={(text) =>
              deed.mutate({ what: writing, text }, { onSuccess: () => write(null) })
            }
            onCancel={() => write(null)}
          />
        )}
        <ProblemNote problem={deed.error} />
      </div>
    </li>
  )
}

function waits(query: Query): string {
  const back = query.back_on ? `; comes back ${dayWords(query.back_on)}` : ''
  const last = query.sent.at(-1)
  if (!last) return `Not sent yet${back}.`
  const times = query.sent.length > 1 ? `, ${counted(query.sent.length, 'time')} in all` : ''
  return `Sent ${dayWords(last)} ${last.slice(11, 16)}${times}${back}.`
}

interface WritingProps {
  label: string
  begin: string
  busy: boolean
  onKeep: (text: string) => void
  onCancel: () => void
}

function Writing({ label, begin, busy, onKeep, onCancel }: WritingProps) {
  const [text, say] = useState(begin)
  return (
    <div className="flex items-end gap-2">
      <TextArea
        autoFocus
        className="grow"
        label={label}
        value={text}
        onChange={(event) => say(event.target.value)}
      />
      <Button disabled={!text.trim() || busy} onClick={() => onKeep(text)}>
        Keep
      </Button>
      <Button look="bare" onClick={onCancel}>
        Cancel
      </Button>
    </div>
  )
}

type Deed = { what: 'wording' | 'answer' | 'end'; text: string }

function useDeed(query: Query) {
  const client = useClient()
  const refresh = useRefreshClient()
  return useMutation({
    mutationFn: ({ what, text }: Deed) => {
      const params = { path: { client: client.code, number: query.number } }
      if (what === 'end') {
        return answered(
          api.POST('/api/clients/{client}/queries/{number}/end', { params, body: {} }),
        )
      }
      return what === 'wording'
        ? answered(
            api.POST('/api/clients/{client}/queries/{number}/wording', { params, body: { text } }),
          )
        : answered(
            api.POST('/api/clients/{client}/queries/{number}/answer', { params, body: { text } }),
          )
    },
    onSuccess: refresh,
  })
}
