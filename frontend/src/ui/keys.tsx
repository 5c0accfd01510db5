import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef } from 'react'

/** A key and what it does. `g r` is two keys in a row; `Control+Enter` works while typing too. */
export interface Key {
  keys: string
  does: string
  run: () => void
}

interface Registered {
  title: string
  list: Key[]
  layer: number
}

interface Registry {
  add: (held: { current: Registered }) => () => void
  raise: (layer: number) => () => void
  all: () => Registered[]
}

const KeysContext = createContext<Registry | null>(null)
const LayerContext = createContext(0)

function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false
  // A box that is ticked takes no letters.
  if (target instanceof HTMLInputElement)
    return !/^(checkbox|radio|button|submit|file)$/.test(target.type)
  return target.isContentEditable || /^(TEXTAREA|SELECT)$/.test(target.tagName)
}

/** Escape leaves a field, and Enter a choice that was made: the page's keys work again. */
function leaves(event: KeyboardEvent): boolean {
  if (event.key === 'Escape') return true
  return event.key === 'Enter' && event.target instanceof HTMLSelectElement && !event.ctrlKey
}

function pressed(event: KeyboardEvent): string {
  const key = event.key === ' ' ? 'Space' : event.key
  return event.ctrlKey || event.metaKey ? `Control+${key}` : key
}

/** Listens once for the whole page; the latest that asked for a key gets it. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const stack = useRef<{ current: Registered }[]>([])
  const layers = useRef<number[]>([])
  const waiting = useRef<{ key: string; until: number } | null>(null)

  useEffect(() => {
    function onKeyDown(event: KeyboardEvent) {
      if (event.defaultPrevented || event.altKey) return
      const key = pressed(event)
      const typing = isTyping(event.target)
      if (typing && leaves(event)) {
        event.preventDefault()
        ;(event.target as HTMLElement).blur()
        return
      }
      if (typing && !key.startsWith('Control+')) return
      // A key held down is one press: nobody posts a second thing by it.
      if (event.repeat && key.startsWith('Control+')) return event.preventDefault()
      const before = waiting.current
      waiting.current = null
      const both = before && before.until > Date.now() ? `${before.key} ${key}` : null
      const wanted = both ? [both, key] : [key]
      // What lies behind a window hears nothing: nobody posts what they do not see.
      const top = Math.max(0, ...layers.current)
      const heard = stack.current.filter((held) => held.current.layer === top)
      for (const name of wanted) {
        for (const held of [...heard].reverse()) {
          const found = held.current.list.find((one) => one.keys === name)
          if (found) {
            event.preventDefault()
            found.run()
            return
          }
        }
      }
      const starts = heard.some((held) =>
        held.current.list.some((one) => one.keys.startsWith(`${key} `)),
      )
      if (starts) waiting.current = { key, until: Date.now() + 1500 }
    }
    window.addEventListener('keydown', onKeyDown)
    return () => window.removeEventListener('keydown', onKeyDown)
  }, [])

  const registry = useMemo<Registry>(
    () => ({
      add: (held) => {
        stack.current.push(held)
        return () => {
          stack.current = stack.current.filter((one) => one !== held)
        }
      },
      raise: (layer) => {
        layers.current.push(layer)
        return () => {
          layers.current.splice(layers.current.indexOf(layer), 1)
        }
      },
      all: () => stack.current.map((held) => held.current).filter((one) => one.list.length > 0),
    }),
    [],
  )
  return <KeysContext value={registry}>{children}</KeysContext>
}

/** Offers keys while the component is there. *title* heads them in the list that `?` shows. */
export function useKeys(title: string, list: Key[]) {
  const registry = useContext(KeysContext)
  const layer = useContext(LayerContext)
  const held = useRef<Registered>({ title, list, layer })
  held.current = { title, list, layer }
  useEffect(() => registry?.add(held), [registry])
}

/** A window over the page: while it is there only keys asked for within it work. */
export function KeysLayer({ children }: { children: ReactNode }) {
  const registry = useContext(KeysContext)
  const layer = useContext(LayerContext) + 1
  useEffect(() => registry?.raise(layer), [registry, layer])
  return <LayerContext value={layer}>{children}</LayerContext>
}

/** Every key that works just now, for the list of them. */
export function useAllKeys(): () => Registered[] {
  const registry = useContext(KeysContext)
  return () => registry?.all() ?? []
}
