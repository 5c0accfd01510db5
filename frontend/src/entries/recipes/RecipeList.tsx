import { useSuspenseQuery } from '@tanstack/react-query'
import { useEffect, useRef } from 'react'
import { useClient } from '../../frame/queries'
import { useSpan } from '../../frame/useSpan'
import { amountWords, counted, longDayWords } from '../../ledger/words'
import { Button } from '../../ui/Button'
import { moveInRows } from '../../ui/rows'
import { recipesOptions } from './queries'

interface RecipeListProps {
  onOpen: (name: string) => void
}

/** What is due of schedules, then every recipe: a few figures in, the lines of an entry out. */
export function RecipeList({ onOpen }: RecipeListProps) {
  const client = useClient()
  const [span] = useSpan()
  const { data } = useSuspenseQuery(recipesOptions(client.code, span.last))
  const list = useRef<HTMLUListElement>(null)
  // One came here to choose: the arrows work at once, wherever one was before.
  useEffect(() => list.current?.querySelector<HTMLElement>('[data-row]')?.focus(), [])
  const recipes = data.recipes.filter((recipe) => recipe.id !== 'carry-on')
  return (
    <section aria-label="Recipes" className="max-w-3xl space-y-5">
      <h1 className="flex items-baseline gap-4 text-[21px] leading-7 font-semibold">
        <span className="grow">Recipes</span>
        <a
          className="text-base font-normal text-tide hover:underline"
          href={`/api/clients/${client.code}/entries.csv?first=${span.first}&last=${span.last}`}
        >
          our entries as a table
        </a>
      </h1>
      {data.due.length > 0 && (
        <div className="border-l-4 border-cork bg-sheet px-4 py-2">
          <p className="flex items-baseline gap-4">
            <span className="grow">
              <strong>{counted(data.due.length, 'step')}</strong> of schedules{' '}
              {data.due.length > 1 ? 'are' : 'is'} due by {longDayWords(span.last)}
            </span>
            <Button look="post" onClick={() => onOpen('recipe-carry-on')}>
              Look at them
            </Button>
          </p>
          <table className="mt-1 w-full">
            <caption className="sr-only">Steps that are due</caption>
            <tbody>
              {data.due.slice(0, 6).map((step) => (
                <tr key={`${step.schedule} ${step.day}`} className="text-quiet">
                  <td className="w-36">{longDayWords(step.day)}</td>
                  <td>{step.title}</td>
                  <td className="w-28 text-right">{amountWords(step.amount)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <ul ref={list} onKeyDown={moveInRows} className="border-t border-ink">
        {recipes.map((recipe) => (
          <li key={recipe.id}>
            <button
              type="button"
              data-row
              className="grid w-full grid-cols-[230px_1fr] gap-4 border-b border-rule px-1 py-1.5 text-left hover:bg-wash"
              onClick={() => onOpen(`recipe-${recipe.id}`)}
            >
              <strong className="font-semibold">{recipe.title}</strong>
              <span className="text-quiet">{recipe.says}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}
