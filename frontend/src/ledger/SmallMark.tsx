/** The postmark where there is little room: its ring is broken when the seal is. */
export function SmallMark({ broken }: { broken: boolean }) {
  return (
    <svg
      aria-hidden="true"
      width="26"
      height="14"
      viewBox="0 0 26 14"
      fill="none"
      strokeWidth="1.5"
      className={broken ? 'stroke-rust' : 'stroke-deep'}
    >
      <circle cx="7" cy="7" r="5.4" strokeDasharray={broken ? '6 4' : undefined} />
      <path d="M14 5c2-1.4 4 1.4 6 0s3-1 4 0M14 9c2-1.4 4 1.4 6 0s3-1 4 0" />
    </svg>
  )
}
