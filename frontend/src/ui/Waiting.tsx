/** Said when an answer takes longer than a blink. */
export function Waiting({ what = 'Loading' }: { what?: string }) {
  return <p className="p-6 text-quiet">{what} …</p>
}
