import { useEffect, useState } from 'react'
import { flushSync } from 'react-dom'

/** Whether the page is being printed: what only paper shows is drawn then, and not before. */
export function usePrinting(): boolean {
  const [printing, print] = useState(() => window.matchMedia('print').matches)
  useEffect(() => {
    const begins = () => flushSync(() => print(true))
    const ends = () => print(false)
    const paper = window.matchMedia('print')
    const turns = () => flushSync(() => print(paper.matches))
    window.addEventListener('beforeprint', begins)
    window.addEventListener('afterprint', ends)
    paper.addEventListener('change', turns)
    return () => {
      paper.removeEventListener('change', turns)
      window.removeEventListener('beforeprint', begins)
      window.removeEventListener('afterprint', ends)
    }
  }, [])
  return printing
}
