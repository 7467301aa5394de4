import type { Schemas } from './api'

export interface Choice<E extends string = string> {
  value: E
  label: string
}

/**
 * The choices of an enumeration of the API, in the order of their words. The words are a record over its type, so that
 * a value that the API adds, renames or drops fails the build until it has its word here.
 */
export const choices = <E extends string>(words: Record<E, string>): Choice<E>[] =>
  (Object.entries(words) as [E, string][]).map(([value, label]) => ({ value, label }))

/** The values of an enumeration of the API, held to its type in the same way. */
export const valuesOf = <E extends string>(words: Record<E, string | true>): E[] => Object.keys(words) as E[]

export type Kind<T extends keyof Schemas, K extends keyof Schemas[T]> = Extract<NonNullable<Schemas[T][K]>, string>
