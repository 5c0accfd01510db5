import type { ReactNode } from 'react'
import { useSearchParams } from 'react-router'
import { Financials } from './Financials'
import { Reading } from './Reading'
import { TrialBalance } from './TrialBalance'
import { Worksheet } from './Worksheet'

const VIEWS: Record<string, ReactNode> = {
  'trial-balance': <TrialBalance />,
  statements: <Financials />,
  reading: <Reading />,
}

/** The worksheet, the trial balance with its choices, the financial statements, or what to read from them. */
export function WorksheetPage() {
  const [search] = useSearchParams()
  return (
    <div className="min-h-0 flex-1 overflow-auto px-5 pb-8">
      {VIEWS[search.get('view') ?? ''] ?? <Worksheet />}
    </div>
  )
}
