import { RadioGroup } from 'radix-ui'
import type { Prepared } from './queries'

interface RouteListProps {
  prepared: Prepared[]
  chosen: number
  onChoose: (place: number) => void
}

/** The ways to go: each says what it does, on which date and why. */
export function RouteList({ prepared, chosen, onChoose }: RouteListProps) {
  return (
    <RadioGroup.Root
      aria-label="Routes"
      className="border-t border-edge"
      value={`${chosen}`}
      onValueChange={(value) => onChoose(Number(value))}
    >
      {prepared.map((way, place) => (
        <RadioGroup.Item
          key={`${way.route} ${way.title}`}
          value={`${place}`}
          className="group grid w-full grid-cols-[22px_270px_minmax(0,1fr)_auto] gap-x-2 border-b border-rule px-1 py-1.5 text-left leading-[19px] data-[state=checked]:bg-wash"
        >
          <span className="mt-[3px] size-[13px] rounded-full border-[1.6px] border-quiet group-data-[state=checked]:border-4 group-data-[state=checked]:border-tide" />
          <span className="group-data-[state=checked]:font-semibold">{way.title}</span>
          <span
            className={`truncate group-data-[state=checked]:whitespace-normal ${way.refused ? 'text-rust' : 'text-quiet'}`}
          >
            {way.refused ?? way.preview?.notes.join('; ') ?? way.does}
          </span>
          <span aria-hidden="true" className="text-quiet">
            {place + 1}
          </span>
        </RadioGroup.Item>
      ))}
    </RadioGroup.Root>
  )
}
