import createClient from 'openapi-fetch'
import type { components, paths } from './schema'

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

/** A problem document that the server sent, thrown so that queries and forms can show it. */
export class ProblemError extends Error {
  readonly problem: Problem
  constructor(problem: Problem) {
    super(problem.detail ?? problem.title ?? 'The server refused this.')
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
