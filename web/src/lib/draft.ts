import { useEffect } from 'react'
import { useForm, type DefaultValues, type FieldValues, type Path, type UseFormReturn } from 'react-hook-form'
import { ProblemError } from './api'

/** A form that keeps what was entered until it is saved, even over a reload. */
export function useDraftForm<T extends FieldValues>(
  key: string,
  initial: DefaultValues<T>,
): UseFormReturn<T> & { forget: () => void } {
  const stored = sessionStorage.getItem(key)
  const form = useForm<T>({
    defaultValues: stored ? ({ ...initial, ...JSON.parse(stored) } as DefaultValues<T>) : initial,
  })
  const { subscribe } = form
  useEffect(() => {
    return subscribe({
      formState: { values: true },
      callback: ({ values }) => sessionStorage.setItem(key, JSON.stringify(values)),
    })
  }, [subscribe, key])
  return { ...form, forget: () => sessionStorage.removeItem(key) }
}

/** Puts the server's complaints at the fields that they name; returns what names none. */
export function showProblem<T extends FieldValues>(form: UseFormReturn<T>, error: unknown): string {
  if (!(error instanceof ProblemError)) return error instanceof Error ? error.message : String(error)
  let first = true
  for (const e of error.problem.errors ?? []) {
    const name = (e.location ?? '').split(/[.[]/)[0] as Path<T>
    if (name) {
      form.setError(name, { message: e.message ?? '' }, { shouldFocus: first })
      first = false
    }
  }
  return error.message
}
