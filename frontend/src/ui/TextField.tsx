import { type ComponentProps, type ReactNode, useId } from 'react'

const FIELD =
  'w-full border border-edge bg-sheet px-2.5 py-1.5 text-ink aria-invalid:border-rust disabled:bg-wash'

interface TextFieldProps extends ComponentProps<'input'> {
  label: ReactNode
  error?: string | null
  hint?: ReactNode
  hideLabel?: boolean
}

export function TextField({
  label,
  error,
  hint,
  hideLabel = false,
  className = '',
  ...rest
}: TextFieldProps) {
  const id = useId()
  return (
    <div className={className}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'block text-quiet'}>
        {label}
      </label>
      <input
        id={id}
        className={FIELD}
        aria-invalid={error ? true : undefined}
        aria-describedby={error || hint ? `${id}-says` : undefined}
        {...rest}
      />
      <FieldSays id={`${id}-says`} error={error} hint={hint} />
    </div>
  )
}

interface TextAreaProps extends ComponentProps<'textarea'> {
  label: ReactNode
  error?: string | null
  hint?: ReactNode
  hideLabel?: boolean
}

export function TextArea({
  label,
  error,
  hint,
  hideLabel = false,
  className = '',
  ...rest
}: TextAreaProps) {
  const id = useId()
  return (
    <div className={className}>
      <label htmlFor={id} className={hideLabel ? 'sr-only' : 'block text-quiet'}>
        {label}
      </label>
      <textarea
        id={id}
        className={`${FIELD} block resize-none field-sizing-content`}
        aria-invalid={error ? true : undefined}
        aria-describedby={error || hint ? `${id}-says` : undefined}
        rows={1}
        {...rest}
      />
      <FieldSays id={`${id}-says`} error={error} hint={hint} />
    </div>
  )
}

function FieldSays({ id, error, hint }: { id: string; error?: string | null; hint?: ReactNode }) {
  if (!error && !hint) return null
  return (
    <p id={id} className={error ? 'mt-1 text-rust' : 'mt-1 text-quiet'}>
      {error ?? hint}
    </p>
  )
}
