import { useMutation, useSuspenseQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answered, api } from '../../api/client'
import { AskFields, type Said } from '../../frame/asks/AskFields'
import { beginning, filled, isWhole } from '../../frame/asks/said'
import { PostPanel } from '../../frame/PostPanel'
import { useClient, useRefreshClient } from '../../frame/queries'
import { useAct } from '../../frame/useAct'
import { useSpan } from '../../frame/useSpan'
import { Button } from '../../ui/Button'
import { ProblemNote } from '../../ui/ProblemNote'
import { useSettled } from '../../ui/useSettled'
import { Coming } from './Coming'
import { PayrollFile } from './PayrollFile'
import { type Recipe, recipesOptions } from './queries'

interface RecipePaneProps {
  id: string
  /** What some of it begins with: an asset that it is for. */
  begins?: Said
  /** What it was kept as: a draft's id. */
  draft?: string
  onPosted: (entry: string) => void
}

/** One recipe: what it asks, and what it would post as one keys. */
export function RecipePane({ id, begins, draft, onPosted }: RecipePaneProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useSuspenseQuery(recipesOptions(client.code, span.last))
  const recipe = data.recipes.find((known) => known.id === id)
  if (!recipe) return <p className="text-quiet">There is no recipe “{id}”.</p>
  return <RecipeForm key={id} recipe={recipe} begins={begins} draft={draft} onPosted={onPosted} />
}

function RecipeForm({
  recipe,
  begins,
  draft,
  onPosted,
}: Omit<RecipePaneProps, 'id'> & { recipe: Recipe }) {
  const client = useClient()
  const refresh = useRefreshClient()
  const [span] = useSpan()
  const asks = recipe.asks.map((ask) =>
    ask.kind === 'items' ? { ...ask, kind: 'text' as const } : ask,
  )
  // A day that may be left out is left out until somebody says it.
  const needed = asks.filter((ask) => ask.needed || ask.value)
  const [said, say] = useState<Said>({ ...beginning(needed, span.last), ...begins })
  const settled = useSettled(JSON.stringify(said), 200)
  const [first, more] = [asks.filter(isFirst), asks.filter((ask) => !isFirst(ask))]
  const act = isWhole(asks, said)
    ? {
        act: 'recipe' as const,
        recipe: recipe.id,
        said: filled(JSON.parse(settled)),
        near: span.last,
      }
    : null
  const acting = useAct({
    act,
    draft,
    keepsLast: true,
    onDone: (change) => onPosted(change?.entries[0]?.id ?? 'recipes'),
  })
  const drafting = useMutation({
    mutationFn: () =>
      answered(
        api.POST('/api/clients/{client}/recipes/drafts', {
          params: { path: { client: client.code } },
          body: { recipe: recipe.id, said: filled(said), near: span.last, draft: draft ?? null },
        }),
      ),
    onSuccess: async (kept) => {
      await refresh()
      onPosted(`draft-${kept.drafts[0]}`)
    },
  })
  const dropping = useMutation({
    mutationFn: () =>
      answered(
        api.DELETE('/api/clients/{client}/drafts/{draft}', {
          params: { path: { client: client.code, draft: draft ?? '' } },
        }),
      ),
    onSuccess: async () => {
      await refresh()
      onPosted('recipes')
    },
  })
  const onSay = (name: string, value: string) => say({ ...said, [name]: value })
  return (
    <section aria-label={recipe.title} className="max-w-3xl space-y-4">
      <header>
        <h1 className="text-[21px] leading-7 font-semibold">{recipe.title}</h1>
        <p className="text-quiet">{recipe.says}</p>
      </header>
      {recipe.id === 'payroll' && <PayrollFile />}
      <AskFields asks={first} said={said} onSay={onSay} focuses />
      {more.length > 0 && (
        <details>
          <summary className="cursor-pointer text-tide">Accounts and what else may be said</summary>
          <div className="pt-3">
            <AskFields asks={more} said={said} onSay={onSay} />
          </div>
        </details>
      )}
      {act === null && (
        <p className="text-quiet">
          What it posts stands here once these are said:{' '}
          {asks
            .filter((ask) => ask.needed && !said[ask.name])
            .map((ask) => ask.label)
            .join('; ')}
          .
        </p>
      )}
      {acting.preview && <Coming steps={acting.preview.schedule} />}
      <PostPanel label="Post it" acting={acting}>
        {act && acting.preview && (
          <p className="flex gap-4">
            <Button look="bare" disabled={drafting.isPending} onClick={() => drafting.mutate()}>
              {draft ? 'Keep the draft so' : 'Keep it as a draft'}
            </Button>
            {draft && (
              <Button look="bare" disabled={dropping.isPending} onClick={() => dropping.mutate()}>
                Drop the draft
              </Button>
            )}
          </p>
        )}
        <ProblemNote problem={drafting.error ?? dropping.error} />
      </PostPanel>
    </section>
  )
}

const FIRST = ['amount', 'percent', 'day', 'choice', 'asset', 'month', 'sums', 'table']

/** What one came to say; accounts that one role names, and what is seldom said, stand apart. */
function isFirst(ask: Recipe['asks'][number]): boolean {
  return (ask.needed && !ask.value) || (FIRST.includes(ask.kind) && !ask.label.startsWith('Other'))
}
