import createClient, { type Middleware } from 'openapi-fetch'
import { answered, commandHeader, commandID, signatureOf, turnHeader } from './command'
import { labelOf } from './label'
import { sayAgain } from './sayAgain'
import type { components, paths } from './schema'
import { kindOf } from './touch'

export type Schemas = components['schemas']

/** An entry as it comes back: who it is and which version are there. */
type Saved<T, K extends keyof T = Extract<'id' | 'code' | 'version' | 'created_ms', keyof T>> = Omit<T, K> &
  Required<Pick<T, K>>

export type Machine = Saved<Schemas['Machine']>
export type Resin = Saved<Schemas['Resin']>
export type Bottle = Saved<Schemas['Bottle']>
export type Piece = Saved<Schemas['Piece']>
export type Feature = Saved<Schemas['Feature']>
export type Profile = Saved<Schemas['Profile']>
export type Run = Saved<Schemas['Run']>
export type Review = Saved<Schemas['Review']>
export type Plate = Saved<Schemas['Plate']>
export type PlateRow = Omit<Schemas['PlateRow'], 'plate'> & { plate: Plate }
export type PlateSheet = Schemas['PlateSheet']
export type Placement = Schemas['Placement']
export type RunSheet = Schemas['RunSheet']
export type Comparison = Schemas['Comparison']
export type SeriesSheet = Schemas['SeriesSheet']
export type Problem = Schemas['ErrorModel']

export const api = createClient<paths>({ baseUrl: '/' })

/** Posted, and changing nothing. */
const asks = [
  'door',
  'bundles',
  'demo',
  'calc',
  'predictions',
  'pack',
  'meshes',
  'plan-drafts',
  'reading-previews',
  'reading-sheet-previews',
  'stress-drafts',
  'line-meanings',
  'table-texts',
  'table-looks',
]
const changes = (request: Request) => request.method !== 'GET' && !asks.includes(kindOf(request.url))

let tell: (kind: string) => void = () => undefined
/** Says who wants to hear of the kinds of entry that this page has changed. */
export const onChange = (listen: (kind: string) => void) => {
  tell = listen
}

let leftOut: (count: number) => void = () => undefined
/** Says who wants to hear of numbers that the server could not show. */
export const onLeftOut = (listen: (count: number) => void) => {
  leftOut = listen
}

const signatures = new WeakMap<Request, string>()

let left: () => void = () => undefined
/** Says who wants to hear that the session of this page is over. */
export const onLeft = (listen: () => void) => {
  left = listen
}

/** What needs the passphrase again is asked for and sent once more; copies are kept of what is small alone. */
const copies = new WeakMap<Request, Request>()
const isSmall = (r: Request) => r.method === 'GET' || (r.headers.get('Content-Type') ?? '').includes('json')

const door: Middleware = {
  onRequest({ request }) {
    if (isSmall(request) && !request.url.endsWith('/record')) copies.set(request, request.clone())
    return undefined
  },
  async onResponse({ request, response }) {
    if (response.status !== 401 && response.status !== 403) return undefined
    const type = ((await response.clone().json()) as { type?: string }).type
    if (type === 'urn:ojime:enter') left()
    const copy = copies.get(request)
    if (type !== 'urn:ojime:confirm' || !copy || !(await sayAgain())) return undefined
    return fetch(copy)
  },
}

const commands: Middleware = {
  async onRequest({ request }) {
    if (!changes(request)) return undefined
    const signature = await signatureOf(request)
    request.headers.set(commandHeader, commandID(signature))
    request.headers.delete(turnHeader)
    signatures.set(request, signature)
    return request
  },
  onResponse({ request, response }) {
    const signature = signatures.get(request)
    if (signature) answered(signature)
    if (response.ok && changes(request)) tell(kindOf(request.url))
    const missing = Number(response.headers.get('Ojime-Left-Out'))
    if (missing > 0) leftOut(missing)
    return undefined
  },
}
api.use(commands)
api.use(door)

/** What is wrong, each field by the label that the page has for it. */
function inWords(problem: Problem): string {
  const fields = (problem.errors ?? []).filter((e) => e.location)
  if (fields.length === 0 || problem.status !== 422)
    return problem.detail ?? problem.title ?? 'The server refused this.'
  const said = [...new Set(fields.map((e) => `${labelOf(e.location ?? '')} ${e.message ?? ''}`))]
  return said.slice(0, 3).join('. ') + (said.length > 3 ? `, and ${said.length - 3} more.` : '')
}

/** A problem document that the server sent, thrown so that queries and forms can show it. */
export class ProblemError extends Error {
  readonly problem: Problem
  constructor(problem: Problem) {
    super(inWords(problem))
    this.problem = problem
  }
}

/** Unwraps an answer, or throws its problem. */
export async function answer<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data, error, response } = await call
  if (error !== undefined || !response.ok) {
    const problem = (
      typeof error === 'object' && error ? error : { detail: String(error ?? response.statusText) }
    ) as Problem
    throw new ProblemError(problem)
  }
  return data as T
}

/** What is asked of a comparison. */
export type ComparisonQuery = NonNullable<paths['/api/v1/comparison']['get']['parameters']['query']>
