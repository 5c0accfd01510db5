import { Link } from 'react-router'

/** The name with its mark; it leads to the desk. */
export function Brand() {
  return (
    <Link to="/">
      <BrandMark />
    </Link>
  )
}

/** The name with its mark, where there is nowhere to go yet. */
export function BrandMark() {
  return (
    <span className="flex items-center gap-2 font-display text-[17px] font-extrabold whitespace-nowrap">
      <svg
        aria-hidden="true"
        width="24"
        height="24"
        viewBox="0 0 24 24"
        fill="none"
        className="stroke-deep"
        strokeWidth="1.6"
      >
        <circle cx="9" cy="12" r="7.2" />
        <circle cx="9" cy="12" r="4.4" />
        <path d="M16 8.5c1.6-1 2.6 1 4.2 0s1.8-.6 2.8 0M16.4 12c1.6-1 2.2 1 3.8 0s1.8-.6 2.8 0M16 15.5c1.6-1 2.6 1 4.2 0s1.8-.6 2.8 0" />
      </svg>
      Cork Post
    </span>
  )
}
