import type { Schemas } from '../api/client'
import { fieldWords, plainWords } from './words'

/** Fields of accounts that are put right, or confirmed as they are. */
export function ChartAmendings({ rows }: { rows: Schemas['ChartAmendingAnswer'][] }) {
  const most = 8
  return (
    <>
      {rows.slice(0, most).map((row) => (
        <p key={`${row.account} ${row.field}`}>
          {row.account}, {plainWords(row.field.replace('_', ' '))}:{' '}
          {row.before !== row.after && (
            <>
              <del className="text-rust">{said(row.before)}</del>{' '}
            </>
          )}
          <ins className="font-semibold no-underline">{said(row.after)}</ins>
          {row.before === row.after && ' confirmed'}
        </p>
      ))}
      {rows.length > most && <p className="text-quiet">and {rows.length - most} more</p>}
    </>
  )
}

/** Parties that are to be read as others. */
export function Merges({ rows }: { rows: Schemas['MergeAnswer'][] }) {
  return rows.map((row) => (
    <p key={row.party}>
      {row.party}:{' '}
      {row.read_as === null ? (
        <>stands for itself again as {row.name}</>
      ) : (
        <>
          <del className="text-rust">{row.name}</del> is read as{' '}
          <ins className="font-semibold no-underline">{row.read_as}</ins> ({row.after})
        </>
      )}
    </p>
  ))
}

function said(value: string | null): string {
  return value ? plainWords(value) : 'none'
}

interface AmendingsProps {
  rows: Schemas['AmendingAnswer'][]
}

/** Words that are put right: what stands struck through, what will stand after it. */
export function Amendings({ rows }: AmendingsProps) {
  return rows.map((row) => (
    <p key={`${row.transaction} ${row.field}`}>
      {row.transaction}, {fieldWords(row.field)}:{' '}
      <del className="text-rust">{row.before ?? 'none'}</del>{' '}
      <ins className="font-semibold no-underline">{row.after ?? 'none'}</ins>
    </p>
  ))
}
