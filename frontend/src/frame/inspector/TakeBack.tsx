import { Button } from '../../ui/Button'
import { PostPanel } from '../PostPanel'
import { useAct } from '../useAct'

interface TakeBackProps {
  change: number
  onCancel: () => void
}

/** Takes a change back by its inverse, with its effect seen beforehand. */
export function TakeBack({ change, onCancel }: TakeBackProps) {
  const acting = useAct({ act: { act: 'undo', number: change }, onDone: onCancel })
  return (
    <section aria-label={`Take change ${change} back`} className="border-t border-edge pt-3">
      <div className="mb-2 flex items-baseline justify-between">
        <h4 className="font-semibold">Take change {change} back</h4>
        <Button look="bare" onClick={onCancel}>
          Keep it
        </Button>
      </div>
      <PostPanel label="Post the inverse" acting={acting} />
    </section>
  )
}
