import { Link } from 'react-router'
import { answered, api, ProblemError, type Schemas } from '../api/client'
import { amountWords, counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { ProblemNote } from '../ui/ProblemNote'
import { useJob } from './useJob'

interface RunChecksProps {
  clients: string[]
  onClose: () => void
}

/** Reads the books of several clients again and runs every check on them; it goes on when this closes. */
export function RunChecks({ clients, onClose }: RunChecksProps) {
  const { progress, problem } = useJob(() =>
    answered(api.POST('/api/checks', { body: { clients } })),
  )
  const report = progress?.checks
  return (
    <Dialog title="Run the checks" onClose={onClose}>
      <div className="space-y-3">
        <ProblemNote problem={problem} />
        {progress?.problem && <ProblemNote problem={new ProblemError(progress.problem, 422)} />}
        {!report && !progress?.problem && !problem && (
          <p role="status">
            Checking {progress?.progress || counted(clients.length, 'client')} … You may close this;
            it goes on.
          </p>
        )}
        {report && (
          <>
            <ul aria-label="What was found in each client" className="border-t border-ink">
              {report.map((one) => (
                <Found key={one.client} found={one} />
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

function Found({ found }: { found: Schemas['ClientCheckedAnswer'] }) {
  const levels = Object.entries(found.open)
  return (
    <li className="grid grid-cols-[220px_1fr_auto_auto] gap-3 border-b border-rule py-1.5">
      <strong className="font-semibold">{found.name}</strong>
      <span>
        {levels.length === 0
          ? 'nothing to decide'
          : levels.map(([level, count]) => `${count} ${level}`).join(', ')}
      </span>
      <span className="text-right">{levels.length > 0 && amountWords(found.at_stake)}</span>
      <Link className="text-tide hover:underline" to={`/clients/${found.client}/review`}>
        Review
      </Link>
    </li>
  )
}
