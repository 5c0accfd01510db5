import { useMutation } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { AnswerNote } from '../frame/asking/AnswerNote'
import { useClient, useRefreshClient } from '../frame/queries'
import { ProblemNote } from '../ui/ProblemNote'
import type { Answer, Query } from './queries'

interface UnsortedProps {
  answers: Answer[]
  queries: Query[]
}

/** Answers that do not say to which question they belong: a person gives each to one. */
export function Unsorted({ answers, queries }: UnsortedProps) {
  const client = useClient()
  const refresh = useRefreshClient()
  const sorting = useMutation({
    mutationFn: ({ answer, number }: { answer: number; number: number }) =>
      answered(
        api.POST('/api/clients/{client}/queries/{number}/sorting', {
          params: { path: { client: client.code, number } },
          body: { answer },
        }),
      ),
    onSuccess: refresh,
  })
  if (answers.length === 0) return null
  const open = queries.filter((query) => query.state !== 'done' && query.state !== 'withdrawn')
  return (
    <section aria-label="Without a question" className="mt-5 space-y-2">
      <h2 className="border-b border-ink pb-1 text-[17px] font-semibold">
        Came without saying to which question{' '}
        <span className="font-normal text-quiet">{answers.length}</span>
      </h2>
      {answers.map((answer) => (
        <div key={answer.number} className="grid grid-cols-[1fr_260px] items-start gap-6">
          <AnswerNote answer={answer} />
          <label className="text-quiet">
            It belongs to
            <select
              className="w-full border border-edge bg-sheet px-2 py-1.5 text-ink"
              value=""
              onChange={(event) =>
                sorting.mutate({ answer: answer.number, number: Number(event.target.value) })
              }
            >
              <option value="">choose its question</option>
              {open.map((asked) => (
                <option key={asked.number} value={asked.number}>
                  {asked.number}: {asked.question.slice(0, 60)}
                </option>
              ))}
            </select>
          </label>
        </div>
      ))}
      <ProblemNote problem={sorting.error} />
    </section>
  )
}
