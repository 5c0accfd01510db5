import { useMutation } from '@tanstack/react-query'
import { useRef } from 'react'
import { answered, api } from '../api/client'
import { ProblemNote } from '../ui/ProblemNote'
import { useClient } from './queries'

/** A paper that is kept for this client, by its digest. */
export interface KeptPaper {
  name: string
  digest: string
}

interface AttachPaperProps {
  /** What the field of the file is called. */
  label: string
  kept: KeptPaper | null
  onKeep: (paper: KeptPaper) => void
}

/** Keeps a copy of a paper, to go with a figure or with what is remarked. */
export function AttachPaper({ label, kept, onKeep }: AttachPaperProps) {
  const client = useClient()
  const input = useRef<HTMLInputElement>(null)
  const keeping = useMutation({
    mutationFn: (file: File) =>
      answered(
        api.POST('/api/clients/{client}/papers', {
          params: { path: { client: client.code }, query: { name: file.name } },
          body: file as never,
          bodySerializer: (body) => body as never,
          headers: { 'Content-Type': 'application/octet-stream' },
        }),
      ),
    onSuccess: (found, file) => onKeep({ name: file.name, digest: found.digest }),
  })
  return (
    <p className="py-1.5">
      <button
        type="button"
        className="text-tide hover:underline"
        onClick={() => input.current?.click()}
      >
        {kept ? kept.name : 'Attach a paper'}
      </button>
      <input
        ref={input}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(event) => {
          const file = event.target.files?.[0]
          if (file) keeping.mutate(file)
          event.target.value = ''
        }}
      />
      <ProblemNote problem={keeping.error} />
    </p>
  )
}
