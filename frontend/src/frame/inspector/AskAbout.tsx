import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../../api/client'
import { Button } from '../../ui/Button'
import { useKeys } from '../../ui/keys'
import { useNotice } from '../../ui/notice'
import { ProblemNote } from '../../ui/ProblemNote'
import { TextArea } from '../../ui/TextField'
import { BackAfter } from '../asking/BackAfter'
import { backOn, USUAL_WAIT } from '../asking/backOn'
import { useClient, useRefreshClient } from '../queries'
import { sessionOptions } from '../session'

/** A question to the client about an entry: it gathers with the others on the Queries page. */
export function AskAbout({ transaction, onDone }: { transaction: string; onDone: () => void }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const { data: session } = useQuery(sessionOptions)
  const [question, say] = useState('')
  const [days, wait] = useState<number | null>(USUAL_WAIT)
  const asking = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/queries', {
          params: { path: { client: client.code } },
          body: {
            question,
            transactions: [transaction],
            back_on: session ? backOn(session.today, days) : null,
          },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      tell({ text: `${client.name}: the question about ${transaction} is ready to be sent.` })
      onDone()
    },
  })
  useKeys('The question', [
    { keys: 'Control+Enter', does: 'keep it', run: () => question.trim() && asking.mutate() },
  ])
  return (
    <div className="space-y-2">
      <TextArea
        autoFocus
        label={`What do you want to know about ${transaction}?`}
        value={question}
        onChange={(event) => say(event.target.value)}
      />
      <p className="flex items-center gap-3">
        <Button
          look="post"
          hint="Ctrl ↵"
          disabled={!question.trim() || asking.isPending}
          onClick={() => asking.mutate()}
        >
          Ask
        </Button>
        <BackAfter value={days} onChoose={wait} />
        <Button look="bare" onClick={onDone}>
          Cancel
        </Button>
      </p>
      <ProblemNote problem={asking.error} />
    </div>
  )
}
