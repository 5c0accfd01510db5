import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { answered, api, type Schemas } from '../api/client'
import { shortDayWords } from '../ledger/words'
import { ProblemNote } from '../ui/ProblemNote'
import { saveFile } from '../ui/saveFile'

type Layout = Schemas['LayoutAnswer']
type Kept = Schemas['KeptAnswerAnswer']
const LINK = 'text-tide hover:underline'

/** What was answered about this client's lists before, and so is not asked again. */
export function Remembered({ client }: { client: string }) {
  const queries = useQueryClient()
  const section = useRef<HTMLElement>(null)
  const params = { path: { client } }
  const queryKey = ['client', client, 'listing answers']
  const { data } = useQuery({
    queryKey,
    queryFn: () => answered(api.GET('/api/clients/{client}/listing-answers', { params })),
  })
  const change = useMutation({
    mutationFn: (does: () => Promise<unknown>) => does(),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey })
      // What was forgotten is gone, and the keys go on from the list of the others.
      requestAnimationFrame(() => {
        if (document.activeElement === document.body) section.current?.focus()
      })
    },
  })
  const answer = (body: Schemas['AnswerBody']) =>
    change.mutate(() =>
      answered(api.PUT('/api/clients/{client}/listing-answers', { params, body })),
    )
  const name = (body: Schemas['LayoutName']) =>
    change.mutate(() =>
      answered(api.PUT('/api/clients/{client}/listing-layouts', { params, body })),
    )
  async function save() {
    const asked = api.GET('/api/clients/{client}/listing-answers.json', { params, parseAs: 'blob' })
    saveFile(`${client} listing answers.json`, (await answered(asked)) as Blob)
  }
  async function bring(file: File | undefined) {
    if (!file) return
    const document = read(await file.text(), file.name)
    await answered(
      api.POST('/api/clients/{client}/listing-answers/brought', { params, body: { document } }),
    )
  }
  if (!data) return null
  return (
    <section
      ref={section}
      tabIndex={-1}
      aria-label="Remembered answers"
      className="space-y-3 border-t border-rule pt-2"
    >
      <h2 className="font-semibold text-deep">Remembered of their lists</h2>
      {data.layouts.length === 0 && (
        <p className="text-quiet">Nothing yet: what you answer is asked once.</p>
      )}
      {data.layouts.map((layout) => (
        <LayoutRows key={layout.layout} layout={layout} onAnswer={answer} onName={name} />
      ))}
      <p className="space-x-4">
        {data.layouts.length > 0 && (
          <button type="button" className={LINK} onClick={() => change.mutate(save)}>
            save them as a file
          </button>
        )}
        <label className={`${LINK} cursor-pointer focus-within:outline-2`}>
          {data.layouts.length > 0 ? 'bring such a file' : 'bring answers from a file'}
          <input
            type="file"
            accept=".json"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0]
              change.mutate(() => bring(file))
            }}
          />
        </label>
      </p>
      <ProblemNote problem={change.error} />
    </section>
  )
}

function read(text: string, name: string) {
  try {
    return JSON.parse(text)
  } catch {
    throw new Error(`${name} is no file of answers. Choose one that was saved here.`)
  }
}

interface LayoutRowsProps {
  layout: Layout
  onAnswer: (body: Schemas['AnswerBody']) => void
  onName: (body: Schemas['LayoutName']) => void
}

/** One layout under its name, with each answer: to be changed, or forgotten and asked anew. */
function LayoutRows({ layout, onAnswer, onName }: LayoutRowsProps) {
  const [named, setNamed] = useState(layout.name)
  const columns = layout.layout.split('|').join(', ')
  return (
    <div>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          onName({ layout: layout.layout, name: named })
        }}
      >
        <input
          aria-label={`Name of the list with ${columns}`}
          placeholder={`List with ${columns}`}
          title={columns}
          maxLength={80}
          value={named}
          className="w-full text-ellipsis border-b border-rule bg-transparent font-semibold placeholder:font-normal placeholder:text-quiet"
          onChange={(event) => setNamed(event.target.value)}
          onBlur={() => named !== layout.name && onName({ layout: layout.layout, name: named })}
        />
      </form>
      <ul>
        {layout.answers.map((kept) => (
          <li key={kept.about} className="py-0.5">
            <span className="text-quiet">{kept.says}</span>{' '}
            <Answer kept={kept} layout={layout} onAnswer={onAnswer} />{' '}
            <span className="text-quiet">
              {kept.by}, {shortDayWords(kept.at.slice(0, 10))}
            </span>{' '}
            <button
              type="button"
              className={LINK}
              aria-label={`Forget: ${kept.says} ${kept.words}`}
              onClick={() => onAnswer({ layout: layout.layout, about: kept.about, answer: null })}
            >
              forget
            </button>
          </li>
        ))}
      </ul>
    </div>
  )
}

interface AnswerProps {
  kept: Kept
  layout: Layout
  onAnswer: LayoutRowsProps['onAnswer']
}

function Answer({ kept, layout, onAnswer }: AnswerProps) {
  if (kept.choices.length === 0) return kept.words
  return (
    <select
      aria-label={kept.says}
      className="border border-rule bg-sheet"
      value={kept.answer}
      onChange={(event) =>
        onAnswer({ layout: layout.layout, about: kept.about, answer: event.target.value })
      }
    >
      {kept.choices.map((choice) => (
        <option key={choice.value} value={choice.value}>
          {choice.text}
        </option>
      ))}
    </select>
  )
}
