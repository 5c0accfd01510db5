import type { Schemas } from '../api/client'
import { TextField } from '../ui/TextField'
import { Remembered } from './Remembered'
import type { Whose } from './useListings'

const ENTITIES = [
  ['sole-trader', 'Sole trader'],
  ['partnership', 'Partnership'],
  ['company', 'Company'],
  ['association', 'Association'],
] as const
const FIELD = 'w-full border border-edge bg-sheet px-2 py-1.5'

interface WhoseBooksProps {
  whose: Whose
  clients: Schemas['ClientRow'][]
  /** What speaks for the kind of client that is proposed. */
  why: string | null
  onChange: (whose: Whose) => void
}

/** A new client, as its files propose it, or one of the practice's. */
export function WhoseBooks({ whose, clients, why, onChange }: WhoseBooksProps) {
  const set = (part: Partial<Whose['new']>) =>
    onChange({ ...whose, new: { ...whose.new, ...part } })
  return (
    <section aria-label="Whose books" className="space-y-3">
      <label className="block">
        <span className="block text-quiet">Whose they are</span>
        <select
          className={FIELD}
          value={whose.client ?? ''}
          onChange={(event) => onChange({ ...whose, client: event.target.value || null })}
        >
          <option value="">a new client</option>
          {clients.map((row) => (
            <option key={row.code} value={row.code}>
              {row.name}
            </option>
          ))}
        </select>
      </label>
      {whose.client !== null && <Remembered client={whose.client} />}
      {whose.client === null && (
        <>
          <TextField
            label="Name"
            value={whose.new.name}
            onChange={(event) => set({ name: event.target.value })}
          />
          <div className="grid grid-cols-2 gap-3">
            <TextField
              label="Short name"
              value={whose.new.code}
              onChange={(event) => set({ code: event.target.value.toUpperCase() })}
            />
            <TextField
              label="Currency"
              value={whose.new.currency}
              onChange={(event) => set({ currency: event.target.value.toUpperCase() })}
            />
          </div>
          <div className="grid grid-cols-2 gap-3">
            <label className="block">
              <span className="block text-quiet">It is a</span>
              <select
                className={FIELD}
                value={whose.new.entity}
                onChange={(event) => set({ entity: event.target.value as Whose['new']['entity'] })}
              >
                {ENTITIES.map(([value, says]) => (
                  <option key={value} value={value}>
                    {says}
                  </option>
                ))}
              </select>
            </label>
            <TextField
              label="Year ends on"
              placeholder="12-31"
              value={whose.new.year_end}
              onChange={(event) => set({ year_end: event.target.value })}
            />
          </div>
          {why && <p className="text-quiet">Proposed, as {why}. Month and day: 12-31.</p>}
        </>
      )}
    </section>
  )
}
