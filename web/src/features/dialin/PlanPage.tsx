import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider, useFormContext, useWatch } from 'react-hook-form'
import { Link, useNavigate } from 'react-router'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Figure, Warnings } from '../../components/Figure'
import { Complaint, Empty, Page } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure, words } from '../../lib/format'
import { n, t } from '../../lib/input'
import { useMachines, useProfiles, useResins } from '../../lib/queries'
import { choices, type Kind } from '../../lib/choices'

const blank = {
  machine_id: '',
  resin_id: '',
  layer_um: '50',
  school: 'detail',
  from_s: '',
  step_s: '',
  cells: '6',
  bottom_layers: '5',
  bottom_exposure_s: '30',
  transition_layers: '6',
  origin: "the resin's label",
}
type Values = typeof blank

export default function PlanPage() {
  const navigate = useNavigate()
  const machines = useMachines()
  const resins = useResins()
  const form = useDraftForm<Values>('draft-series', blank)
  const plan = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/series', {
          body: {
            machine_id: v.machine_id,
            resin_id: v.resin_id,
            layer_um: n(v.layer_um),
            school: v.school as 'fit',
            from_s: n(v.from_s),
            step_s: n(v.step_s),
            cells: n(v.cells),
            bottom_layers: n(v.bottom_layers),
            bottom_exposure_s: n(v.bottom_exposure_s),
            transition_layers: n(v.transition_layers),
            origin: v.origin,
          },
        }),
      ),
    onSuccess: (sheet) => {
      form.forget()
      void navigate(`/dial-in/${sheet.series.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  const dialled = (machines.data ?? []).filter((m) => m.machine.light_engine !== 'laser')
  return (
    <Page
      title="Plan a series"
      about="Print the coupon once for each cell, or all cells on one plate where the machine can vary the exposure."
    >
      {machines.data && resins.data && (dialled.length === 0 || resins.data.length === 0) ? (
        <Empty title="A series needs a machine and a resin">
          <Link to="/kit/machines/new">Enter a machine</Link>
          <Link to="/kit/resins/new">Enter a resin</Link>
        </Empty>
      ) : (
        <FormProvider {...form}>
          <form className="grid gap-4" onSubmit={form.handleSubmit((v) => plan.mutate(v))}>
            <section className="sheet grid gap-3">
              <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
                <SelectField
                  name="machine_id"
                  label="Machine"
                  empty="choose"
                  options={dialled.map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
                />
                <SelectField
                  name="resin_id"
                  label="Resin"
                  empty="choose"
                  options={(resins.data ?? []).map((r) => ({ value: r.resin.id ?? '', label: r.resin.name }))}
                />
                <NumberField name="layer_um" label="Layer height" unit="µm" />
                <SelectField
                  name="school"
                  label="Choose by"
                  options={choices<Kind<'SeriesPlan', 'school'>>({
                    detail: 'detail: pins and gaps alike',
                    fit: 'fit: dimensions come right',
                    survival: 'survival: all comes off whole',
                  })}
                />
                <NumberField name="from_s" label="First exposure" unit="s" />
                <NumberField name="step_s" label="Step" unit="s" />
                <NumberField name="cells" label="Cells" />
                <TextField name="origin" label="Where the start comes from" />
                <NumberField name="bottom_layers" label="Bottom layers" />
                <NumberField name="bottom_exposure_s" label="Bottom exposure" unit="s" />
                <NumberField name="transition_layers" label="Transition layers" />
              </div>
              {plan.isError && <Complaint>{plan.error.message}</Complaint>}
              <div>
                <button className="button button-main" disabled={plan.isPending}>
                  Plan these cells
                </button>
              </div>
            </section>
            <CarryExposure />
          </form>
        </FormProvider>
      )}
    </Page>
  )
}

/** Carries an exposure over from another machine: the dose carries, not the seconds. */
function CarryExposure() {
  const { setValue } = useFormContext<Values>()
  const v = useWatch<Values>()
  const machines = useMachines()
  const profiles = useProfiles()
  const [source, setSource] = useState('')
  const to = machines.data?.find((m) => m.machine.id === v.machine_id)?.machine
  const name = (id: string) => machines.data?.find((m) => m.machine.id === id)?.machine
  const known = (profiles.data ?? []).filter((p) => p.exposure_s !== null)
  const cells = n(v.cells)
  const carried = useMutation({
    mutationFn: () =>
      answer(
        api.GET('/api/v1/carried-exposure', {
          params: {
            query: {
              profile_id: source,
              machine_id: v.machine_id ?? '',
              resin_id: v.resin_id,
              layer_um: n(v.layer_um ?? '') ?? undefined,
              cells: cells ?? undefined,
            },
          },
        }),
      ),
  })
  if (known.length === 0) return null
  const use = (b: Schemas['CarriedExposure']) => {
    setValue('from_s', t(Number(b.from_s.toFixed(3))))
    setValue('step_s', t(Number(b.step_s.toFixed(3))))
    setValue('origin', b.origin)
  }
  return (
    <section className="sheet grid gap-3">
      <h2>Or start from a setting borrowed from another machine</h2>
      <div className="grid items-end gap-3 sm:grid-cols-[minmax(0,1fr)_auto]">
        <label className="text-sm font-semibold">
          Setting to borrow
          <select className="input font-normal" value={source} onChange={(e) => setSource(e.target.value)}>
            <option value="">choose</option>
            {known
              .filter((p) => p.machine_id !== v.machine_id)
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {name(p.machine_id)?.name}: {p.label}
                </option>
              ))}
          </select>
        </label>
        <button
          type="button"
          className="button"
          disabled={source === '' || !to || !v.resin_id}
          onClick={() => carried.mutate()}
        >
          Carry it over
        </button>
      </div>
      {(!to || !v.resin_id) && <p className="text-sm text-soft">Choose the machine and the resin above first.</p>}
      {carried.isError && <Complaint>{carried.error.message}</Complaint>}
      {carried.data && (
        <div className="grid justify-items-start gap-3">
          <dl>
            <Figure
              label="Carried over"
              value={figure(carried.data.transfer.exposure_s)}
              unit="s"
              source="estimated"
              note={`factor ${figure(carried.data.transfer.factor)} by ${words(carried.data.transfer.basis)}; test ${figure(carried.data.transfer.from_s)} to ${figure(carried.data.transfer.to_s)} s`}
            />
          </dl>
          <Warnings list={carried.data.transfer.warnings} />
          <button type="button" className="button" onClick={() => use(carried.data)}>
            Plan this bracket
          </button>
        </div>
      )}
    </section>
  )
}
