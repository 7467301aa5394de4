import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { Link } from 'react-router'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { day, figure, words } from '../../lib/format'
import { n } from '../../lib/input'
import { useMachines } from '../../lib/queries'
import { valuesOf, type Kind } from '../../lib/choices'

type Reminder = Schemas['Reminder']
const kinds = valuesOf<Kind<'Reminder', 'kind'>>({
  film: true,
  panel: true,
  relevel: true,
  zero: true,
  vat_clean: true,
  firmware: true,
  light_calibration: true,
  filter: true,
})
const units = { layers: 'layers', light_h: 'hours of light', days: 'days', runs: 'prints' }
const send = (body: Reminder) => answer(api.POST('/api/v1/reminders', { body }))

/** What the maker, or one's own experience, asks to be done again and again. */
export function Reminders({ list }: { list: Reminder[] }) {
  const machines = useMachines()
  const form = useDraftForm('draft-reminder', {
    machine_id: '',
    kind: 'filter',
    every: '',
    unit: 'days',
    source: 'maker',
    note: '',
  })
  const save = useMutation({
    mutationFn: (v: Record<string, string>) => send({ ...v, every: n(v.every) } as unknown as Reminder),
    onSuccess: () => {
      form.forget()
      form.setValue('every', '')
      form.setValue('note', '')
      form.setFocus('every')
    },
    onError: (e) => showProblem(form, e),
  })
  const all = machines.data ?? []
  const name = (id: string) => all.find((m) => m.machine.id === id)?.machine.name
  return (
    <section className="sheet grid gap-3">
      <h2>Reminders</h2>
      {machines.isSuccess && all.length === 0 && (
        <p className="text-soft">
          A reminder belongs to a machine. <Link to="/kit/machines/new">Enter your first machine</Link>
        </p>
      )}
      {all.length > 0 && list.length === 0 && (
        <p className="text-soft">
          None yet. What the manual asks to be done again and again, and what you found, go here.
        </p>
      )}
      {list.map((r) => (
        <Line key={r.id} r={r} machine={name(r.machine_id) ?? ''} />
      ))}
      {all.length > 0 && (
        <FormProvider {...form}>
          <form
            className="grid items-end gap-3 sm:grid-cols-3 lg:grid-cols-7"
            aria-label="A new reminder"
            onSubmit={form.handleSubmit((v) =>
              save.mutate({ ...v, machine_id: v.machine_id || (all[0]?.machine.id ?? '') }),
            )}
          >
            <SelectField
              name="machine_id"
              label="Machine"
              options={all.map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
            />
            <SelectField name="kind" label="What" options={kinds.map((k) => ({ value: k, label: words(k) }))} />
            <NumberField name="every" label="Every" />
            <SelectField
              name="unit"
              label="of"
              options={Object.entries(units).map(([value, label]) => ({ value, label }))}
            />
            <SelectField
              name="source"
              label="Says"
              options={[
                { value: 'maker', label: 'the maker' },
                { value: 'own', label: 'experience' },
              ]}
            />
            <TextField name="note" label="Where it stands" />
            <button className="button" disabled={save.isPending}>
              Add it
            </button>
          </form>
          {save.isError && <Complaint>{save.error.message}</Complaint>}
        </FormProvider>
      )}
    </section>
  )
}

function Line({ r, machine }: { r: Reminder; machine: string }) {
  const [open, setOpen] = useState(false)
  const [found, setFound] = useState('')
  const save = useMutation({ mutationFn: send, onSuccess: () => setOpen(false) })
  return (
    <div className="grid gap-2 border-t border-line pt-2 first-of-type:border-t-0">
      <p>
        <strong>{machine}</strong>: {words(r.kind)} every <span className="num">{figure(r.every, 6)}</span>{' '}
        {units[r.unit]}, says {r.source === 'maker' ? 'the maker' : 'experience'}
        {r.note && ` (${r.note})`}.
        {r.contradicted_ms != null && (
          <span className="block">
            <strong>Contradicted</strong> {day(r.contradicted_ms)}: {r.contradiction}. It no longer reminds.
          </span>
        )}
      </p>
      {open ? (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            save.mutate({ ...r, contradiction: found })
          }}
        >
          <label className="min-w-60 flex-1 text-sm font-semibold">
            What was found instead
            <input className="input font-normal" required value={found} onChange={(e) => setFound(e.target.value)} />
          </label>
          <button className="button button-main" disabled={save.isPending}>
            Contradict it
          </button>
          <button type="button" className="button" onClick={() => setOpen(false)}>
            Leave it
          </button>
        </form>
      ) : (
        <div>
          {r.contradicted_ms == null ? (
            <button className="button" onClick={() => setOpen(true)}>
              Contradict it
            </button>
          ) : (
            <button
              className="button"
              disabled={save.isPending}
              onClick={() => save.mutate({ ...r, contradiction: '' })}
            >
              Let it remind again
            </button>
          )}
        </div>
      )}
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </div>
  )
}
