import type { Schemas } from '../api/client'
import { counted } from '../ledger/words'

interface ProofsProps {
  held: number
  failed: Schemas['ProofAnswer'][]
}

/** The figures that the files have of themselves, against what was read. */
export function Proofs({ held, failed }: ProofsProps) {
  return (
    <section aria-label="Proofs">
      <h2 className="mb-2 border-b border-ink pb-1 font-semibold">Proofs</h2>
      {held + failed.length === 0 ? (
        <p className="text-quiet">
          The files have no totals and no balances of their own. That each entry balances is all
          that proves them.
        </p>
      ) : (
        <p className={`border-l-4 px-3 py-1 ${failed.length ? 'border-rust' : 'border-moss'}`}>
          {counted(held, 'figure')} of the files {held === 1 ? 'agrees' : 'agree'} with what was
          read{failed.length > 0 && `, ${failed.length} ${failed.length > 1 ? 'do' : 'does'} not`}.
        </p>
      )}
      {failed.length > 0 && (
        <table className="mt-2 w-full">
          <thead>
            <tr className="text-left text-quiet">
              <th className="font-normal">What</th>
              <th className="text-right font-normal">As read</th>
              <th className="text-right font-normal">As written</th>
              <th className="text-right font-normal">Difference</th>
              <th className="pl-6 font-normal">Where</th>
            </tr>
          </thead>
          <tbody>
            {failed.slice(0, 12).map((proof) => (
              <tr key={`${proof.what}${proof.where}`} className="border-t border-rule">
                <td>{proof.what}</td>
                <td className="text-right tabular-nums">{proof.ours}</td>
                <td className="text-right tabular-nums">{proof.theirs}</td>
                <td className="text-right text-rust tabular-nums">{proof.difference}</td>
                <td className="pl-6 text-quiet">{proof.where}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  )
}
