import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answered, api } from '../api/client'
import { dayWords } from '../ledger/words'
import { TextField } from '../ui/TextField'
import { useSettled } from '../ui/useSettled'
import { useClientCode } from './useClientCode'
import { useSpan } from './useSpan'

interface DayFieldProps {
  label: string
  /** The day that was read last, or empty. */
  value: string
  /** Called with each day that is read; with nothing while what is keyed is no day. */
  onDay: (day: string) => void
  className?: string
}

/** A day in any of the short forms that are read everywhere: `5.9`, `31 dec`, `pe`. */
export function DayField({ label, value, onDay, className }: DayFieldProps) {
  const client = useClientCode()
  const [span] = useSpan()
  const [keyed, key] = useState<{ text: string; near: string } | null>(null)
  const settled = useSettled(keyed, 150)
  const { data } = useQuery({
    queryKey: ['client', client, 'day', settled],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/day', {
          params: { path: { client }, query: settled ?? { text: '', near: span.last } },
        }),
      ),
    enabled: Boolean(settled?.text.trim()),
    staleTime: Number.POSITIVE_INFINITY,
  })
  const read = settled === keyed && settled?.text.trim() ? data : undefined
  const day = read?.day ?? ''
  // biome-ignore lint/correctness/useExhaustiveDependencies: only what is read anew is told
  useEffect(() => {
    if (keyed && read && day !== value) onDay(day)
  }, [keyed, read, day])
  return (
    <TextField
      className={className}
      label={label}
      placeholder="31.12, pe, ye"
      value={keyed?.text ?? (value && dayWords(value))}
      error={read?.fault}
      hint={keyed ? day && dayWords(day) : undefined}
      onFocus={(event) => event.target.select()}
      onChange={(event) => {
        key({ text: event.target.value, near: span.last })
        onDay('')
      }}
    />
  )
}
