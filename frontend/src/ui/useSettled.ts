import { useEffect, useState } from 'react'

/** A value once it has stood still for *wait* milliseconds. */
export function useSettled<Value>(value: Value, wait: number): Value {
  const [settled, setSettled] = useState(value)
  useEffect(() => {
    const timer = window.setTimeout(() => setSettled(value), wait)
    return () => window.clearTimeout(timer)
  }, [value, wait])
  return settled
}
