import { useEffect, useRef, useState } from 'react'
import type { Schemas } from '../api/client'
import { Button } from '../ui/Button'
import { TextField } from '../ui/TextField'

interface QuestionsProps {
  questions: Schemas['QuestionAnswer'][]
  isAtWork: boolean
  onAnswer: (id: string, value: string) => void
}

/** What two readings fit: one short question each, with a row of the file. */
export function Questions({ questions, isAtWork, onAnswer }: QuestionsProps) {
  // What is asked first has the focus on what is proposed; when it is answered, the next.
  const first = useRef<HTMLButtonElement>(null)
  const asked = questions[0]?.id
  useEffect(() => {
    if (asked && !isAtWork) first.current?.focus()
  }, [asked, isAtWork])
  return questions.map((question, place) => (
    <section key={question.id} className="border-l-4 border-cork bg-sheet px-4 py-3">
      <h2 className="mb-2 max-w-[75ch] font-semibold">{question.text}</h2>
      {question.choices.length > 0 ? (
        <div className="flex flex-wrap gap-3">
          {question.choices.map((choice) => (
            <div key={choice.value} className={choice.example ? 'min-w-44' : ''}>
              <Button
                look={choice.value === question.proposed ? 'post' : 'plain'}
                ref={place === 0 && choice.value === question.proposed ? first : undefined}
                disabled={isAtWork}
                onClick={() => onAnswer(question.id, choice.value)}
              >
                {choice.text}
              </Button>
              {choice.example && <p className="mt-1 text-quiet">{choice.example}</p>}
            </div>
          ))}
        </div>
      ) : (
        <Keyed question={question} isAtWork={isAtWork} onAnswer={onAnswer} />
      )}
    </section>
  ))
}

interface KeyedProps {
  question: Schemas['QuestionAnswer']
  isAtWork: boolean
  onAnswer: (id: string, value: string) => void
}

function Keyed({ question, isAtWork, onAnswer }: KeyedProps) {
  const [value, setValue] = useState(question.proposed)
  return (
    <form
      className="flex items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault()
        onAnswer(question.id, value)
      }}
    >
      <TextField
        label="Answer"
        autoFocus
        value={value}
        onChange={(event) => setValue(event.target.value)}
      />
      <Button type="submit" look="post" disabled={isAtWork}>
        So it is
      </Button>
    </form>
  )
}
