import { Link, useRouteError } from 'react-router'
import { ProblemNote } from '../ui/ProblemNote'

/** Stands in for a page that could not be shown. */
export function PageProblem() {
  const wrong = useRouteError()
  return (
    <main className="mx-auto max-w-2xl space-y-4 p-10">
      <h1 className="text-xl font-semibold">This page can't be shown</h1>
      <ProblemNote problem={wrong instanceof Error ? wrong : new Error('There is no such page.')} />
      <p className="flex gap-6">
        <Link className="font-semibold text-tide hover:underline" to="/">
          Go to the desk
        </Link>
        <button
          type="button"
          className="text-tide hover:underline"
          onClick={() => window.location.reload()}
        >
          Load it again
        </button>
      </p>
    </main>
  )
}
