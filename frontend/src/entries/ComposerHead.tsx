import { type ReactNode, useId } from 'react'
import type { Schemas } from '../api/client'
import { dayWords } from '../ledger/words'
import type { Composed, Keyed } from './composed'

interface ComposerHeadProps {
  entry: Keyed
  worked: Schemas['ComposedAnswer'] | undefined
  onChange: (entry: Keyed) => void
}

const KINDS: Composed['kind'][] = ['adjusting', 'correcting', 'reclassifying']
const FIELD = 'w-full border-b border-ink bg-transparent px-0.5 py-1 text-[15px]'

/** What the whole entry has: kind, dates, reference, reason. */
export function ComposerHead({ entry, worked, onChange }: ComposerHeadProps) {
  return (
    <div className="grid grid-cols-[150px_170px_220px_1fr] gap-x-6">
      <Field label="Kind">
        {(id) => (
          <select
            id={id}
            className={FIELD}
            value={entry.kind}
            onChange={(event) =>
              onChange({ ...entry, kind: event.target.value as Composed['kind'] })
            }
          >
            {KINDS.map((kind) => (
              <option key={kind}>{kind}</option>
            ))}
          </select>
        )}
      </Field>
      <Field
        label="Date"
        says={worked?.date ? `${dayWords(worked.date)}, ${worked.state}` : worked?.faults[0]}
        isWrong={!worked?.date}
      >
        {(id) => (
          <input
            id={id}
            className={FIELD}
            data-wanted
            placeholder="31.12, pe, ye"
            value={entry.date}
            onChange={(event) => onChange({ ...entry, date: event.target.value })}
          />
        )}
      </Field>
      <Field
        label="Reverses on"
        says={
          worked?.reverse_on
            ? dayWords(worked.reverse_on)
            : entry.reverse_on
              ? 'no day yet'
              : 'it stands'
        }
      >
        {(id) => (
          <span className="flex items-baseline gap-2">
            <input
              id={id}
              className={FIELD}
              value={entry.reverse_on}
              onChange={(event) => onChange({ ...entry, reverse_on: event.target.value })}
            />
            {!entry.reverse_on && (
              <button
                type="button"
                className="shrink-0 text-tide hover:underline"
                onClick={() => onChange({ ...entry, reverse_on: 'np' })}
              >
                next period
              </button>
            )}
          </span>
        )}
      </Field>
      <Field label="Own reference">
        {(id) => (
          <input
            id={id}
            className={FIELD}
            value={entry.reference}
            onChange={(event) => onChange({ ...entry, reference: event.target.value })}
          />
        )}
      </Field>
      {(worked?.makes_item || entry.document_date || entry.due_date) && (
        <>
          <Day
            label="Day on the paper"
            read={worked?.document_date ?? null}
            keyed={entry.document_date ?? ''}
            empty="the same day"
            onChange={(text) => onChange({ ...entry, document_date: text })}
          />
          <Day
            label="Due on"
            read={worked?.due_date ?? null}
            keyed={entry.due_date ?? ''}
            empty="at once"
            onChange={(text) => onChange({ ...entry, due_date: text })}
          />
          <span className="col-span-2" />
        </>
      )}
      <Field label="Reason, printed in the pack" className="col-span-4">
        {(id) => (
          <input
            id={id}
            data-wanted
            className={FIELD}
            value={entry.reason}
            onChange={(event) => onChange({ ...entry, reason: event.target.value })}
          />
        )}
      </Field>
    </div>
  )
}

interface DayProps {
  label: string
  read: string | null
  keyed: string
  empty: string
  onChange: (text: string) => void
}

/** A day of the paper behind an open item, in the same short forms as any day. */
function Day({ label, read, keyed, empty, onChange }: DayProps) {
  return (
    <Field label={label} says={read ? dayWords(read) : keyed ? 'no day yet' : empty}>
      {(id) => (
        <input
          id={id}
          className={FIELD}
          value={keyed}
          onChange={(event) => onChange(event.target.value)}
        />
      )}
    </Field>
  )
}

interface FieldProps {
  label: string
  says?: string
  isWrong?: boolean
  className?: string
  children: (id: string) => ReactNode
}

function Field({ label, says, isWrong = false, className, children }: FieldProps) {
  const id = useId()
  return (
    <div className={className}>
      <label htmlFor={id} className="block text-quiet">
        {label}
      </label>
      {children(id)}
      {!className && (
        <p className={`min-h-5 text-[13px] ${isWrong ? 'text-rust' : 'text-quiet'}`}>{says}</p>
      )}
    </div>
  )
}
