import { PostPanel } from '../frame/PostPanel'
import { useAct } from '../frame/useAct'
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
  const acting = useAct({ act: { act: 'by-hand', ...deed }, onDone })
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
      <PostPanel label={label} acting={acting} />
    </section>
  )
}
