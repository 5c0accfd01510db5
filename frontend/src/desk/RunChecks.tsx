import { Link } from 'react-router'
import { answered, api, type Schemas } from '../api/client'
import { amountWords } from '../ledger/words'
import { JobDialog } from './JobDialog'

interface RunChecksProps {
  clients: string[]
  onClose: () => void
}

/** Reads the books of several clients again and runs every check on them. */
export function RunChecks({ clients, onClose }: RunChecksProps) {
  return (
    <JobDialog
      title="Run the checks"
      begin={() => answered(api.POST('/api/checks', { body: { clients } }))}
      doing="Checking"
      report={(job) => job.checks}
      listed="What was found in each client"
      row={(found) => <Found key={found.client} found={found} />}
      onClose={onClose}
    />
  )
}

function Found({ found }: { found: Schemas['ClientCheckedAnswer'] }) {
  const levels = Object.entries(found.open)
  return (
    <li className="grid grid-cols-[220px_1fr_auto_auto] gap-3 border-b border-rule py-1.5">
      <strong className="font-semibold">{found.name}</strong>
      <span className={found.problem ? 'text-rust' : ''}>
        {found.problem
          ? found.problem
          : levels.length === 0
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
