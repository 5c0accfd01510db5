import { useMutation, useQuery } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { useKeys } from '../ui/keys'
import { useNotice } from '../ui/notice'
import { ProblemNote } from '../ui/ProblemNote'

/** The message as the client will read it, and sending it. */
export function Letter({ numbers, onDone }: { numbers: number[]; onDone: () => void }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const asked = { params: { path: { client: client.code } }, body: { queries: numbers } }
  const { data: letter, error } = useQuery({
    queryKey: ['client', client.code, 'letter', numbers],
    queryFn: () => answered(api.POST('/api/clients/{client}/queries/letter', asked)),
    retry: false,
  })
  const sending = useMutation({
    mutationFn: () => answered(api.POST('/api/clients/{client}/queries/sending', asked)),
    onSuccess: async (sent) => {
      await refresh()
      tell({ text: `${counted(numbers.length, 'question')} went to ${sent.to.name}.` })
      onDone()
    },
  })
  const ready = letter !== undefined && !sending.isPending
  useKeys('The message', [
    { keys: 'Control+Enter', does: 'send it', run: () => ready && sending.mutate() },
  ])
  return (
    <div className="space-y-3">
      <ProblemNote problem={error ?? sending.error} />
      {letter && (
        <div className="border border-edge bg-sheet px-4 py-3">
          <p>
            <span className="text-quiet">To</span> {letter.to.name}, {letter.to.email}
          </p>
          <p>
            <span className="text-quiet">Subject</span> <strong>{letter.subject}</strong>
          </p>
          <pre className="mt-3 max-h-[46vh] overflow-auto border-t border-rule pt-3 font-sans whitespace-pre-wrap">
            {letter.body}
          </pre>
        </div>
      )}
      <div className="flex items-center gap-3">
        <Button look="post" hint="Ctrl ↵" disabled={!ready} onClick={() => sending.mutate()}>
          {sending.isPending ? 'Sending…' : 'Send it'}
        </Button>
        <span className="text-quiet">
          The dots in the subject become a mark by which the answer is known.
        </span>
      </div>
    </div>
  )
}
