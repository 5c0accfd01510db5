import { useQuery, useSuspenseQuery } from '@tanstack/react-query'
import { useLocation, useSearchParams } from 'react-router'
import { answered, api } from '../api/client'
import { proposalsOptions } from '../frame/approvals'
import { useClient } from '../frame/queries'
import { Waiting } from '../ui/Waiting'
import { Composer } from './Composer'
import { blankEntry, copyOf, fromDraft, nearOf, recipeDraft } from './composed'
import { draftsOptions } from './queries'
import { RecipePane } from './recipes/RecipePane'

/** What goes along to the composer: to begin at its first field; to begin with an entry of its own. */
export interface ComposerState {
  focus?: boolean
  fresh?: string
  /** What a recipe begins with. */
  begins?: Record<string, string>
}

interface ComposerPaneProps {
  /** `new`, or `draft-` and its id. */
  name: string
  onOpen: (name: string) => void
}

/** The composer with what it begins with: nothing, a draft, or a copy of an earlier entry. */
export function ComposerPane({ name, onOpen }: ComposerPaneProps) {
  const client = useClient()
  const [search] = useSearchParams()
  const { key: visit, state } = useLocation()
  const asked = state as ComposerState | null
  const copied = name === 'new' ? search.get('copy') : null
  const { data: kept } = useSuspenseQuery(draftsOptions(client.code))
  const { data: handed } = useQuery(proposalsOptions(client.code))
  const { data: detail } = useQuery({
    queryKey: ['client', client.code, 'transaction', copied],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/transactions/{transaction}', {
          params: { path: { client: client.code, transaction: copied ?? '' } },
        }),
      ),
    enabled: copied !== null,
  })
  if (copied && !detail) return <Waiting what="Copying" />
  const draft = kept.drafts.find((listed) => `draft-${listed.id}` === name)
  if (name.startsWith('draft-') && !draft) {
    return <p className="text-quiet">This draft is not there any more: it was posted or dropped.</p>
  }
  const told = draft && recipeDraft(draft.content)
  if (told) {
    const { recipe, said } = told
    return <RecipePane id={recipe} begins={said} draft={draft.id} onPosted={onOpen} />
  }
  const initial = detail
    ? copyOf(detail.slip, search.get('sums') === 'yes')
    : draft
      ? fromDraft(draft.content)
      : blankEntry()
  const back = handed?.proposals.find((proposal) => proposal.draft && proposal.draft === draft?.id)
  return (
    <>
      {back && (
        <p role="status" className="mb-3 border-l-4 border-rust bg-sheet px-3 py-1.5">
          <strong className="text-rust">{back.back_from} sent it back:</strong> {back.remark}
        </p>
      )}
      <Composer
        key={`${name} ${copied} ${name === 'new' ? asked?.fresh : ''}`}
        focusOn={asked?.focus ? visit : null}
        initial={initial}
        initialNear={nearOf(draft?.content)}
        draftId={draft?.id ?? null}
        onDone={(first) => onOpen(first ?? 'new')}
      />
    </>
  )
}
