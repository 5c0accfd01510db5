import { useAct } from '../frame/useAct'
import type { AccountPart } from './queries'

/** What putting these accounts right would move, and doing it. */
export function useChart(parts: AccountPart[], onDone: () => void) {
  return useAct({
    act: parts.length > 0 ? { act: 'chart', accounts: parts } : null,
    keepsLast: true,
    onDone,
  })
}
