import { type ReactNode, useEffect } from 'react'
import { THE_WORK, TopBar } from './TopBar'

/** A page that is about no client: the top of every page, a title, and what it holds. */
export function PlainPage({ title, children }: { title: string; children: ReactNode }) {
  useEffect(() => {
    document.title = `${title} · Cork Post`
  }, [title])
  return (
    <div className="flex h-full min-h-[600px] min-w-[1024px] flex-col">
      <div className="border-b-3 border-edge [border-bottom-style:double]">
        <TopBar>
          <strong className="mr-auto border-l border-edge pl-5 font-display text-[17px] font-semibold">
            {title}
          </strong>
        </TopBar>
      </div>
      <main id={THE_WORK} tabIndex={-1} className="min-h-0 flex-1 overflow-auto px-6 pt-5 pb-10">
        {children}
      </main>
    </div>
  )
}
