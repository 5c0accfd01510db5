import { dayWords } from '../ledger/words'
import { usePrinting } from '../ui/usePrinting'
import { useClient } from './queries'
import { useSpan } from './useSpan'

/** On paper alone: whose it is, the days that are looked at, and when it was printed. */
export function PrintedHead({ says }: { says: string }) {
  const client = useClient()
  const [span] = useSpan()
  if (!usePrinting()) return null
  return (
    <p className="mb-2 hidden print:block">
      <strong>{client.name}</strong> · {says} · {dayWords(span.first)} to {dayWords(span.last)} ·{' '}
      {client.currency} · printed {new Date().toLocaleString('en-GB')}
    </p>
  )
}
