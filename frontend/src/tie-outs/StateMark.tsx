const SAYS: Record<string, string> = {
  open: 'not agreed',
  agreed: 'agreed',
  fallen: 'fell open since it was agreed',
}

/** A ring, a tick, or a ring that is broken: told by shape as well as by colour. */
export function StateMark({ state }: { state: string }) {
  const colour =
    state === 'agreed' ? 'stroke-moss' : state === 'fallen' ? 'stroke-rust' : 'stroke-quiet'
  return (
    <svg
      role="img"
      aria-label={SAYS[state] ?? state}
      width="16"
      height="16"
      viewBox="0 0 16 16"
      fill="none"
      strokeWidth="2"
      className={`inline-block align-[-2px] ${colour}`}
    >
      {state === 'agreed' && <path d="M3 8.5l3.4 3.4L13 4.6" />}
      {state === 'open' && <circle cx="8" cy="8" r="5" />}
      {state === 'fallen' && <path d="M11.5 4.4a5 5 0 1 0 1.4 4.4M13 2.5L9.6 6.4" />}
    </svg>
  )
}
