import type { ComponentProps, ReactNode } from 'react'

const LOOKS = {
  plain: 'border-edge bg-sheet text-ink hover:bg-wash disabled:text-quiet',
  post: 'border-tide bg-tide text-on-tide hover:brightness-110 disabled:border-edge disabled:bg-wash disabled:text-quiet disabled:brightness-100',
  danger: 'border-rust bg-sheet text-rust hover:bg-wash',
  bare: 'border-transparent bg-transparent text-tide underline-offset-2 hover:underline px-0!',
} as const

interface ButtonProps extends ComponentProps<'button'> {
  look?: keyof typeof LOOKS
  /** The keys that do the same, shown in it. */
  hint?: string
  children: ReactNode
}

export function Button({ look = 'plain', hint, children, className = '', ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      className={`inline-flex items-center justify-center gap-2 border px-3.5 py-1.5 font-semibold whitespace-nowrap ${LOOKS[look]} ${className}`}
      {...rest}
    >
      {children}
      {hint && (
        <span aria-hidden="true" className="text-xs font-normal">
          {hint}
        </span>
      )}
    </button>
  )
}
