import { useQuery } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { PostPanel } from '../frame/PostPanel'
import { useClient } from '../frame/queries'
import { usePosting } from '../frame/usePosting'
import { useSpan } from '../frame/useSpan'
import { Button } from '../ui/Button'

export interface Deed {
  route: 'allocate' | 'move-allocation'
  transaction: string
  items: string[]
  settings: Record<string, string>
}

interface PreparedProps {
  deed: Deed
  onDone: () => void
}

/** What tying or taking off would post: seen first, then posted by Ctrl+Enter. */
export function Prepared({ deed, onDone }: PreparedProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data: preview, error } = useQuery({
    queryKey: ['client', client.code, 'by hand', deed, span.last],
    queryFn: () =>
      answered(
        api.POST('/api/clients/{client}/by-hand/preview', {
          params: { path: { client: client.code } },
          body: { ...deed, at: span.last },
        }),
      ),
    retry: false,
  })
  const posting = usePosting({
    client: client.name,
    send: (asked: { reason: string; shown: string }, key) =>
      answered(
        api.POST('/api/clients/{client}/by-hand', {
          params: { path: { client: client.code } },
          body: { ...deed, ...asked, key },
        }),
      ),
    handIn: (asked) => (preview?.held ? { act: { act: 'by-hand', ...deed }, ...asked } : null),
    onDone,
  })
  const ties = deed.items.length > 0
  const label = deed.route === 'allocate' ? 'Allocate' : ties ? 'Move it' : 'Take it off'
  return (
    <section aria-label="What is prepared" className="border-t border-edge pt-3">
      <div className="mb-2 flex items-baseline justify-between">
        <h3 className="text-[17px] font-semibold">
          {ties
            ? `Set ${deed.transaction} against ${deed.items.join(', ')}`
            : `Take what ${deed.transaction} settles off it`}
        </h3>
        <Button look="bare" hint="Esc" onClick={onDone}>
          Do nothing
        </Button>
      </div>
      <PostPanel
        label={label}
        preview={preview}
        problem={error ?? posting.error}
        busy={posting.isPending}
        onPost={(reason) => preview && posting.mutate({ reason, shown: preview.digest })}
      />
    </section>
  )
}
