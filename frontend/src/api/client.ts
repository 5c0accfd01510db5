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

let waiting: (() => void)[] = []
let sessionEnded = () => {}

/** Says whom to tell that an answer was refused because nobody is signed in any more. */
export function whenSessionEnds(run: () => void) {
  sessionEnded = run
}

/** Asks again for what was refused while nobody was signed in. */
export function sessionIsBack() {
  const held = waiting
  waiting = []
  for (const go of held) go()
}

let askPassword: () => Promise<boolean> = async () => false

/** Says who asks for the password once more, where a deed needs it; whether it was said. */
export function whenPasswordIsNeeded(ask: () => Promise<boolean>) {
  askPassword = ask
}

async function needsPassword(response: Response): Promise<boolean> {
  if (response.status !== 403) return false
  const problem = (await response
    .clone()
    .json()
    .catch(() => ({}))) as ProblemDocument
  return problem.title === 'Say your password again'
}

/** A page that is read waits for its person to sign in again, so that nothing typed on it is lost; a deed is
 * refused at once, and done again by the person. */
async function patient(request: Request): Promise<Response> {
  const again = request.method === 'GET' ? request.clone() : null
  const repeated = request.clone()
  const response = await fetch(request)
  // What was to be done is done once the password was said: it was refused whole before.
  if (await needsPassword(response)) return (await askPassword()) ? fetch(repeated) : response
  if (response.status !== 401 || new URL(request.url).pathname === '/api/session') return response
  sessionEnded()
  if (!again) return response
  await new Promise<void>((go) => waiting.push(go))
  return patient(again)
}

export const api = createClient<paths>({ baseUrl: '', fetch: patient })

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
