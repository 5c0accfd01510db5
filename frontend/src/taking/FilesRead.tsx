import type { Schemas } from '../api/client'
import { counted } from '../ledger/words'
import type { Answers } from './useListings'

type FileRead = Schemas['FileReadAnswer']

const READ_AS: Record<string, string> = {
  ledger: 'a ledger',
  'trial-balance': 'a trial balance',
  'open-items': 'open items',
  accounts: 'a chart of accounts',
  parties: 'customers or suppliers',
  'no-table': 'words alone, passed over',
  'bank-statement': 'a bank statement, taken in after the books',
}
const ROLES: Record<string, string> = {
  day: 'date',
  document_day: 'date of the paper',
  due: 'due date',
  number: 'entry number',
  reference: 'paper’s number',
  journal: 'journal',
  account: 'account',
  account_name: 'account’s name',
  contra: 'contra account',
  debit_account: 'debit account',
  credit_account: 'credit account',
  party: 'customer or supplier',
  party_name: 'their name',
  text: 'text',
  debit: 'debit',
  credit: 'credit',
  amount: 'amount',
  mark: 'debit or credit',
  balance: 'balance',
  tax_code: 'tax code',
  entered_by: 'keyed by',
  entered_at: 'keyed on',
  currency: 'currency',
  foreign: 'foreign amount',
  type: 'account’s type',
  kind: 'kind of party',
  opening: 'opening',
  opening_debit: 'opening debit',
  opening_credit: 'opening credit',
  closing: 'closing',
  closing_debit: 'closing debit',
  closing_credit: 'closing credit',
  open: 'open amount',
  paid: 'paid',
}

interface FilesReadProps {
  files: FileRead[]
  answers: Answers
  /** Says which column is what, as an answer. */
  onColumns: (id: string, value: string) => void
}

/** Each file's first rows, under what its columns were taken for: any of it can be changed. */
export function FilesRead({ files, answers, onColumns }: FilesReadProps) {
  return files.map((file) => (
    <section key={file.says} aria-label={file.says}>
      <h2 className="mb-1 border-b border-ink pb-1 font-semibold">
        {file.says}: {READ_AS[file.read_as]}
      </h2>
      <p className="mb-2 text-quiet">
        {file.used} of {counted(file.rows, 'row')} read
        {file.first && file.last && `, ${file.first} to ${file.last}`}
        {file.passed_over.map((row) => `; ${row.count} ${row.why}`)}
        {file.how.length > 0 && <span className="block">Read with {file.how.join(', ')}.</span>}
      </p>
      {file.names.length > 0 && (
        <div className="overflow-x-auto border border-rule bg-sheet">
          <table className="text-[14px]">
            <thead>
              <tr>
                {file.names.map((name, place) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
                  <th key={place} className="border-b border-rule px-2 py-1 text-left align-bottom">
                    <Column
                      name={name || `column ${place + 1}`}
                      place={place}
                      places={placesOf(file, answers)}
                      onPlaces={(places) => onColumns(columnsOf(file), JSON.stringify(places))}
                    />
                    <span className="block font-normal text-quiet">{name}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {file.sample.map((row, number) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place
                <tr key={number} className="border-t border-rule">
                  {file.names.map((_, place) => (
                    // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place
                    <td key={place} className="px-2 py-0.5 whitespace-nowrap tabular-nums">
                      {row[place] ?? ''}
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  ))
}

function columnsOf(file: FileRead): string {
  return `columns:${file.says}`
}

/** Which column is what: as a person said it last, else as it was read. */
function placesOf(file: FileRead, answers: Answers): Record<string, number> {
  const said = answers[columnsOf(file)]
  return said ? JSON.parse(said) : file.places
}

interface ColumnProps {
  name: string
  place: number
  places: Record<string, number>
  onPlaces: (places: Record<string, number>) => void
}

function Column({ name, place, places, onPlaces }: ColumnProps) {
  const role = Object.keys(places).find((one) => places[one] === place) ?? ''
  return (
    <select
      aria-label={`What ${name} is`}
      className={`max-w-40 border-none bg-transparent font-semibold ${role ? 'text-ink' : 'text-quiet'}`}
      value={role}
      onChange={(event) => {
        const kept = Object.entries(places).filter(
          ([one, at]) => at !== place && one !== event.target.value,
        )
        const said = event.target.value ? [[event.target.value, place] as const] : []
        onPlaces(Object.fromEntries([...kept, ...said]))
      }}
    >
      <option value="">not read</option>
      {Object.entries(ROLES).map(([value, says]) => (
        <option key={value} value={value}>
          {says}
        </option>
      ))}
    </select>
  )
}
