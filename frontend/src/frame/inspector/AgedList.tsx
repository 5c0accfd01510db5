import { useSuspenseQuery } from '@tanstack/react-query'
import { answered, api } from '../../api/client'
import { Amount } from '../../ledger/Amount'
import { ControlProof } from '../../ledger/ControlProof'
import { useInspect } from '../../ledger/inspect'
import { longDayWords } from '../../ledger/words'
import { useClientCode } from '../useClientCode'
import { useSpan } from '../useSpan'

const HEADS = ['current', '1-30', '31-60', '61-90', 'over 90']

/** What is open by party and age, and whether it comes to the control account's balance. */
export function AgedList({ which }: { which: string }) {
  const client = useClientCode()
  const [span] = useSpan()
  const inspect = useInspect()
  const { data } = useSuspenseQuery({
    queryKey: ['client', client, 'aged', which, span.last],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/aged/{which}', {
          params: { path: { client, which }, query: { at: span.last } },
        }),
      ),
  })
  return (
    <div className="space-y-3">
      <div>
        <h3 className="font-display text-xl font-semibold">
          {which === 'receivables' ? 'What customers owe' : 'What is owed to suppliers'}
        </h3>
        <p className="text-quiet">
          as at {longDayWords(data.at)} · days past due · allocations dated by then only
        </p>
        <ControlProof proof={data.proof} />
      </div>
      <table className="w-full border-collapse text-[13px]">
        <caption className="sr-only">Aged list of {which}</caption>
        <thead>
          <tr className="border-b border-ink text-right text-deep">
            <th scope="col" className="py-1 text-left font-semibold">
              Party
            </th>
            {HEADS.map((head) => (
              <th key={head} scope="col" className="px-1 font-semibold">
                {head}
              </th>
            ))}
            <th scope="col" className="pl-1 font-semibold">
              Total
            </th>
          </tr>
        </thead>
        <tbody>
          {data.parties.map((party) => (
            <tr key={party.party ?? ''} className="h-7 border-b border-rule text-right">
              <th scope="row" className="text-left font-normal">
                {party.party ? (
                  <button
                    type="button"
                    className="text-left hover:text-tide hover:underline"
                    onClick={() => inspect({ kind: 'party', name: party.party ?? '' })}
                  >
                    {party.name}
                  </button>
                ) : (
                  <span className="text-rust">no party</span>
                )}
              </th>
              {HEADS.map((head) => (
                <td key={head} className="px-1">
                  <Amount value={party.buckets[head] ?? '0'} nil="" />
                </td>
              ))}
              <td className="pl-1 font-semibold">
                <Amount value={party.total} />
              </td>
            </tr>
          ))}
        </tbody>
        <tfoot>
          <tr className="h-8 border-t border-ink text-right font-semibold">
            <th scope="row" colSpan={6} className="text-left font-semibold">
              Total
            </th>
            <td>
              <Amount value={data.total} />
            </td>
          </tr>
        </tfoot>
      </table>
    </div>
  )
}
