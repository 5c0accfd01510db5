import { type ReactNode, useState } from 'react'
import { useNavigate } from 'react-router'
import { useKeys } from '../ui/keys'
import { Brand } from './Brand'
import { Finder } from './Finder'
import { KeysHelp } from './KeysHelp'
import { PersonMenu } from './PersonMenu'

/** The name of the part of each page that is worked in. */
export const THE_WORK = 'the-work'

/** The top of every page: the brand, what the page is about, finding, who is at work. */
export function TopBar({ children }: { children: ReactNode }) {
  const [shown, show] = useState<'finder' | 'keys' | null>(null)
  const navigate = useNavigate()
  useKeys('Anywhere', [
    { keys: '/', does: 'find', run: () => show('finder') },
    { keys: '?', does: 'show these keys', run: () => show('keys') },
    { keys: 'g d', does: 'go to the desk', run: () => navigate('/') },
  ])
  return (
    <header className="screen-only flex h-[52px] shrink-0 items-center gap-5 px-5">
      <button
        type="button"
        className="sr-only focus:not-sr-only focus:absolute focus:top-2 focus:left-3 focus:z-50 focus:border focus:border-edge focus:bg-sheet focus:px-3 focus:py-1 focus:font-semibold"
        onClick={() => document.getElementById(THE_WORK)?.focus()}
      >
        Skip to the work
      </button>
      <Brand />
      {children}
      <button
        type="button"
        onClick={() => show('finder')}
        className="flex h-[30px] w-[130px] shrink-0 items-center justify-between border border-edge bg-sheet px-2.5 text-quiet"
      >
        Find
        <kbd className="border border-edge px-1.5 font-sans text-xs">/</kbd>
      </button>
      <PersonMenu onKeys={() => show('keys')} />
      {shown === 'finder' && <Finder onClose={() => show(null)} />}
      {shown === 'keys' && <KeysHelp onClose={() => show(null)} />}
    </header>
  )
}
