import { Dialog as Radix } from 'radix-ui'
import { type ReactNode, useState } from 'react'
import { whatOneCameFor } from './focus'
import { KeysLayer } from './keys'

interface DialogProps {
  title: string
  children: ReactNode
  onClose: () => void
  /** `drawer` slides over the right side of the page and leaves the left readable. */
  shape?: 'middle' | 'drawer' | 'top'
}

const SHAPES = {
  middle:
    'left-1/2 top-[8vh] w-[min(860px,calc(100vw-48px))] max-h-[84vh] -translate-x-1/2 border border-edge',
  drawer: 'right-0 top-0 h-full w-[min(780px,calc(100vw-80px))] border-l border-edge',
  top: 'left-1/2 top-[52px] w-[min(880px,calc(100vw-48px))] max-h-[80vh] -translate-x-1/2 border border-edge',
} as const

/** The focus goes to what one came for in there, as soon as it is there; until then to the window itself. */
function settle(content: HTMLElement) {
  const find = () => whatOneCameFor(content)
  if (content.contains(document.activeElement) && document.activeElement !== content) return
  const there = find()
  if (there) return there.focus()
  content.focus()
  const watch = new MutationObserver(() => {
    if (document.activeElement !== content) return watch.disconnect()
    const came = find()
    if (!came) return
    watch.disconnect()
    came.focus()
  })
  watch.observe(content, { childList: true, subtree: true })
  window.setTimeout(() => watch.disconnect(), 4000)
}

/** A window over the page; Escape closes it and the focus goes back to where it was. */
export function Dialog({ title, children, onClose, shape = 'middle' }: DialogProps) {
  const [opener] = useState(() => document.activeElement)
  return (
    <Radix.Root open onOpenChange={(open) => !open && onClose()}>
      <Radix.Portal>
        <Radix.Overlay className="screen-only fixed inset-0 z-40 bg-black/30" />
        <Radix.Content
          aria-describedby={undefined}
          data-prints={shape === 'drawer' || undefined}
          onOpenAutoFocus={(event) => {
            event.preventDefault()
            settle(event.currentTarget as HTMLElement)
          }}
          onCloseAutoFocus={(event) => {
            event.preventDefault()
            if (opener instanceof HTMLElement) opener.focus()
          }}
          className={`arrives fixed z-50 flex flex-col overflow-y-auto bg-paper shadow-xl outline-none ${SHAPES[shape]}`}
        >
          <header className="sticky top-0 z-10 flex items-baseline justify-between gap-4 border-b border-edge bg-paper px-5 py-3">
            <Radix.Title className="text-lg font-semibold">{title}</Radix.Title>
            {shape === 'drawer' && (
              <button
                type="button"
                className="screen-only ml-auto text-tide hover:underline"
                onClick={() => window.print()}
              >
                Print
              </button>
            )}
            <Radix.Close className="screen-only text-tide hover:underline">
              Close <span className="text-quiet">Esc</span>
            </Radix.Close>
          </header>
          <div className="px-5 py-4">
            <KeysLayer>{children}</KeysLayer>
          </div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  )
}
