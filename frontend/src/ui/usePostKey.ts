import { useEffect, useRef } from 'react'
import { useKeys } from './keys'
import { useNotice } from './notice'

/** Shorter than anybody needs to see what has appeared; longer than between two presses in a row. */
const MOMENT = 450

/**
 * Ctrl+Enter for what changes the books: it does only what has been seen. *shown* names what stands there;
 * within a moment of another's appearing the key says so instead, and a key held down does nothing.
 */
export function usePostKey(title: string, does: string, run: () => void, shown: string | null) {
  const tell = useNotice()
  const since = useRef({ shown, at: 0 })
  useEffect(() => {
    since.current = { shown, at: performance.now() }
  }, [shown])
  function tooEarly() {
    tell({ text: 'This has only just appeared: look at it, then press Ctrl Enter again.' })
  }
  useKeys(title, [
    {
      keys: 'Control+Enter',
      does,
      run: () => {
        if (performance.now() - since.current.at >= MOMENT) run()
        else tooEarly()
      },
      tooEarly,
    },
  ])
}
