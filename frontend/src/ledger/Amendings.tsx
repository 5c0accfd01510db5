import type { Schemas } from '../api/client'
import { fieldWords } from './words'

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
