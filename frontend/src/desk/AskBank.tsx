import { Link } from 'react-router'
import { answered, api, type Schemas } from '../api/client'
import { counted } from '../ledger/words'
import { JobDialog } from './JobDialog'

interface AskBankProps {
  clients: string[]
  onClose: () => void
}

/** Asks the bank for the statements of several clients; one that fails stops no other. */
export function AskBank({ clients, onClose }: AskBankProps) {
  return (
    <JobDialog
      title="Take in statements from the bank"
      begin={() => answered(api.POST('/api/statements', { body: { clients } }))}
      doing="Asking the bank:"
      report={(job) => job.statements}
      listed="What came of each client"
      row={(fed) => <Fed key={fed.client} fed={fed} />}
      onClose={onClose}
    />
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
