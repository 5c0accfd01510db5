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

interface AskAboutProps {
  /** What it is about, in words. */
  about: string
  transactions: string[]
  onDone: () => void
}

/** A question to the client about entries: it gathers with the others on the Queries page. */
export function AskAbout({ about, transactions, onDone }: AskAboutProps) {
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
            transactions,
            back_on: session ? backOn(session.today, days) : null,
          },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      tell({ text: `${client.name}: the question about ${about} is ready to be sent.` })
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
        label={`What do you want to know about ${about}?`}
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
