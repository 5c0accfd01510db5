import { useSearchParams } from 'react-router'
import { TrialBalance } from './TrialBalance'
import { Worksheet } from './Worksheet'

/** The worksheet, or the trial balance with its choices. */
export function WorksheetPage() {
  const [search] = useSearchParams()
  return (
    <div className="min-h-0 flex-1 overflow-auto px-5 pb-8">
      {search.get('view') === 'trial-balance' ? <TrialBalance /> : <Worksheet />}
    </div>
  )
}
