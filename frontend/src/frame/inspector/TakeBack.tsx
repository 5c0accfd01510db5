import { useQuery } from '@tanstack/react-query'
import { answered, api } from '../../api/client'
import { Button } from '../../ui/Button'
import { PostPanel } from '../PostPanel'
import { useClient } from '../queries'
import { usePosting } from '../usePosting'
import { useSpan } from '../useSpan'

interface TakeBackProps {
  change: number
  onCancel: () => void
}

/** Takes a change back by its inverse, with its effect seen beforehand. */
export function TakeBack({ change, onCancel }: TakeBackProps) {
  const client = useClient()
  const [span] = useSpan()
  const path = { client: client.code, number: change }
  const { data: preview, error } = useQuery({
    queryKey: ['client', client.code, 'undo', change, span.last],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/changes/{number}/undo/preview', {
          params: { path },
          body: { at: span.last },
        }),
      ),
    retry: false,
  })
  const posting = usePosting({
    client: client.name,
    send: (asked: { reason: string; shown: string }, key) =>
      answered(
        api.POST('/api/clients/{client}/changes/{number}/undo', {
          params: { path },
          body: { ...asked, key },
        }),
      ),
    handIn: (asked) => (preview?.held ? { act: { act: 'undo', number: change }, ...asked } : null),
    onDone: onCancel,
  })
  return (
    <section aria-label={`Take change ${change} back`} className="border-t border-edge pt-3">
      <div className="mb-2 flex items-baseline justify-between">
        <h4 className="font-semibold">Take change {change} back</h4>
        <Button look="bare" onClick={onCancel}>
          Keep it
        </Button>
      </div>
      <PostPanel
        label="Post the inverse"
        preview={preview}
        problem={error ?? posting.error}
        busy={posting.isPending}
        onPost={(reason) => preview && posting.mutate({ reason, shown: preview.digest })}
      />
    </section>
  )
}
