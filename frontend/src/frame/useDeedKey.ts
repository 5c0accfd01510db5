import { useRef } from 'react'
import { newKey } from '../api/client'

/** One key for one deed, however often it is sent; another as soon as anything in it changes. */
export function useDeedKey() {
  const sent = useRef({ key: newKey(), asked: '' })
  return {
    of(asked: unknown): string {
      const words = JSON.stringify(asked)
      if (words !== sent.current.asked) sent.current = { key: newKey(), asked: words }
      return sent.current.key
    },
    done() {
      sent.current = { key: newKey(), asked: '' }
    },
  }
}
