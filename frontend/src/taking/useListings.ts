import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answered, api, ProblemError, type Schemas } from '../api/client'

export type Listings = Schemas['ListingsAnswer']
export type Answers = Record<string, string>

/** A file that was brought: *id*, once it is in the tray; *problem*, where it can't be. */
export interface Brought {
  name: string
  id: string | null
  problem: Error | null
}

export interface Whose {
  /** An existing client's code, or none for a new one. */
  client: string | null
  new: Schemas['NewClientBody'] & { code: string }
}

const NOBODY: Whose['new'] = {
  ...{ code: '', name: '', entity: 'company', year_end: '12-31', currency: 'EUR' },
}

/** The files, whose they are, what was answered, and what comes of them: read again at each step. */
export function useListings(client: string | null) {
  const queries = useQueryClient()
  const [files, setFiles] = useState<Brought[]>([])
  const [answers, setAnswers] = useState<Answers>({})
  const [whose, setWhose] = useState<Whose>({ client, new: NOBODY })
  const [keyed, setKeyed] = useState(false)
  const [job, setJob] = useState<string | null>(null)
  const [found, setFound] = useState<Listings | null>(null)
  const ready = files.flatMap((file) => (file.id ? [file.id] : []))
  const start = useMutation({
    mutationFn: (asked: Schemas['ListingsBody']) =>
      answered(api.POST('/api/listings', { body: asked })),
    onSuccess: (started) => setJob(started.job),
  })
  const { data: progress } = useQuery({
    queryKey: ['job', job],
    queryFn: () => answered(api.GET('/api/jobs/{job}', { params: { path: { job: job ?? '' } } })),
    enabled: job !== null,
    refetchInterval: (query) =>
      /done|refused|failed/.test(query.state.data?.state ?? '') ? false : 250,
  })
  const read = progress?.listings
  useEffect(() => {
    if (!read) return
    setFound(read)
    if (read.taken) queries.invalidateQueries({ predicate: (query) => query.queryKey[0] !== 'job' })
    const said = read.proposed
    if (said && !keyed) setWhose((now) => ({ ...now, new: { ...now.new, ...proposedOf(said) } }))
  }, [read, keyed, queries])

  function look(ids: string[], now: Answers, of: Whose, take = false) {
    if (ids.length === 0) return
    const { code, ...facts } = of.new
    // What nobody has said yet is proposed by the files themselves, and seen so.
    const isSaid = take || keyed || of !== whose
    start.mutate({
      ...{ client: of.client ?? (take ? code : null), files: ids, answers: now, take },
      new: isSaid && !of.client ? facts : null,
    })
  }

  async function bring(list: File[]) {
    const brought = await Promise.all(list.map(sent))
    const all = [...files, ...brought]
    setFiles(all)
    look(
      all.flatMap((file) => (file.id ? [file.id] : [])),
      answers,
      whose,
    )
  }

  const isAtWork =
    start.isPending || (job !== null && !/done|refused|failed/.test(progress?.state ?? ''))
  return {
    ...{ files, found, whose, answers, isAtWork, bring },
    says: progress?.progress ?? '',
    problem: start.error ?? (progress?.problem ? new ProblemError(progress.problem, 422) : null),
    remove(name: string) {
      const left = files.filter((file) => file.name !== name)
      setFiles(left)
      setFound(null)
      look(
        left.flatMap((file) => (file.id ? [file.id] : [])),
        answers,
        whose,
      )
    },
    answer(id: string, value: string) {
      const now = { ...answers, [id]: value }
      setAnswers(now)
      look(ready, now, whose)
    },
    setWhose(now: Whose) {
      setKeyed(true)
      setWhose(now)
      const bears = bearing(now)
      if (now.client !== whose.client || (bears && bears !== bearing(whose)))
        look(ready, answers, now)
    },
    takeIn: () => look(ready, answers, whose, true),
  }
}

const WHOLE = /^\d\d-\d\d [A-Z]{3}$/

/** Of what a new client is, what makes other books of the same files; nothing while it is being keyed. */
function bearing({ new: { entity, year_end, currency } }: Whose) {
  return WHOLE.test(`${year_end} ${currency}`) ? `${entity} ${year_end} ${currency}` : null
}

function proposedOf(said: Schemas['ProposedAnswer']): Partial<Whose['new']> {
  const { code, name, entity, year_end, currency } = said
  return { code, name, year_end, currency, entity: entity as Whose['new']['entity'] }
}

async function sent(file: File): Promise<Brought> {
  try {
    const kept = await answered(
      api.POST('/api/listings/files', {
        params: { query: { name: file.name } },
        body: file as never,
        bodySerializer: (body: unknown) => body as never,
        headers: { 'Content-Type': 'application/octet-stream' },
      }),
    )
    return { name: file.name, id: kept.file, problem: null }
  } catch (problem) {
    return { name: file.name, id: null, problem: problem as Error }
  }
}
