import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef } from 'react'

/** A key and what it does. `g r` is two keys in a row; `Control+Enter` works while typing too. */
export interface Key {
  keys: string
  does: string
  run: () => void
  /** Instead of it, where it was pressed before what it acts on could be seen. */
  tooEarly?: () => void
}

interface Registered {
  title: string
  list: Key[]
  layer: number
}

interface Registry {
  add: (held: { current: Registered }) => () => void
  raise: (layer: number) => () => void
  /** The page at that address stands there, with its keys. */
  drew: (path: string) => void
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

/** How long a key that was pressed too early waits for its page, in milliseconds. */
const PATIENCE = 3000

/** Listens once for the whole page; the latest that asked for a key gets it. */
export function KeysProvider({ children }: { children: ReactNode }) {
  const stack = useRef<{ current: Registered }[]>([])
  const layers = useRef<number[]>([])
  const waiting = useRef<{ key: string; until: number } | null>(null)
  const drawn = useRef<string | null>(null)
  const early = useRef<{ key: string; at: number }[]>([])
  const catchUp = useRef(() => {})

  useEffect(() => {
    function heardNow() {
      // What lies behind a window hears nothing: nobody posts what they do not see.
      const top = Math.max(0, ...layers.current)
      return stack.current.filter((held) => held.current.layer === top)
    }
    function find(names: string[]): Key | undefined {
      const heard = heardNow().reverse()
      for (const name of names) {
        for (const held of heard) {
          const found = held.current.list.find((binding) => binding.keys === name)
          if (found) return found
        }
      }
    }
    /** The address is of another page than the one that still stands there. */
    function isDrawing() {
      return drawn.current !== null && drawn.current !== window.location.pathname
    }
    /** Does what the key asks for, alone or after the one before it; whether anything did. */
    function press(key: string): boolean {
      const before = waiting.current
      waiting.current = null
      const both = before && before.until > Date.now() ? `${before.key} ${key}` : null
      const found = find(both ? [both, key] : [key])
      if (found) {
        found.run()
        return true
      }
      const starts = heardNow().some((held) =>
        held.current.list.some((binding) => binding.keys.startsWith(`${key} `)),
      )
      if (starts) waiting.current = { key, until: Date.now() + 1500 }
      return false
    }
    catchUp.current = () => {
      const pressedEarly = early.current
      early.current = []
      for (const waited of pressedEarly) {
        // One of them may have led on to another page.
        if (isDrawing()) early.current.push(waited)
        else if (Date.now() - waited.at > PATIENCE) continue
        else if (waited.key.startsWith('Control+')) find([waited.key])?.tooEarly?.()
        else if (!isTyping(document.activeElement)) press(waited.key)
      }
    }
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
      // What is pressed for a page that is being drawn waits for it, and is not the old page's.
      if (isDrawing()) {
        if (event.repeat || !/^(.|Arrow(Up|Down)|Control\+Enter)$/.test(key)) {
          if (key.startsWith('Control+')) event.preventDefault()
          return
        }
        event.preventDefault()
        early.current.push({ key, at: Date.now() })
        return
      }
      if (press(key)) event.preventDefault()
    }
    window.addEventListener('keydown', onKeyDown)
    return () => window.removeEventListener('keydown', onKeyDown)
  }, [])

  const registry = useMemo<Registry>(
    () => ({
      add: (held) => {
        stack.current.push(held)
        return () => {
          stack.current = stack.current.filter((other) => other !== held)
        }
      },
      raise: (layer) => {
        layers.current.push(layer)
        return () => {
          layers.current.splice(layers.current.indexOf(layer), 1)
        }
      },
      drew: (path) => {
        drawn.current = path
        window.setTimeout(() => catchUp.current())
      },
      all: () =>
        stack.current
          .map((held) => held.current)
          .filter((registered) => registered.list.length > 0),
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

/** Says that the page at that address stands there: what was pressed for it meanwhile reaches it now. */
export function useDrawn(path: string) {
  const registry = useContext(KeysContext)
  useEffect(() => registry?.drew(path), [registry, path])
}

/** Every key that works just now, for the list of them. */
export function useAllKeys(): () => Registered[] {
  const registry = useContext(KeysContext)
  return () => registry?.all() ?? []
}
