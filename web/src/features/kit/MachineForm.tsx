import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { FormProvider, useFieldArray, useFormContext, useWatch } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { How } from '../../components/How'
import { DraftOffer } from '../../components/DraftOffer'
import { CheckField, ManyField, NumberField, SelectField, TextArea, TextField } from '../../components/Field'
import { Figure, Warnings } from '../../components/Figure'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure, grouped } from '../../lib/format'
import { n } from '../../lib/input'
import { bodyOf, valuesOf, type MachineValues } from './machineValues'
import { choices, type Kind } from '../../lib/choices'

const grid = 'grid gap-3 sm:grid-cols-2 lg:grid-cols-3'

export function MachineForm({ machine, others }: { machine?: Schemas['Machine']; others: Schemas['Machine'][] }) {
  const navigate = useNavigate()
  const form = useDraftForm<MachineValues>(`draft-machine-${machine?.id ?? 'new'}`, valuesOf(machine), machine?.version)
  const save = useMutation({
    mutationFn: (v: MachineValues) => {
      const body = bodyOf(v, machine?.version)
      return answer(
        machine?.id
          ? api.PUT('/api/v1/machines/{id}', { params: { path: { id: machine.id } }, body })
          : api.POST('/api/v1/machines', { body }),
      )
    },
    onSuccess: () => {
      form.forget()
      void navigate('/kit', { state: { next: true } })
    },
    onError: (e) => showProblem(form, e),
  })
  const laser = useWatch({ control: form.control, name: 'light_engine' }) === 'laser'
  return (
    <FormProvider {...form}>
      <form
        className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_19rem]"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
      >
        <div className="grid gap-4">
          <DraftOffer old={form.old} />
          <section className="sheet grid gap-3">
            <h2>The machine</h2>
            <div className={grid}>
              <TextField name="name" label="Name" />
              <TextField name="maker" label="Maker" />
              <SelectField
                name="light_engine"
                label="Light"
                options={choices<Kind<'Machine', 'light_engine'>>({
                  masked_lcd: 'masked LCD',
                  projector: 'projector',
                  laser: 'laser',
                })}
              />
              <NumberField name="width_mm" label="Plate width" unit="mm" />
              <NumberField name="depth_mm" label="Plate depth" unit="mm" />
              <NumberField name="height_mm" label="Height it prints" unit="mm" />
              {!laser && <NumberField name="px_x" label="Pixels along the width" />}
              {!laser && <NumberField name="px_y" label="Pixels along the depth" />}
              {!laser && <NumberField name="irradiance_mw_cm2" label="Irradiance at the film" unit="mW/cm²" optional />}
              <NumberField name="dial_step_s" label="Smallest exposure step" unit="s" />
              <NumberField name="claimed_mm_h" label="Speed its maker claims" unit="mm/h" optional />
              {!laser && (
                <SelectField
                  name="cell_exposure"
                  label="Cells of one plate can differ"
                  options={choices<Kind<'Machine', 'cell_exposure'>>({
                    none: 'no, a plate is exposed alike',
                    together: 'yes, lit together',
                    in_turn: 'yes, one after the other',
                  })}
                />
              )}
            </div>
          </section>
          {laser ? <Laser /> : <Motion />}
          <section className="sheet grid gap-3">
            <h2>Vat, power and price</h2>
            <div className={grid}>
              <NumberField name="vat_max_ml" label="Vat, full" unit="ml" optional />
              <NumberField name="vat_dead_ml" label="Vat, no longer reached" unit="ml" optional />
              <NumberField name="power_w" label="Power while printing" unit="W" />
              <NumberField name="price_list" label="List price" optional />
              <NumberField name="price_discount" label="Discount and coupon" />
              <NumberField name="price_shipping" label="Shipping" />
              <NumberField name="price_tax_pct" label="Tax" unit="%" />
              <NumberField
                name="price_extras"
                label="Extras to match the others"
                hint="filter, plate or what another has in the box"
              />
              <CheckField name="price_tax_included" label="Tax is in the price" />
              <NumberField name="film_price" label="New film" optional />
              <NumberField name="film_life_layers" label="Film, stated life" unit="layers" optional />
              <NumberField name="light_price" label="New panel or light" optional />
              <NumberField name="light_life_h" label="Light, stated life" unit="h lit" optional />
              <TextField name="supplied_by" label="Who supplied it, who paid" />
            </div>
            <TextArea name="notes" label="Notes" />
          </section>
          <section className="sheet grid gap-3">
            <h2>Quirk card</h2>
            <p className="text-sm text-soft">
              What one learns the hard way; it stands before each print on this machine.
            </p>
            <div className="grid gap-3 sm:grid-cols-2">
              <TextField name="quirk_files" label="Where files must lie" />
              <TextField name="quirk_restart" label="Between two jobs" />
              <TextField name="quirk_height" label="Height it really prints" />
              <TextField name="quirk_settings" label="Settings that can be seen or changed" />
              <TextField name="quirk_films" label="Films that stay on" />
            </div>
            <QuirkFaults />
          </section>
          <section className="sheet grid gap-3">
            <h2>What it never tells</h2>
            <ManyField
              name="not_known"
              label="Stands as “not known” with each print"
              options={[
                { value: 'resin_temp_c', label: 'resin temperature' },
                { value: 'room_temp_c', label: 'room temperature' },
                { value: 'software_estimate_s', label: "the software's estimate" },
                { value: 'resin_used_g', label: 'resin used' },
              ]}
            />
          </section>
          {save.isError && <Complaint>{save.error.message}</Complaint>}
          <div>
            <button className="button button-main" disabled={save.isPending}>
              Save the machine
            </button>
          </div>
        </div>
        {!laser && <PitchPanel others={others.filter((m) => m.id !== machine?.id && m.light_engine !== 'laser')} />}
      </form>
    </FormProvider>
  )
}

