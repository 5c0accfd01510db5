import { amountWords, isNil } from './words'

interface AmountProps {
  /** A plain decimal, debit positive. */
  value: string
  /** What stands for nil: nothing in wide tables, so that figures stand out. */
  nil?: string
  className?: string
}

/** A figure: thousands separated, a credit in brackets, both lined up on the point. */
export function Amount({ value, nil, className = '' }: AmountProps) {
  if (nil !== undefined && isNil(value)) return <span className="text-quiet">{nil}</span>
  const text = amountWords(value)
  // Room for the bracket that figures above and below may have.
  return <span className={`${text.endsWith(')') ? '' : 'pr-[0.33em]'} ${className}`}>{text}</span>
}
