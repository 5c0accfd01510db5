import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { answered, api } from '../api/client'
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
      {shown && <Shown name={shown.name} digest={shown.digest} />}
    </section>
  )
}

/** The paper itself, where it is a PDF or a picture by its own bytes: nothing else that came from outside is
 * drawn on a page of ours. */
function Shown({ name, digest }: { name: string; digest: string }) {
  const client = useClient()
  const { data: drawn } = useQuery({
    queryKey: ['client', client.code, 'paper', digest],
    staleTime: Number.POSITIVE_INFINITY,
    queryFn: async () => {
      const path = { client: client.code, digest }
      const asked = api.GET('/api/clients/{client}/papers/{digest}', {
        params: { path },
        parseAs: 'arrayBuffer',
      })
      const bytes = (await answered(asked)) as ArrayBuffer
      const kind = kindOf(new Uint8Array(bytes.slice(0, 12)))
      return { kind, bytes }
    },
  })
  const [address, setAddress] = useState<string | null>(null)
  useEffect(() => {
    if (!drawn?.kind) return
    const made = URL.createObjectURL(new Blob([drawn.bytes], { type: drawn.kind }))
    setAddress(made)
    return () => URL.revokeObjectURL(made)
  }, [drawn])
  if (!drawn) return null
  if (!drawn.kind || !address) {
    return (
      <a
        className="text-tide hover:underline"
        href={`/api/clients/${encodeURIComponent(client.code)}/papers/${digest}`}
      >
        Save {name}: it is neither a PDF nor a picture
      </a>
    )
  }
  return drawn.kind === 'application/pdf' ? (
    <iframe
      title={name}
      className="h-[300px] w-full border border-edge bg-sheet"
      src={`${address}#toolbar=0&navpanes=0&view=FitH`}
    />
  ) : (
    <img alt={name} className="max-h-[420px] border border-edge" src={address} />
  )
}

const MAGIC: [string, number[]][] = [
  ['application/pdf', [0x25, 0x50, 0x44, 0x46]],
  ['image/png', [0x89, 0x50, 0x4e, 0x47]],
  ['image/jpeg', [0xff, 0xd8, 0xff]],
  ['image/gif', [0x47, 0x49, 0x46, 0x38]],
]

/** What a file is by its first bytes; none for what is not drawn. */
function kindOf(head: Uint8Array): string | null {
  const found = MAGIC.find(([, bytes]) => bytes.every((byte, place) => head[place] === byte))
  return found ? found[0] : null
}
