import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { Link } from 'react-router'
import { SelectField } from './Field'
import { Complaint } from './Page'
import { answer, api } from '../lib/api'
import { showProblem, useDraftForm } from '../lib/draft'
import { blankKnot, knotBody, KnotFields, type KnotValues } from './KnotFields'

/** Ties a knot: what changed a machine between prints. */
export function KnotForm({
  machines,
  nowMs,
  here = false,
}: {
  machines: { id: string; name: string }[]
  nowMs: number
  /** On the machine's own page. */
  here?: boolean
}) {
  const [open, setOpen] = useState(false)
  const form = useDraftForm<KnotValues & { machine_id: string }>(`draft-knot-${here ? machines[0]?.id : 'bench'}`, {
    machine_id: machines[0]?.id ?? '',
    ...blankKnot(nowMs),
  })
  const [tied, setTied] = useState<string>()
  const save = useMutation({
    mutationFn: (v: KnotValues & { machine_id: string }) =>
      answer(api.POST('/api/v1/machine-events', { body: { machine_id: v.machine_id, ...knotBody(v) } })),
    onSuccess: (e) => {
      form.forget()
      form.reset({ machine_id: e.machine_id, ...blankKnot(nowMs) })
      setTied(e.changes && e.changes.length > 0 ? e.id : undefined)
      setOpen(false)
    },
    onError: (e) => showProblem(form, e),
  })
  if (!open) {
    return (
      <div className="flex flex-wrap items-center gap-3">
        <button className="button" onClick={() => setOpen(true)}>
          {here ? 'This machine was changed' : 'A machine was changed'}
        </button>
        {tied && <Link to={`/knots/${tied}`}>Which prints would tell these changes apart</Link>}
      </div>
    )
  }
  return (
    <FormProvider {...form}>
      <form
        className="sheet grid gap-3"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
        aria-label="What changed a machine"
      >
        {machines.length > 1 && (
          <SelectField
            name="machine_id"
            label="Machine"
            options={machines.map((m) => ({ value: m.id, label: m.name }))}
          />
        )}
        <KnotFields />
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div className="flex gap-2">
          <button className="button button-main" disabled={save.isPending}>
            Tie this knot
          </button>
          <button type="button" className="button" onClick={() => setOpen(false)}>
            Leave it
          </button>
        </div>
      </form>
    </FormProvider>
  )
}
