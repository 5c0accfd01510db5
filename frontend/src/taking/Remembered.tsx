import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { plainWords } from '../ledger/words'
import { ProblemNote } from '../ui/ProblemNote'

/** What was answered about this client's lists before, and so is not asked again. */
export function Remembered({ client }: { client: string }) {
  const queries = useQueryClient()
  const params = { path: { client } }
  const queryKey = ['client', client, 'listing answers']
  const { data } = useQuery({
    queryKey,
    queryFn: () => answered(api.GET('/api/clients/{client}/listing-answers', { params })),
  })
  const forgetting = useMutation({
    mutationFn: () => answered(api.DELETE('/api/clients/{client}/listing-answers', { params })),
    onSuccess: () => queries.invalidateQueries({ queryKey }),
  })
  if (!data || data.answers.length === 0) return null
  return (
    <section aria-label="Remembered answers" className="border-t border-rule pt-2">
      <p className="text-quiet">Remembered of their lists:</p>
      <ul>
        {data.answers.map((row) => {
          const [about = ''] = row.layout.split(':')
          return (
            <li key={row.layout} title={row.layout}>
              {plainWords(about)}
              {!row.answer.startsWith('{') && `: ${row.answer}`}{' '}
              <span className="text-quiet">{row.by}</span>
            </li>
          )
        })}
      </ul>
      <button
        type="button"
        className="text-tide hover:underline"
        disabled={forgetting.isPending}
        onClick={() => forgetting.mutate()}
      >
        forget them, and ask anew
      </button>
      <ProblemNote problem={forgetting.error} />
    </section>
  )
}
