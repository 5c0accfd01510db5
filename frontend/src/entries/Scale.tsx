/** A small pair of scales: level when debits and credits are equal. */
export function Scale({ difference }: { difference: 'level' | 'debit' | 'credit' }) {
  const tilt = { level: 0, debit: -9, credit: 9 }[difference]
  return (
    <svg
      aria-hidden="true"
      width="40"
      height="26"
      viewBox="0 0 40 26"
      fill="none"
      strokeWidth="1.6"
      className={difference === 'level' ? 'stroke-moss' : 'stroke-rust'}
    >
      <path d="M20 4v19M14 24.2h12" />
      <g transform={`rotate(${tilt} 20 6)`}>
        <path d="M4 6h32M4 6l-3 8h6zM36 6l-3 8h6z" />
      </g>
    </svg>
  )
}
