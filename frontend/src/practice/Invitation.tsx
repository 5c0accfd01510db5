/** What an invitation is handed over by: a link that is good for a week, once. */
export function Invitation({ path, name }: { path: string; name: string }) {
  return (
    <p role="status" className="border-l-4 border-moss bg-sheet px-3 py-2">
      Give {name} this link, by a way that only they read. It is good for a week, once:
      <br />
      <strong className="break-all select-all">{`${window.location.origin}${path}`}</strong>
    </p>
  )
}
