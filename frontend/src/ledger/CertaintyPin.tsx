const SAYS: Record<string, string> = {
  sure: 'sure: 95 in 100 or more such points are right',
  likely: 'likely: 75 to 95 in 100 such points are right',
  look: 'look: fewer than 75 in 100 such points are right',
}

/** A pin drawn full, half or as an outline: sure, likely, look. */
export function CertaintyPin({ level }: { level: string }) {
  return (
    <svg
      role="img"
      aria-label={level}
      width="14"
      height="18"
      viewBox="0 0 14 18"
      className="shrink-0"
    >
      <title>{SAYS[level] ?? level}</title>
      {level === 'sure' ? (
        <circle cx="7" cy="6" r="5" className="fill-deep" />
      ) : (
        <circle cx="7" cy="6" r="4.4" className="fill-none stroke-deep" strokeWidth="1.4" />
      )}
      {level === 'likely' && <path d="M7 1.6a4.4 4.4 0 0 1 0 8.8z" className="fill-deep" />}
      <path d="M7 11v6" className="stroke-deep" strokeWidth="1.6" />
    </svg>
  )
}
