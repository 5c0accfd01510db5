import { useMutation } from '@tanstack/react-query'
import { answered, api } from '../api/client'
import { useClient, useRefreshClient } from '../frame/queries'
import { dayWords } from '../ledger/words'
import { ProblemNote } from '../ui/ProblemNote'
import type { SignOff } from './queries'

/** What no figure proves and somebody has to see to, by the kind of client. */
export function Checklist({ signOff }: { signOff: SignOff }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tick = useMutation({
    mutationFn: (ticked: { item: string; done: boolean }) =>
      answered(
        api.POST('/api/clients/{client}/checklist', {
          params: { path: { client: client.code } },
          body: { as_at: signOff.as_at, ...ticked },
        }),
      ),
    onSuccess: refresh,
  })
  return (
    <section aria-label="Checklist">
      <h2 className="mb-1 font-sans font-semibold text-deep">
        Checklist, {client.entity.replace('-', ' ')}
      </h2>
      <ul className="border-t border-ink">
        {signOff.checklist.map((row) => (
          <li key={row.item} className="border-b border-rule py-1">
            <label className="flex items-baseline gap-2.5">
              <input
                type="checkbox"
                className="translate-y-0.5"
                checked={row.at !== null}
                disabled={tick.isPending || signOff.sealed}
                onChange={(event) => tick.mutate({ item: row.item, done: event.target.checked })}
              />
              <span className="grow">{row.says}</span>
              {row.at && (
                <span className="text-quiet">
                  {row.by}, {dayWords(row.at)}
                </span>
              )}
            </label>
          </li>
        ))}
      </ul>
      <ProblemNote problem={tick.error} />
    </section>
  )
}
