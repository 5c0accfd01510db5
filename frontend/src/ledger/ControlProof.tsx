import type { Schemas } from '../api/client'
import { useInspect } from './inspect'
import { amountWords, isNil } from './words'

type Proof = Schemas['ControlAnswer']

/** The control account against what its parties hold; where they differ, each cause with its entries. */
export function ControlProof({ proof }: { proof: Proof }) {
  const inspect = useInspect()
  if (isNil(proof.difference)) {
    return (
      <p className="text-moss">
        ✓ Parties hold {amountWords(proof.held)}, the control account stands there too.
      </p>
    )
  }
  return (
    <div>
      <p className="font-semibold text-rust">
        ≠ Parties hold {amountWords(proof.held)}, the control account stands at{' '}
        {amountWords(proof.control)}: {amountWords(proof.difference)} is nobody's.
      </p>
      <ul className="text-[13px]">
        {proof.causes.map((cause) => (
          <li key={cause.says}>
            {cause.says}
            {cause.amount !== null && ` ${amountWords(cause.amount)}`}:{' '}
            {cause.transactions.slice(0, 4).map((name) => (
              <button
                key={name}
                type="button"
                className="mr-2 text-tide hover:underline"
                onClick={() => inspect({ kind: 'transaction', name })}
              >
                {name}
              </button>
            ))}
            {cause.transactions.length > 4 && `and ${cause.transactions.length - 4} more`}
          </li>
        ))}
      </ul>
    </div>
  )
}
