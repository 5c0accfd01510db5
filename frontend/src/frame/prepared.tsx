import { createContext, type ReactNode, useContext, useEffect, useState } from 'react'
import type { Schemas } from '../api/client'

type Effect = Schemas['EffectAnswer']

const Context = createContext<{
  effect: Effect | null
  set: (effect: Effect | null) => void
}>({ effect: null, set: () => undefined })

/** Holds the effect of what is being prepared on the page, for the strip below it. */
export function PreparedProvider({ children }: { children: ReactNode }) {
  const [effect, set] = useState<Effect | null>(null)
  return <Context value={{ effect, set }}>{children}</Context>
}

export function usePreparedEffect(): Effect | null {
  return useContext(Context).effect
}

/** Tells the strip what is being prepared; nothing any more when the page goes. */
export function usePrepare(effect: Effect | null | undefined) {
  const { set } = useContext(Context)
  useEffect(() => {
    set(effect ?? null)
    return () => set(null)
  }, [effect, set])
}
