import type { Schemas } from '../../api/client'
import { dayWords } from '../../ledger/words'
import { useClientCode } from '../useClientCode'

export type Query = Schemas['QueryAnswer']
export type Answer = Schemas['AnswerAnswer']

/** What the client said, from whom and when, with its files. */
export function AnswerNote({ answer }: { answer: Answer }) {
  const client = useClientCode()
  return (
    <div className="border-l-4 border-moss bg-sheet px-3 py-2">
      {answer.text && <p className="whitespace-pre-line">{answer.text}</p>}
      <p className="text-quiet">
        {answer.taken_by ? `told to ${answer.taken_by}` : answer.from_email},{' '}
        {dayWords(answer.received_at)} {answer.received_at.slice(11, 16)}
        {answer.files.map((file) => (
          <a
            key={file.digest}
            className="ml-3 text-tide hover:underline"
            href={`/api/clients/${encodeURIComponent(client)}/papers/${file.digest}`}
          >
            {file.name}
          </a>
        ))}
      </p>
    </div>
  )
}
