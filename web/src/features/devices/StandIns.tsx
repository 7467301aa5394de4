import { useMutation, useQuery } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { ManyField, NumberField, SelectField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure, words } from '../../lib/format'
import { n, orNull } from '../../lib/input'
import { useMachines } from '../../lib/queries'

const faults = [
  { value: 'stall', label: 'a layer that does not end' },
  { value: 'disconnect', label: 'a lost connection' },
  { value: 'miscount', label: 'a wrong number of layers' },
  { value: 'unruly', label: 'doubled and disordered messages' },
]

/** Devices that are none: they follow the timing model, or scatter readings, to try the bench with. */
export function StandIns() {
  const machines = useMachines()
  const running = useQuery({
    queryKey: ['stand-ins'],
    refetchInterval: 2000,
    queryFn: async () => (await answer(api.GET('/api/v1/stand-ins'))) as Schemas['Running'][],
  })
  const empty = { kind: 'printer', machine_id: '', speed: '60', seed: '1', value: '', faults: [] as string[] }
  const form = useDraftForm('draft-stand-in', empty)
  const start = useMutation({
    mutationFn: (v: typeof empty) =>
      answer(
        api.POST('/api/v1/stand-ins', {
          body: {
            kind: v.kind,
            machine_id:
              orNull(v.machine_id) ?? (v.kind === 'printer' ? (machines.data?.[0]?.machine.id ?? null) : null),
            speed: n(v.speed),
            seed: n(v.seed),
            value: n(v.value) ?? 0,
            faults: v.kind === 'printer' ? v.faults : [],
          },
        }),
      ),
    onSuccess: () => form.forget(),
    onError: (e) => showProblem(form, e),
  })
  const end = useMutation({
    mutationFn: (id: string) => answer(api.POST('/api/v1/stand-ins/{id}/end', { params: { path: { id } } })),
  })
  return (
    <section className="sheet grid gap-3">
      <h2>Stand-ins</h2>
      <p className="text-soft">
        A stand-in printer takes the print that is prepared for its machine, masked or laser, and follows the timing
        model faster than time. What it took is never counted as measured.
      </p>
      {(running.data ?? []).map((r) => (
        <div key={r.device_id} className="flex flex-wrap items-center gap-3 border-t border-line pt-2">
          <p>
            <strong>{r.name}</strong>{' '}
            {r.plan.kind === 'printer' && <span className="num">at {figure(r.plan.speed)} times the speed</span>}
            {(r.plan.faults ?? []).length > 0 &&
              `, with ${(r.plan.faults ?? []).map((f) => faults.find((x) => x.value === f)?.label ?? words(f)).join(', ')}`}
            {r.ended && !r.trouble && ': has ended'}
          </p>
          {r.trouble && <Complaint>{r.trouble}</Complaint>}
          {!r.ended && (
            <button className="button" disabled={end.isPending} onClick={() => end.mutate(r.device_id)}>
              End it
            </button>
          )}
        </div>
      ))}
      <FormProvider {...form}>
        <form className="grid gap-3" aria-label="Start a stand-in" onSubmit={form.handleSubmit((v) => start.mutate(v))}>
          <div className="grid items-end gap-3 sm:grid-cols-2 lg:grid-cols-5">
            <SelectField
              name="kind"
              label="Stand-in"
              options={['printer', 'caliper', 'scale', 'thermometer'].map((k) => ({ value: k, label: k }))}
            />
            <SelectField
              name="machine_id"
              label="For machine"
              options={(machines.data ?? []).map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
            />
            <NumberField name="speed" label="Times the speed" />
            <NumberField name="seed" label="Seed" />
            <NumberField name="value" label="Measures" optional />
          </div>
          <ManyField name="faults" label="Faults of a printer" options={faults} />
          {start.isError && <Complaint>{start.error.message}</Complaint>}
          <button className="button button-main justify-self-start" disabled={start.isPending}>
            Start it
          </button>
        </form>
      </FormProvider>
    </section>
  )
}
