import { useEffect } from 'react'
import { get, useForm, type DefaultValues, type FieldValues, type Path, type UseFormReturn } from 'react-hook-form'
import { ProblemError } from './api'
import { fieldOf } from './label'

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
  return {
    ...form,
    // What the server refused is sent again as it now stands: its complaints do not hold a form back.
    handleSubmit: (valid, invalid) => (e) => {
      form.clearErrors()
      return form.handleSubmit(valid, invalid)(e)
    },
    forget: () => sessionStorage.removeItem(key),
  }
}

/** Puts the server's complaints at the fields that they name; returns all of it in the page's words. */
export function showProblem<T extends FieldValues>(form: UseFormReturn<T>, error: unknown): string {
  if (!(error instanceof ProblemError)) return error instanceof Error ? error.message : String(error)
  const known = form.getValues()
  let first = true
  for (const e of error.problem.errors ?? []) {
    const name = fieldOf(e.location ?? '') as Path<T>
    if (get(known, name) === undefined) continue // the complaint above the button says it
    form.setError(name, { message: e.message ?? '' }, { shouldFocus: first })
    first = false
  }
  return error.message
}
