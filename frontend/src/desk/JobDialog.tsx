import type { ReactNode } from 'react'
import { ProblemError, type Schemas } from '../api/client'
import { Button } from '../ui/Button'
import { Dialog } from '../ui/Dialog'
import { ProblemNote } from '../ui/ProblemNote'
import { useJob } from './useJob'

interface JobDialogProps<Reported> {
  title: string
  begin: () => Promise<Schemas['JobStarted']>
  /** What is said while it goes on, before how far it is. */
  doing: string
  report: (job: Schemas['JobAnswer']) => Reported[] | null
  listed: string
  row: (reported: Reported) => ReactNode
  onClose: () => void
}

/** Long work for several clients: how far it is, then a report of each; it goes on when this closes. */
export function JobDialog<Reported>(props: JobDialogProps<Reported>) {
  const { title, begin, doing, report, listed, row, onClose } = props
  const { progress, problem } = useJob(begin)
  const found = progress ? report(progress) : null
  const refused = progress?.problem ? new ProblemError(progress.problem, 422) : problem
  return (
    <Dialog title={title} onClose={onClose}>
      <div className="space-y-3">
        <ProblemNote problem={refused} />
        {!found && !refused && (
          <p role="status">
            {doing} {progress?.progress} … You may close this; it goes on.
          </p>
        )}
        {found && (
          <>
            <ul aria-label={listed} className="border-t border-ink">
              {found.map(row)}
            </ul>
            <Button look="post" onClick={onClose}>
              Back to the desk
            </Button>
          </>
        )}
      </div>
    </Dialog>
  )
}
