import { useState } from 'react'
import type { Schemas } from '../../api/client'
import type { SlipFacts } from '../../ledger/Slip'
import { Button } from '../../ui/Button'
import { AskFields, type Said } from '../asks/AskFields'
import { beginning, isWhole } from '../asks/said'
import { OpenForThis } from '../OpenForThis'
import { PostPanel } from '../PostPanel'
import { useAct } from '../useAct'
import { useSpan } from '../useSpan'
import { Items } from './Items'

interface ByHandProps {
  way: Schemas['WayAnswer']
  slip: SlipFacts
  /** Its period, where it is barred and this person may have it opened for one posting. */
  openable: string[]
  onCancel: () => void
}

/** A route for what the person picked: the same preview and the same posting as for a point. */
export function ByHand({ way, slip, openable, onCancel }: ByHandProps) {
  const [span] = useSpan()
  const [party, setParty] = useState(
    () => slip.lines.find((line) => line.party)?.party ?? slip.party ?? '',
  )
  const [sums, setSums] = useState<Record<string, string>>({})
  const [first] = useState(() => beginning(way.asks, span.last))
  const [said, say] = useState<Said>(first)
  const [opens, open] = useState(false)
  const items = Object.entries(sums).map(([name, sum]) => (sum ? `${name}=${sum}` : name))
  const picks = way.asks.find((ask) => ask.kind === 'items' || ask.kind === 'items-in-parts')
  const { items: _, ...settings } = said
  const isSaid = Object.entries(said).some(([name, value]) => value.trim() !== first[name])
  const whole = isWhole(way.asks, { ...said, items: items.join(',') }) && (isSaid || !way.when_said)
  const acting = useAct({
    act: whole ? { act: 'by-hand', route: way.route, transaction: slip.id, items, settings } : null,
    opens,
    onDone: onCancel,
  })
  return (
    <section aria-label={way.title} className="border-t border-edge pt-3">
      <div className="mb-2 flex items-baseline justify-between">
        <h4 className="font-semibold">{way.title}</h4>
        <Button look="bare" onClick={onCancel}>
          Do nothing
        </Button>
      </div>
      <PostPanel label="Post" acting={acting}>
        <OpenForThis periods={openable} opens={opens} onChoose={open} />
        <AskFields
          asks={way.asks}
          said={said}
          onSay={(name, value) => say({ ...said, [name]: value })}
          focuses
        />
        {picks && (
          <Items
            slip={slip}
            party={party}
            withSums={picks.kind === 'items-in-parts'}
            sums={sums}
            onParty={(code) => {
              setParty(code)
              setSums({})
            }}
            onSums={setSums}
          />
        )}
      </PostPanel>
    </section>
  )
}
