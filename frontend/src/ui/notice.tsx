import { createContext, type ReactNode, useCallback, useContext, useRef, useState } from 'react'

interface Notice {
  text: string
  action?: { label: string; run: () => void }
}

const Context = createContext<(notice: Notice) => void>(() => undefined)

/** Says quietly what happened, where a screen reader hears it too; it goes by itself. */
export function NoticeProvider({ children }: { children: ReactNode }) {
  const [notice, setNotice] = useState<Notice | null>(null)
  const timer = useRef<number | undefined>(undefined)
  const tell = useCallback((next: Notice) => {
    window.clearTimeout(timer.current)
    setNotice(next)
    timer.current = window.setTimeout(() => setNotice(null), 9_000)
  }, [])
  return (
    <Context value={tell}>
      {children}
      <div role="status" className="screen-only pointer-events-none fixed inset-x-0 bottom-14 z-30">
        {notice && (
          <p className="arrives pointer-events-auto mx-auto flex w-fit max-w-[80vw] items-baseline gap-4 border border-edge border-l-4 border-l-moss bg-sheet px-4 py-2 shadow-md">
            <span>{notice.text}</span>
            {notice.action && (
              <button
                type="button"
                className="font-semibold text-tide hover:underline"
                onClick={() => {
                  notice.action?.run()
                  setNotice(null)
                }}
              >
                {notice.action.label}
              </button>
            )}
          </p>
        )}
      </div>
    </Context>
  )
}

export function useNotice(): (notice: Notice) => void {
  return useContext(Context)
}
