import createClient from 'openapi-fetch'
import type { components, paths } from './schema.gen'

export type Schemas = components['schemas']

interface Lift {
  says: string
  page: string | null
  setting: string | null
}

interface ProblemDocument {
  title?: string
  detail?: string
  faults?: string[]
  lift?: Lift | null
}

/** What was refused, in the server's words: what is wrong, where, and what to do. */
export class ProblemError extends Error {
  readonly title: string
  readonly status: number
  readonly faults: string[]
  /** How it can be lifted by whoever has the right to: on a page, or by a setting. */
  readonly lift: Lift | null

  constructor(problem: ProblemDocument, status: number) {
    super(problem.detail ?? 'The server did not answer as it should. Try again.')
    this.title = problem.title ?? 'Something went wrong'
    this.status = status
    this.faults = problem.faults ?? []
    this.lift = problem.lift ?? null
  }
}

export const api = createClient<paths>({ baseUrl: '' })

interface Answered<Data> {
  data?: Data
  error?: unknown
  response: Response
}

/** The answer's data, or a ProblemError that says why there is none. */
export async function answered<Data>(asked: Promise<Answered<Data>>): Promise<Data> {
  const { data, error, response } = await asked.catch(() => {
    throw new ProblemError(
      {
        title: 'No connection',
        detail: 'The server can not be reached. What you typed is kept: try again in a moment.',
      },
      0,
    )
  })
  if (data !== undefined && response.ok) return data
  throw new ProblemError((error as object | undefined) ?? {}, response.status)
}

/** A key that lets a post be sent again without posting twice. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16))
  return Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('')
}
