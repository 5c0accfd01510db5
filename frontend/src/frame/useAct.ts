import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { type Act, type Change, carryOut, type Preview, previewOptions } from './acts'
import { useClientCode } from './useClientCode'
import { usePosting } from './usePosting'
import { useSpan } from './useSpan'

interface Asked {
  /** What is to be posted; none while it is not whole. */
  act: Act | null
  /** Barred periods are opened for it alone. */
  opens?: boolean
  /** What it was kept as while it was unfinished. */
  draft?: string
  /** Its preview, where it came with something else; none while that is not there. */
  shown?: Preview | null
  /** The preview before is looked at until the next is there. */
  keepsLast?: boolean
  onDone?: (change: Change | null) => void
  goesOn?: boolean
}

/** One act: what it would do, and posting it, or handing it in where it waits for another's approval. */
export function useAct({ act, opens = false, draft, shown, keepsLast, onDone, goesOn }: Asked) {
  const client = useClientCode()
  const [span] = useSpan()
  const asked = shown === undefined ? act : null
  const { data, error, isPlaceholderData } = useQuery({
    ...previewOptions(client, asked, span.last, opens),
    ...(keepsLast && { placeholderData: keepPreviousData }),
  })
  const preview = shown ?? (asked && !error ? data : undefined)
  const posting = usePosting({
    send: (reason: string, key) =>
      carryOut(
        client,
        {
          act: act as Act,
          reason,
          shown: preview?.digest,
          opens,
          draft,
          handsIn: Boolean(preview?.held),
        },
        key,
      ),
    onDone,
    goesOn,
  })
  const refused = asked ? error : null
  return {
    preview,
    /** Why it can't be posted as it stands. */
    refused,
    /** The preview is of what is asked now. */
    isCurrent: !isPlaceholderData,
    problem: refused ?? posting.error,
    isPending: posting.isPending,
    post: (reason: string) => {
      if (act && preview && !isPlaceholderData) posting.mutate(reason)
    },
    reset: posting.reset,
  }
}

export type Acting = ReturnType<typeof useAct>
