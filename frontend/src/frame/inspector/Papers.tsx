import { useMutation } from '@tanstack/react-query'
import { useRef } from 'react'
import { answered, api, type Schemas } from '../../api/client'
import { useNotice } from '../../ui/notice'
import { ProblemNote } from '../../ui/ProblemNote'
import { useRefreshClient } from '../queries'
import { useClientCode } from '../useClientCode'

interface PapersProps {
  transaction: string
  papers: Schemas['PaperAnswer'][]
}

/** The papers kept with a transaction, and attaching another: a copy is kept, never a link. */
export function Papers({ transaction, papers }: PapersProps) {
  const client = useClientCode()
  const refresh = useRefreshClient()
  const tell = useNotice()
  const input = useRef<HTMLInputElement>(null)
  const attach = useMutation({
    mutationFn: (file: File) =>
      answered(
        api.POST('/api/clients/{client}/transactions/{transaction}/papers', {
          params: { path: { client, transaction }, query: { name: file.name } },
          body: file as never,
          bodySerializer: (body) => body as never,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ),
    onSuccess: async (_, file) => {
      await refresh()
      tell({ text: `A copy of ${file.name} is kept with ${transaction}.` })
    },
  })
  return (
    <div>
      <p>
        Papers: {papers.length === 0 && <span className="text-quiet">none</span>}
        {papers.map((paper) => (
          <a
            key={paper.digest}
            className="mr-3 text-tide hover:underline"
            href={`/api/clients/${encodeURIComponent(client)}/papers/${paper.digest}`}
          >
            {paper.name}
          </a>
        ))}
        <button
          type="button"
          className="ml-3 text-tide hover:underline"
          onClick={() => input.current?.click()}
        >
          Attach a paper
        </button>
        <input
          ref={input}
          type="file"
          className="sr-only"
          aria-label={`Attach a paper to ${transaction}`}
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0]
            if (file) attach.mutate(file)
            event.target.value = ''
          }}
        />
      </p>
      <ProblemNote problem={attach.error} />
    </div>
  )
}
