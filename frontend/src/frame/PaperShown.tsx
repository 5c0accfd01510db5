import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answered, api } from '../api/client'
import { useClient } from './queries'

/** The paper itself, where it is a PDF or a picture by its own bytes: nothing else that came from outside is
 * drawn on a page of ours. */
export function PaperShown({ name, digest }: { name: string; digest: string }) {
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
