import { useEffect, useRef } from 'react'

const FIELDS =
  'input:not([type=hidden]):not([type=file]):not(:disabled), textarea:not(:disabled), select:not(:disabled)'

/** What one came for in there: what asks to be first, else a field, else a row of a list. */
export function whatOneCameFor(within: HTMLElement): HTMLElement | null {
  return (
    within.querySelector<HTMLElement>('[data-first]') ??
    within.querySelector<HTMLElement>(FIELDS) ??
    within.querySelector<HTMLElement>('[data-row]')
  )
}

/** Nobody is anywhere yet: nothing has the focus that it would be taken from. */
function isFree(): boolean {
  return document.activeElement === null || document.activeElement === document.body
}

/** Puts the focus on a list that one came to and whose rows its own keys choose. */
export function useFocusOnArrival(list: React.RefObject<HTMLElement | null>) {
  useEffect(() => {
    if (isFree()) list.current?.focus()
  }, [list])
}

/** Puts the focus on the first row of a list that one came to, so that the arrows work at once. */
export function useFirstRow<Element extends HTMLElement>() {
  const list = useRef<Element>(null)
  useEffect(() => {
    if (isFree()) list.current?.querySelector<HTMLElement>('[data-row]')?.focus()
  }, [])
  return list
}

/** Leaves a field in which a list is filtered, so that the page's keys work on what was found. */
export function leaveFilter(event: React.KeyboardEvent<HTMLElement>) {
  if (event.key !== 'Enter' && event.key !== 'ArrowDown') return
  event.preventDefault()
  event.stopPropagation()
  if (event.target instanceof HTMLElement) event.target.blur()
}
