import { Suspense } from 'react'
import { useLocation, useNavigate, useParams } from 'react-router'
import { TransactionDetail } from '../frame/inspector/TransactionDetail'
import { useClient } from '../frame/queries'
import { useSpanSearch } from '../frame/useSpan'
import { useKeys } from '../ui/keys'
import { Waiting } from '../ui/Waiting'
import { Bookkeeper } from './Bookkeeper'
import { ComposerPane, type ComposerState } from './ComposerPane'
import { EntryList } from './EntryList'
import { ProposalPane } from './ProposalPane'
import { Register } from './Register'
import { AssetRegister } from './recipes/AssetRegister'
import { Rates } from './recipes/Rates'
import { RecipeList } from './recipes/RecipeList'
import { RecipePane } from './recipes/RecipePane'
import { TaxReturn } from './recipes/TaxReturn'

/** The register of our entries beside the composer; or every posting there is. */
export function EntriesPage() {
  const client = useClient()
  const { entry = 'new' } = useParams()
  const navigate = useNavigate()
  const state: ComposerState | null = useLocation().state
  const search = useSpanSearch()
  function open(name: string, state?: ComposerState) {
    navigate(`/clients/${client.code}/entries/${name}${search}`, { state })
  }
  useKeys('Entries', [
    { keys: 'n', does: 'new entry', run: () => open('new', { focus: true }) },
    { keys: 'a', does: 'all postings', run: () => open('all') },
    { keys: 'b', does: 'for the bookkeeper', run: () => open('bookkeeper') },
    { keys: 'r', does: 'recipes', run: () => open('recipes') },
    { keys: 'f', does: 'fixed assets', run: () => open('assets') },
  ])
  if (entry === 'all') return <Register onOurs={() => open('new')} />
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[300px_1fr]">
      <EntryList open={entry} onOpen={(name) => open(name, { focus: true })} />
      <div className="min-h-0 overflow-auto px-6 pt-4 pb-8">
        <Suspense fallback={<Waiting />}>
          {entry === 'bookkeeper' ? (
            <Bookkeeper />
          ) : entry === 'recipes' ? (
            <RecipeList onOpen={open} />
          ) : entry === 'assets' ? (
            <AssetRegister onOpen={(name, begins) => open(name, { begins })} />
          ) : entry === 'tax' ? (
            <TaxReturn />
          ) : entry === 'rates' ? (
            <Rates />
          ) : entry.startsWith('recipe-') ? (
            <RecipePane id={entry.slice(7)} begins={state?.begins} onPosted={open} />
          ) : entry.startsWith('proposal-') ? (
            <ProposalPane key={entry} number={Number(entry.slice(9))} onOpen={open} />
          ) : entry === 'new' || entry.startsWith('draft-') ? (
            <ComposerPane
              key={entry}
              name={entry}
              onOpen={(name) => open(name, { focus: name === 'new', fresh: crypto.randomUUID() })}
            />
          ) : (
            <TransactionDetail key={entry} name={entry} canCopy />
          )}
        </Suspense>
      </div>
    </div>
  )
}
