import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { SelectField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { localInput, words } from '../../lib/format'

const kinds = [
  'film',
  'panel',
  'relevel',
  'zero',
  'move',
  'vat_clean',
  'firmware',
  'upgrade',
  'light_calibration',
  'filter',
  'incident',
]

/** Ties a knot: what changed a machine between prints. */
export function KnotForm({ cords, nowMs }: { cords: Schemas['Cord'][]; nowMs: number }) {
  const [open, setOpen] = useState(false)
  const form = useDraftForm('draft-knot', {
    machine_id: cords[0]?.machine_id ?? '',
    kind: 'film',
    at: localInput(nowMs),
    note: '',
  })
  const save = useMutation({
    mutationFn: (v: { machine_id: string; kind: string; at: string; note: string }) =>
      answer(
        api.POST('/api/v1/machine-events', {
          body: { machine_id: v.machine_id, kind: v.kind as 'film', at_ms: new Date(v.at).getTime(), note: v.note },
        }),
      ),
    onSuccess: () => {
      form.forget()
      form.setValue('note', '')
      setOpen(false)
    },
    onError: (e) => showProblem(form, e),
  })
  if (!open) {
    return (
      <button className="button justify-self-start" onClick={() => setOpen(true)}>
        A machine was changed
      </button>
    )
  }
  return (
    <FormProvider {...form}>
      <form
        className="sheet grid gap-3"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
        aria-label="What changed a machine"
      >
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField
            name="machine_id"
            label="Machine"
            options={cords.map((c) => ({ value: c.machine_id, label: c.name }))}
          />
          <SelectField name="kind" label="What changed" options={kinds.map((k) => ({ value: k, label: words(k) }))} />
          <TextField name="at" label="When" type="datetime-local" />
          <TextField name="note" label="Note" />
        </div>
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
