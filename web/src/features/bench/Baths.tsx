import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { NumberField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure } from '../../lib/format'
import { n } from '../../lib/input'

/** The tubs that prints are washed in, by the prints since they were fresh. */
export function Baths({ list }: { list: Schemas['BathCard'][] }) {
  const form = useDraftForm('draft-bath', { name: '', solvent: '', volume_ml: '', life_prints: '' })
  const save = useMutation({
    mutationFn: (v: Record<string, string>) =>
      answer(
        api.POST('/api/v1/baths', {
          body: {
            name: v.name ?? '',
            solvent: v.solvent ?? '',
            volume_ml: n(v.volume_ml),
            life_prints: n(v.life_prints),
            notes: '',
          },
        }),
      ),
    onSuccess: () => {
      form.forget()
      form.reset({ name: '', solvent: '', volume_ml: '', life_prints: '' })
      form.setFocus('name')
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <section className="sheet grid gap-3">
      <h2>Baths</h2>
      {list.length === 0 && <p className="text-soft">No bath yet. Enter one, and each wash counts on it.</p>}
      {list.map((b) => (
        <Bath key={b.bath.id} b={b} />
      ))}
      <FormProvider {...form}>
        <form
          className="grid items-end gap-3 sm:grid-cols-3 lg:grid-cols-5"
          aria-label="A new bath"
          onSubmit={form.handleSubmit((v) => save.mutate(v))}
        >
          <TextField name="name" label="Bath" />
          <TextField name="solvent" label="Solvent or water" />
          <NumberField name="volume_ml" label="Holds" unit="ml" optional />
          <NumberField name="life_prints" label="Fresh again after" unit="prints" optional />
          <button className="button" disabled={save.isPending}>
            Add this bath
          </button>
        </form>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
      </FormProvider>
    </section>
  )
}

function Bath({ b }: { b: Schemas['BathCard'] }) {
  const [open, setOpen] = useState(false)
  const [went, setWent] = useState('')
  const renew = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/baths/{id}/renewals', { params: { path: { id: b.bath.id ?? '' } }, body: { went_to: went } }),
      ),
    onSuccess: () => setOpen(false),
  })
  return (
    <div className="grid gap-2 border-t border-line pt-2 first-of-type:border-t-0">
      <p>
        <span className="num text-soft">{b.bath.code}</span> <strong>{b.bath.name}</strong> ({b.bath.solvent}
        {b.bath.volume_ml != null && `, ${figure(b.bath.volume_ml, 5)} ml`}): <span className="num">{b.prints}</span>{' '}
        prints{b.bath.life_prints != null && ` of ${b.bath.life_prints}`} since it was fresh,{' '}
        <span className="num">{figure(Math.floor(b.days))}</span> days ago.
        {b.state === 'due' && <strong className="text-bad"> It is due.</strong>}
      </p>
      {open ? (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            renew.mutate()
          }}
        >
          <label className="min-w-60 flex-1 text-sm font-semibold">
            Where the old filling went
            <input className="input font-normal" required value={went} onChange={(e) => setWent(e.target.value)} />
          </label>
          <button className="button button-main" disabled={renew.isPending}>
            It is fresh now
          </button>
          <button type="button" className="button" onClick={() => setOpen(false)}>
            Leave it
          </button>
        </form>
      ) : (
        <button className="button justify-self-start" onClick={() => setOpen(true)}>
          Filled afresh
        </button>
      )}
      {renew.isError && <Complaint>{renew.error.message}</Complaint>}
    </div>
  )
}
