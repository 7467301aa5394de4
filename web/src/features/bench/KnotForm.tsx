import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider, useFieldArray, useFormContext } from 'react-hook-form'
import { Link } from 'react-router'
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

type Change = Schemas['Change']

/** Ties a knot: what changed a machine between prints. */
export function KnotForm({ cords, nowMs }: { cords: Schemas['Cord'][]; nowMs: number }) {
  const [open, setOpen] = useState(false)
  const form = useDraftForm('draft-knot', {
    machine_id: cords[0]?.machine_id ?? '',
    kind: 'film',
    at: localInput(nowMs),
    note: '',
    changes: [] as Change[],
  })
  const [tied, setTied] = useState<string>()
  const save = useMutation({
    mutationFn: (v: { machine_id: string; kind: string; at: string; note: string; changes: Change[] }) =>
      answer(
        api.POST('/api/v1/machine-events', {
          body: {
            machine_id: v.machine_id,
            kind: v.kind as 'film',
            at_ms: new Date(v.at).getTime(),
            note: v.note,
            changes: v.changes,
          },
        }),
      ),
    onSuccess: (e) => {
      form.forget()
      form.setValue('note', '')
      form.setValue('changes', [])
      setTied(e.changes && e.changes.length > 0 ? e.id : undefined)
      setOpen(false)
    },
    onError: (e) => showProblem(form, e),
  })
  if (!open) {
    return (
      <div className="flex flex-wrap items-center gap-3">
        <button className="button" onClick={() => setOpen(true)}>
          A machine was changed
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
        <ChangeList />
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

/** All that changed with it: an upgrade seldom changes one thing. */
function ChangeList() {
  const { register, control } = useFormContext<{ changes: Change[] }>()
  const { fields, append, remove } = useFieldArray({ control, name: 'changes' })
  return (
    <fieldset className="grid gap-2">
      <legend className="text-sm font-semibold">All that changed with it</legend>
      {fields.map((f, i) => (
        <div key={f.id} className="flex flex-wrap items-end gap-2">
          <label className="min-w-40 flex-1 text-sm">
            What
            <input className="input" required {...register(`changes.${i}.what`)} />
          </label>
          <label className="text-sm">
            From
            <input className="input" {...register(`changes.${i}.from`)} />
          </label>
          <label className="text-sm">
            To
            <input className="input" {...register(`changes.${i}.to`)} />
          </label>
          <label className="flex min-h-(--tap) items-center gap-2 text-sm">
            <input type="checkbox" className="size-5 accent-(--act)" {...register(`changes.${i}.undoable`)} />
            can be put back by itself
          </label>
          <button type="button" className="button" onClick={() => remove(i)}>
            Take out
          </button>
        </div>
      ))}
      <button
        type="button"
        className="button justify-self-start"
        onClick={() => append({ what: '', from: '', to: '', undoable: false })}
      >
        Add a change
      </button>
    </fieldset>
  )
}
