import type { Schemas } from '../api/client'

/** A change of ours as the client's bookkeeper is told it. */
export function PlainWords({ told }: { told: Schemas['ExplainedAnswer'] }) {
  return (
    <div className="space-y-0.5">
      {told.about.length > 0 && <p className="text-quiet">About {told.about.join('; ')}.</p>}
      <p>
        {told.did} {sentence(told.reason)}
      </p>
      {told.moves.length > 0 && <p>{sentence(upper(told.moves.join('; ')))}</p>}
      <p className="font-semibold">{told.means}</p>
    </div>
  )
}

function sentence(text: string): string {
  return /[.!?]$/.test(text) ? text : `${text}.`
}

function upper(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1)
}
