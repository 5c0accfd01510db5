import { useSuspenseQuery } from '@tanstack/react-query'
import { answered, api } from '../../api/client'
import { useInspect } from '../../ledger/inspect'
import { longDayWords } from '../../ledger/words'
import { chartOptions } from '../queries'
import { useClientCode } from '../useClientCode'
import { useSpan } from '../useSpan'
import { Movements } from './Movements'

/** One account in the months being looked at, with the way to its aged list where it has one. */
export function AccountMovements({ code }: { code: string }) {
  const client = useClientCode()
  const [span] = useSpan()
  const inspect = useInspect()
  const { first, last } = span
  const { data: ledger } = useSuspenseQuery({
    queryKey: ['client', client, 'account', code, first, last],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/accounts/{account}', {
          params: { path: { client, account: code }, query: { first, last } },
        }),
      ),
  })
  const { data: chart } = useSuspenseQuery(chartOptions(client, last))
  const account = chart.accounts.find((one) => one.code === code)
  const aged = account && /^(receivables|payables)$/.test(account.role) ? account.role : null
  return (
    <div className="space-y-3">
      <div>
        <h3 className="font-display text-xl font-semibold">
          {code} {ledger.name}
        </h3>
        <p className="text-quiet">
          {account?.type}
          {account?.role && `, ${account.role.replace(/-/g, ' ')}`} · {longDayWords(first)} to{' '}
          {longDayWords(last)}, by posting date, closing entries in it
        </p>
        {aged && (
          <button
            type="button"
            className="font-semibold text-tide hover:underline"
            onClick={() => inspect({ kind: 'aged', name: aged })}
          >
            Who owes what: the aged list
          </button>
        )}
      </div>
      {ledger.statements.length > 0 && (
        <p>
          Statements kept with the books:{' '}
          {ledger.statements.map((kept) => (
            <a
              key={kept.digest}
              className="mr-3 text-tide hover:underline"
              href={`/api/clients/${encodeURIComponent(client)}/papers/${kept.digest}`}
            >
              {kept.name}
            </a>
          ))}
        </p>
      )}
      <Movements ledger={ledger} caption={`Movements of ${ledger.name}`} />
    </div>
  )
}
