/** Stands beside an entry that came into a month after it was finished. */
export function LateMark({ why }: { why: string }) {
  return (
    <abbr
      title={why}
      className="ml-2 border border-rust px-1 text-[11px] font-semibold text-rust no-underline"
    >
      late
    </abbr>
  )
}
