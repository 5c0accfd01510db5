import { Link } from 'react-router'
import { answered, api, ProblemError, type Schemas } from '../api/client'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { ProblemNote } from '../ui/ProblemNote'
import { useJob } from './useJob'

interface AskBankProps {
  clients: string[]
  onClose: () => void
}

/** Asks the bank for the statements of several clients; it goes on when one fails, or this closes. */
export function AskBank({ clients, onClose }: AskBankProps) {
  const { progress, problem } = useJob(() =>
    answered(api.POST('/api/statements', { body: { clients } })),
  )
  const report = progress?.statements
  return (
    <Dialog title="Take in statements from the bank" onClose={onClose}>
      <div className="space-y-3">
        <ProblemNote problem={problem} />
        {progress?.problem && <ProblemNote problem={new ProblemError(progress.problem, 422)} />}
        {!report && !progress?.problem && !problem && (
          <p role="status">
            Asking the bank: {progress?.progress || counted(clients.length, 'client')} … You may
            close this; it goes on.
          </p>
        )}
        {report && (
          <>
            <ul aria-label="What came of each client" className="border-t border-ink">
              {report.map((one) => (
                <Fed key={one.client} fed={one} />
              ))}
            </ul>
            <Button look="post" onClick={onClose}>
              Back to the desk
            </Button>
          </>
        )}
      </div>
    </Dialog>
  )
}

function Fed({ fed }: { fed: Schemas['ClientFedAnswer'] }) {
  return (
    <li className="grid grid-cols-[220px_1fr_auto] gap-3 border-b border-rule py-1.5">
      <strong className="font-semibold">{fed.name}</strong>
      <span>
        {fed.problem ? (
          <span className="text-rust">{fed.problem}</span>
        ) : fed.new > 0 ? (
          `${counted(fed.new, 'new line')}, ${fed.already} known`
        ) : (
          'nothing new'
        )}
        {fed.settled.map((done) => (
          <span key={done} className="block text-moss">
            ✓ {done}
          </span>
        ))}
        {fed.warnings.map((warning) => (
          <span key={warning} className="block text-quiet">
            {warning}
          </span>
        ))}
      </span>
      {fed.new > 0 && (
        <Link className="text-tide hover:underline" to={`/clients/${fed.client}/bank`}>
          Agree them
        </Link>
      )}
    </li>
  )
}
