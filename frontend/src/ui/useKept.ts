import { useState } from 'react'

/** State that this browser remembers under *name*. */
export function useKept<Value>(name: string, initial: Value): [Value, (next: Value) => void] {
  const key = `corkpost ${name}`
  const [value, setValue] = useState<Value>(() => {
    try {
      const kept = localStorage.getItem(key)
      return kept === null ? initial : (JSON.parse(kept) as Value)
    } catch {
      return initial
    }
  })
  return [
    value,
    (next) => {
      setValue(next)
      try {
        localStorage.setItem(key, JSON.stringify(next))
      } catch {
        // A browser that keeps nothing still works.
      }
    },
  ]
}
