import { Link, useMatch } from 'react-router'
import { ProblemError } from '../api/client'

interface ProblemNoteProps {
  problem: Error | null | undefined
  className?: string
}

/** What was refused, in the server's words, with a way to pass it on. */
export function ProblemNote({ problem, className = '' }: ProblemNoteProps) {
  if (!problem) return null
  const lift = problem instanceof ProblemError ? problem.lift : null
  const title = problem instanceof ProblemError ? problem.title : 'Something went wrong'
  const faults = problem instanceof ProblemError ? problem.faults : []
  // A message that is made of its faults says them already.
  const listed = faults.filter((fault) => !problem.message.includes(fault))
  const text = [title, problem.message, ...faults].join('\n')
  return (
    <div role="alert" className={`border-l-4 border-rust bg-sheet px-3 py-2 text-ink ${className}`}>
      <p className="flex items-baseline justify-between gap-4">
        <strong className="text-rust">{title}</strong>
        <button
          type="button"
          className="text-tide hover:underline"
          onClick={() => navigator.clipboard?.writeText(text)}
        >
          Copy this message
        </button>
      </p>
      <p className="whitespace-pre-line">{problem.message}</p>
      {lift?.page && <LiftLink says={lift.says} page={lift.page} />}
      {listed.length > 0 && (
        <ul className="mt-1 max-h-64 list-disc overflow-auto pl-5">
          {listed.map((fault) => (
            <li key={fault}>{fault}</li>
          ))}
        </ul>
      )}
    </div>
  )
}

/** The way to where it can be lifted. Apart, since what is refused at the door is on no client's page. */
function LiftLink({ says, page }: { says: string; page: string }) {
  const at = useMatch('/clients/:client/*')
  if (!at) return null
  return (
    <p>
      <Link className="text-tide hover:underline" to={`/clients/${at.params.client}/${page}`}>
        {says}
      </Link>
    </p>
  )
}