/** Faults that this machine is known for: they are said first when one of them comes. */
function QuirkFaults() {
  const symptoms = useQuery({
    queryKey: ['symptoms'],
    staleTime: Infinity,
    queryFn: () => answer(api.GET('/api/v1/symptoms')),
  })
  const { register, control } = useFormContext<MachineValues>()
  const { fields, append, remove } = useFieldArray({ control, name: 'quirk_faults' as never })
  return (
    <fieldset className="grid gap-2">
      <legend className="text-sm font-semibold">Faults it is known for</legend>
      {fields.map((f, i) => (
        <div key={f.id} className="flex flex-wrap items-end gap-2">
          <label className="text-sm">
            Symptom
            <select className="input" {...register(`quirk_faults.${i}.symptom` as never)}>
              {(symptoms.data ?? []).map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
          </label>
          <label className="min-w-40 flex-1 text-sm">
            What is known of it
            <input className="input" required {...register(`quirk_faults.${i}.text` as never)} />
          </label>
          <label className="min-w-40 flex-1 text-sm">
            What is done against it
            <input className="input" {...register(`quirk_faults.${i}.workaround` as never)} />
          </label>
          <label className="text-sm">
            since
            <input className="input" type="datetime-local" {...register(`quirk_faults.${i}.since` as never)} />
          </label>
          <button type="button" className="button" onClick={() => remove(i)}>
            Take out
          </button>
        </div>
      ))}
      <button
        type="button"
        className="button justify-self-start"
        onClick={() => append({ symptom: symptoms.data?.[0] ?? '', text: '', workaround: '', since: '' } as never)}
      >
        Add a fault
      </button>
    </fieldset>
  )
}

function Motion() {
  return (
    <section className="sheet grid gap-3">
      <h2>Usual motion and waits</h2>
      <p className="text-sm text-soft">
        New settings begin with these; what was printed keeps those of its own settings. Leave the second stage empty
        where there is one stage only; give the release time instead for a vat that tilts.
      </p>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <NumberField name="lift1_mm" label="Lift, first stage" unit="mm" />
        <NumberField name="lift1_mm_min" label="at" unit="mm/min" />
        <NumberField name="lift2_mm" label="Lift, second" unit="mm" optional />
        <NumberField name="lift2_mm_min" label="at" unit="mm/min" optional />
        <NumberField name="retract1_mm" label="Retract, first" unit="mm" />
        <NumberField name="retract1_mm_min" label="at" unit="mm/min" />
        <NumberField name="retract2_mm" label="Retract, second" unit="mm" optional />
        <NumberField name="retract2_mm_min" label="at" unit="mm/min" optional />
        <NumberField name="release_s" label="or release in" unit="s" optional />
        <NumberField name="wait_before_s" label="Wait before light" unit="s" />
        <NumberField name="wait_after_s" label="Wait after light" unit="s" />
        <NumberField name="wait_lift_s" label="Rest after lift" unit="s" />
        <NumberField name="start_s" label="Start of a job" unit="s" />
        <NumberField name="end_s" label="End of a job" unit="s" />
      </div>
    </section>
  )
}

function Laser() {
  return (
    <section className="sheet grid gap-3">
      <h2>Spot and speeds</h2>
      <div className={grid}>
        <NumberField name="spot_um" label="Spot" unit="µm" />
        <NumberField name="hatch_mm" label="Hatch distance" unit="mm" />
        <NumberField name="hatch_mm_s" label="Hatch speed" unit="mm/s" />
        <NumberField name="contour_passes" label="Outline passes" />
        <NumberField name="contour_mm_s" label="Outline speed" unit="mm/s" />
        <NumberField name="settle_s" label="Recoat and settle, per layer" unit="s" />
        <NumberField name="start_s" label="Start of a job" unit="s" />
        <NumberField name="end_s" label="End of a job" unit="s" />
      </div>
    </section>
  )
}

/** Pitch, computed as it is typed, and what its ratios to another machine mean. */
function PitchPanel({ others }: { others: Schemas['Machine'][] }) {
  const v = useWatch<MachineValues>() as Record<string, string>
  const other = others.find((m) => m.id === v.compare_with)
  const panel = { width_mm: n(v.width_mm), depth_mm: n(v.depth_mm), px_x: n(v.px_x), px_y: n(v.px_y) }
  const body = {
    ...panel,
    reference: other && {
      width_mm: other.width_mm,
      depth_mm: other.depth_mm,
      px_x: other.px_x ?? 0,
      px_y: other.px_y ?? 0,
    },
  }
  const complete = Object.values(panel).every((x) => typeof x === 'number')
  const pitch = useQuery({
    queryKey: ['pitch', body],
    enabled: complete,
    placeholderData: keepPreviousData,
    queryFn: () => answer(api.POST('/api/v1/calc/optics/pitch', { body })),
  })
  const p = complete ? pitch.data : undefined
  return (
    <aside className="sheet grid gap-3 lg:sticky lg:top-4" aria-live="polite" aria-label="Pitch">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Pitch</h2>
        <How figure="detail" of="Pitch" />
      </div>
      {!complete && (
        <p className="text-soft">
          Plate size and pixel counts give the pitch: the size of a pixel where it draws, not the count on the box.
        </p>
      )}
      {complete && pitch.isError && <Complaint>{pitch.error.message}</Complaint>}
      {p && !pitch.isError && (
        <dl className="grid gap-2">
          <Figure
            label="Pitch"
            value={figure(p.pitch_um)}
            unit="µm"
            source="computed"
            note={`${figure(p.pitch_x_um)} by ${figure(p.pitch_y_um)} µm`}
          />
          <Figure
            label="Pixels"
            value={grouped(p.pixels)}
            source="computed"
            note={`${figure(p.density_per_mm2)} on a square millimetre`}
          />
        </dl>
      )}
      {p && <Warnings list={p.warnings} />}
      {others.length > 0 && (
        <SelectField
          name="compare_with"
          label="Against"
          empty="no other machine"
          options={others.map((m) => ({ value: m.id ?? '', label: m.name }))}
        />
      )}
      {p?.versus && other && (
        <dl className="grid gap-2">
          <Figure
            label={`Fineness against ${other.name}`}
            value={figure(p.versus.linear_ratio)}
            unit="times"
            source="computed"
            note="the ratio of pitches; above 1 draws finer"
          />
          <Figure
            label="Pixel count"
            value={figure(p.versus.pixel_count_ratio)}
            unit="times"
            source="computed"
            note="says nothing of sharpness"
          />
          <Figure
            label="Pixels on a square millimetre"
            value={figure(p.versus.density_ratio)}
            unit="times"
            source="computed"
          />
          <Figure label="Plate area" value={figure(p.versus.plate_area_ratio)} unit="times" source="computed" />
        </dl>
      )}
    </aside>
  )
}
