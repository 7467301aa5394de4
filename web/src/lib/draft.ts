import { useEffect, useState } from 'react'
import {
  get,
  useForm,
  type DefaultValues,
  type FieldValues,
  type Path,
  type PathValue,
  type UseFormReturn,
} from 'react-hook-form'
import { ProblemError } from './api'
import { fieldOf } from './label'

/** What was typed, against which version of the entry, and what that version said. */
interface Kept<T> {
  version: number | string
  began: T
  values: T
}

/** A draft that began from an older version of its entry: it is offered, never put over what is on record now. */
export interface OldDraft {
  take: () => void
  drop: () => void
}

const read = <T>(key: string): Kept<T> | undefined => {
  const stored = sessionStorage.getItem(key)
  const kept = stored ? (JSON.parse(stored) as Partial<Kept<T>>) : undefined
  // One that says not what it began from cannot be told from what is on record.
  return kept?.values && kept.began ? (kept as Kept<T>) : undefined
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b)

/** What was changed in a draft, as far as it is not on record already. */
const unsaved = <T extends FieldValues>(kept: Kept<T>, now: FieldValues) =>
  Object.entries(kept.values).filter(([name, v]) => !same(v, kept.began[name]) && !same(v, now[name]))

/** A form that keeps what was entered until it is saved, even over a reload. */
export function useDraftForm<T extends FieldValues>(
  key: string,
  initial: DefaultValues<T>,
  version: number | string = 0,
): UseFormReturn<T> & { forget: () => void; old?: OldDraft; restored: boolean } {
  const [kept] = useState(() => read<T>(key))
  const [began] = useState(() => initial as T)
  const [open, setOpen] = useState(
    () => kept !== undefined && kept.version !== version && unsaved(kept, initial as T).length > 0,
  )
  // What was typed and not saved stands in the form again: such a form is not to be folded away.
  const [restored] = useState(() => kept?.version === version && unsaved(kept, initial as T).length > 0)
  const form = useForm<T>({
    defaultValues: kept?.version === version ? ({ ...initial, ...kept.values } as DefaultValues<T>) : initial,
  })
  const { subscribe, setValue } = form
  useEffect(() => {
    return subscribe({
      formState: { values: true },
      callback: ({ values }) => sessionStorage.setItem(key, JSON.stringify({ version, began, values })),
    })
  }, [subscribe, key, version, began])
  const drop = () => {
    sessionStorage.removeItem(key)
    setOpen(false)
  }
  // Only what had been changed is taken over: the rest stays as it is on record now.
  const take = () => {
    setOpen(false)
    if (!kept) return
    for (const [name, value] of unsaved(kept, began)) {
      setValue(name as Path<T>, value as PathValue<T, Path<T>>, { shouldDirty: true })
    }
  }
  return {
    ...form,
    // What the server refused is sent again as it now stands: its complaints do not hold a form back.
    handleSubmit: (valid, invalid) => (e) => {
      form.clearErrors()
      return form.handleSubmit(valid, invalid)(e)
    },
    forget: () => sessionStorage.removeItem(key),
    old: open ? { take, drop } : undefined,
    restored,
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
