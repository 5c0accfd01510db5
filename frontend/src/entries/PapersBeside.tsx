import { useMutation, useQuery } from '@tanstack/react-query'
import { useRef } from 'react'
import { answered, api } from '../api/client'
import { PaperShown } from '../frame/PaperShown'
import { useClient, useRefreshClient } from '../frame/queries'
import { counted } from '../ledger/words'
import { Button } from '../ui/Button'
import { ProblemNote } from '../ui/ProblemNote'

export function useIncoming() {
  const client = useClient()
  return useQuery({
    queryKey: ['client', client.code, 'incoming'],
    queryFn: () =>
      answered(
        api.GET('/api/clients/{client}/incoming', { params: { path: { client: client.code } } }),
      ),
  })
}

interface PapersBesideProps {
  /** The digest of the one that is looked at. */
  chosen: string | null
  onChoose: (digest: string | null) => void
}

/** The papers that came in: which wait, and the one that is entered, beside the lines. */
export function PapersBeside({ chosen, onChoose }: PapersBesideProps) {
  const client = useClient()
  const refresh = useRefreshClient()
  const file = useRef<HTMLInputElement>(null)
  const { data } = useIncoming()
  const taking = useMutation({
    mutationFn: async (files: File[]) => {
      for (const one of files) {
        await answered(
          api.POST('/api/clients/{client}/incoming', {
            params: { path: { client: client.code }, query: { name: one.name } },
            body: one as never,
            bodySerializer: (body) => body as never,
            headers: { 'Content-Type': 'application/octet-stream' },
          }),
        )
      }
    },
    onSettled: refresh,
  })
  const waits = data?.papers.filter((paper) => paper.used_by.length === 0) ?? []
  const shown = data?.papers.find((paper) => paper.digest === chosen)
  return (
    <section aria-label="Papers that came in" className="space-y-2">
      <p className="flex items-baseline gap-4">
        <span className="text-quiet">
          {waits.length === 0
            ? 'No paper waits'
            : `${counted(waits.length, 'paper')} ${waits.length > 1 ? 'wait' : 'waits'} to be entered`}
        </span>
        {data && data.papers.length > 0 && (
          <select
            aria-label="The paper beside the entry"
            className="max-w-72 border border-edge bg-sheet px-2 py-1"
            value={chosen ?? ''}
            onChange={(event) => onChoose(event.target.value || null)}
          >
            <option value="">none beside it</option>
            {data.papers.map((paper) => (
              <option key={paper.digest} value={paper.digest}>
                {paper.name}
                {paper.used_by.length > 0 && `, used by ${paper.used_by.join(', ')}`}
              </option>
            ))}
          </select>
        )}
        <Button look="bare" onClick={() => file.current?.click()}>
          Take in papers
        </Button>
        <input
          ref={file}
          hidden
          multiple
          type="file"
          accept="application/pdf,image/*"
          aria-label="Papers to be taken in"
          onChange={(event) => taking.mutate([...(event.target.files ?? [])])}
        />
      </p>
      <ProblemNote problem={taking.error} />
      {shown && shown.used_by.length > 0 && (
        <p className="border-l-4 border-rust bg-sheet px-3 py-1">
          It is kept with {shown.used_by.join(', ')} already. Is it entered twice?
        </p>
      )}
      {shown && <PaperShown name={shown.name} digest={shown.digest} />}
    </section>
  )
}
