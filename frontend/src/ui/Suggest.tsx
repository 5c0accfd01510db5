import { type ReactNode, useEffect, useId, useRef, useState } from 'react'

export interface Suggestion {
  code: string
  /** What is shown when it is chosen, and searched in. */
  name: string
  /** Other text that is searched in. */
  also?: string
  /** What stands at the right end of its row. */
  aside?: ReactNode
  /** What stands below the name: what kind it is. */
  note?: string
  /** How often it is used: of those that fit as well, the most used comes first. */
  uses?: number
}

interface SuggestProps {
  label: string
  value: string
  suggestions: Suggestion[]
  onPick: (code: string) => void
  invalid?: boolean
  placeholder?: string
  className?: string
  /** It has to be given: where one goes that comes to what is not finished. */
  wanted?: boolean
  inputRef?: (input: HTMLInputElement | null) => void
  onEnter?: () => void
  /** Offers to make what was typed, where that can be. */
  onNew?: (typed: string) => void
}

const MOST = 9
const NEW = '\u0000'

/** A field that finds by any part of code or name; arrows choose, Enter or Tab takes. */
export function Suggest(props: SuggestProps) {
  const { label, value, suggestions, onPick, invalid, placeholder, className = '' } = props
  const [typed, keepTyped] = useState<string | null>(null)
  // Enter takes what is offered and leaves the field in one go: leaving must know of it already.
  const typedNow = useRef<string | null>(null)
  function setTyped(next: string | null) {
    typedNow.current = next
    keepTyped(next)
  }
  const [place, setPlace] = useState(0)
  // Taken by a key before there was anything to choose from: it is chosen as soon as there is.
  const early = useRef<string | null>(null)
  useEffect(() => {
    if (early.current === null || suggestions.length === 0) return
    const [first] = fitting(suggestions, early.current)
    early.current = null
    if (!first) return
    typedNow.current = null
    keepTyped(null)
    onPick(first.code)
  }, [suggestions, onPick])
  const id = useId()
  const chosen = suggestions.find((suggestion) => suggestion.code === value)
  const found = typed === null ? [] : fitting(suggestions, typed)
  if (props.onNew && typed?.trim()) {
    found.push({ code: NEW, name: `New: “${typed.trim()}”` })
  }
  const open = typed !== null && found.length > 0

  function take(picked: Suggestion | undefined) {
    if (picked?.code === NEW) props.onNew?.(typed?.trim() ?? '')
    else if (picked) onPick(picked.code)
    setTyped(null)
    setPlace(0)
  }

  function leave() {
    // Only a key takes what is offered: what was merely typed stays, and is told as unknown.
    if (typedNow.current !== null) onPick(typedNow.current.trim())
    setTyped(null)
  }

  function onKeyDown(event: React.KeyboardEvent) {
    // Ctrl+Enter posts, wherever one is.
    if (event.ctrlKey || event.metaKey) return
    if (event.key === 'Enter' || event.key === 'Tab') {
      early.current = suggestions.length === 0 && typed?.trim() ? typed : null
    }
    if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
      event.preventDefault()
      if (typed === null) setTyped('')
      const step = event.key === 'ArrowDown' ? 1 : -1
      setPlace((old) => Math.max(0, Math.min(Math.max(found.length - 1, 0), old + step)))
    } else if (event.key === 'Enter') {
      event.preventDefault()
      if (open) take(found[place])
      props.onEnter?.()
    } else if (event.key === 'Tab' && open) {
      take(found[place])
    } else if (event.key === 'Escape' && typed !== null) {
      event.stopPropagation()
      setTyped(null)
    }
  }

  return (
    <div className={`relative ${className}`}>
      <input
        ref={props.inputRef}
        role="combobox"
        data-wanted={props.wanted || undefined}
        aria-label={label}
        aria-expanded={open}
        aria-controls={`${id}-list`}
        aria-autocomplete="list"
        aria-activedescendant={open ? `${id}-${place}` : undefined}
        aria-invalid={invalid ? true : undefined}
        autoComplete="off"
        placeholder={placeholder}
        className="w-full truncate bg-transparent px-2.5 py-1.5 aria-invalid:text-rust"
        value={typed ?? (chosen ? `${chosen.code}  ${chosen.name}` : value)}
        onChange={(event) => {
          early.current = null
          setTyped(event.target.value)
          setPlace(0)
        }}
        onFocus={(event) => event.target.select()}
        onBlur={leave}
        onKeyDown={onKeyDown}
      />
      {open && (
        <div
          id={`${id}-list`}
          role="listbox"
          aria-label={label}
          className="absolute left-0 z-30 mt-1 w-max min-w-full max-w-md border border-edge bg-sheet py-1 shadow-lg"
        >
          {found.map((suggestion, index) => (
            <div
              tabIndex={-1}
              key={suggestion.code}
              id={`${id}-${index}`}
              role="option"
              aria-selected={index === place}
              className={`flex cursor-pointer items-baseline gap-3 px-3 py-0.5 ${index === place ? 'bg-wash' : ''}`}
              // Before the field loses the focus, so that it is still open.
              onMouseDown={(event) => {
                event.preventDefault()
                take(suggestion)
              }}
            >
              <span className="w-12 shrink-0 text-quiet">
                {suggestion.code === NEW ? '+' : suggestion.code}
              </span>
              <span className="min-w-0 grow">
                {suggestion.name}
                {suggestion.note && <span className="ml-2 text-quiet">{suggestion.note}</span>}
              </span>
              <span className="text-right text-quiet">{suggestion.aside}</span>
            </div>
          ))}
        </div>
      )}
    </div>
  )
}

function fitting(suggestions: Suggestion[], typed: string): Suggestion[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean)
  const ranked = suggestions
    .map((suggestion) => ({ one: suggestion, rank: rankOf(suggestion, words) }))
    .filter(({ rank }) => rank < 9)
  ranked.sort((a, b) => a.rank - b.rank || (b.one.uses ?? 0) - (a.one.uses ?? 0))
  return ranked.slice(0, MOST).map(({ one: suggestion }) => suggestion)
}

/** Codes and names that begin with what was typed come first; 9 fits not at all. */
function rankOf(suggestion: Suggestion, words: string[]): number {
  const known = `${suggestion.code} ${suggestion.name} ${suggestion.also ?? ''}`.toLowerCase()
  if (!words.every((word) => known.includes(word))) return 9
  const first = words[0] ?? ''
  if (suggestion.code.toLowerCase().startsWith(first)) return 0
  return suggestion.name.toLowerCase().startsWith(first) ? 1 : 2
}
