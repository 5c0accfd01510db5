import { useMutation } from '@tanstack/react-query'
import { useInspect } from '../ledger/inspect'
import { counted } from '../ledger/words'
import { useNotice } from '../ui/notice'
import type { Change } from './acts'
import { useClient, useRefreshClient } from './queries'
import { useDeedKey } from './useDeedKey'

/** What comes next is drawn within so many milliseconds: what is asked for anew would hold it up. */
const DRAWN = 80

interface Posting<Asked> {
  /** Sends the deed with its key: the same one until it is done, so that it is done once. None comes
   * back where it was handed in. */
  send: (asked: Asked, key: string) => Promise<Change | null>
  onDone?: (change: Change | null) => void
  /** Goes on to what comes next as soon as it is posted; what is shown comes up to date behind. */
  goesOn?: boolean
  /** What was done, where that is not said by what was posted. */
  words?: (change: Change) => string
}

/** Posts or hands in, then shows everything anew, says what was posted and opens it on request. */
export function usePosting<Asked>({ send, onDone, goesOn, words }: Posting<Asked>) {
  const client = useClient()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const inspect = useInspect()
  const key = useDeedKey()
  function say(change: Change | null) {
    if (!change) {
      tell({ text: `${client.name}: handed in; nothing is posted before it is approved.` })
      return
    }
    const first = change.entries[0]?.id ?? change.amendments[0]?.transaction
    tell({
      text: words
        ? `${client.name}: ${words(change)}.`
        : `${client.name}: change ${change.change} posted, ${postedWords(change)}.`,
      action: first
        ? { label: 'Show it', run: () => inspect({ kind: 'transaction', name: first }) }
        : undefined,
    })
  }
  return useMutation({
    mutationFn: (asked: Asked) => send(asked, key.of(asked)),
    onSuccess: async (change) => {
      key.done()
      if (goesOn) {
        // Said before what comes next can be acted on: nothing said later is covered by it.
        say(change)
        onDone?.(change)
        await new Promise((go) => setTimeout(go, DRAWN))
      }
      await refresh()
      if (!goesOn) {
        onDone?.(change)
        say(change)
      }
    },
  })
}

function postedWords(change: Change): string {
  if (change.entries.length > 0) return change.entries.map((entry) => entry.id).join(' and ')
  if (change.allocations.length > 0) return counted(change.allocations.length, 'allocation')
  if (change.chart.length > 0) {
    return counted(new Set(change.chart.map((row) => row.account)).size, 'account')
  }
  const [merged] = change.merges
  if (merged) return merged.read_as ? `${merged.name} is ${merged.read_as}` : merged.name
  if (change.amendments.length === 0) return 'no figure moves by it'
  return counted(change.amendments.length, 'amendment')
}
