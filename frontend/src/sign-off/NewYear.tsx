import { useClient } from '../frame/queries'
import { ConditionRows } from './ConditionRows'
import type { SignOff } from './queries'

/** What the year after the one that is signed begins with, and what it still wants. */
export function NewYear({ signOff }: { signOff: SignOff }) {
  const client = useClient()
  if (signOff.new_year.length === 0) return null
  const wants = signOff.new_year.filter((need) => !need.met).length
  return (
    <section aria-label="The next year">
      <h2 className="mb-1 flex items-baseline font-sans font-semibold text-deep">
        <span className="grow">What the year after {client.year.label} begins with</span>
        <span className="font-normal text-quiet">
          {wants === 0 ? 'nothing is missing' : `${wants} of ${signOff.new_year.length} missing`}
        </span>
      </h2>
      <ul className="border-t border-ink">
        <ConditionRows conditions={signOff.new_year} />
      </ul>
    </section>
  )
}
