import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { FormProvider, useFieldArray, useFormContext, useWatch } from 'react-hook-form'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n, t } from '../../lib/input'
import { useMachines, useResins } from '../../lib/queries'
import { moves, stages } from './machineValues'

type Profile = Schemas['Profile']
type Values = Record<string, string> & { options?: { name: string; value: string; unit: string }[] }

const numbers = [
  'exposure_s',
  'bottom_layers',
  'bottom_exposure_s',
  'transition_layers',
  'release_s',
  'wait_before_s',
  'wait_after_s',
  'wait_lift_s',
  'light_power_pct',
] as const

/** What settings say, as the texts of a form. Duplicated ones begin as adjusted from their parent. */
function valuesOf(p: Partial<Profile> | undefined): Values {
  const out = {
    machine_id: p?.machine_id ?? '',
    resin_id: p?.resin_id ?? '',
    name: '',
    basis: p ? (p.basis === 'sealed' ? 'sealed' : 'adjusted') : 'default',
    sealed_name: p?.sealed_name ?? '',
    layer_um: t(p?.layer_um ?? 50),
    antialiasing: p?.antialiasing ?? 'none',
    note: '',
    ...stages('lift', p?.lift),
    ...stages('retract', p?.retract),
  } as Values
  for (const k of numbers) out[k] = t(p?.[k])
  if (!p) Object.assign(out, { bottom_layers: '5', bottom_exposure_s: '30', transition_layers: '0' })
  out.options = (p?.options ?? []).map((o) => ({ name: o.name, value: o.value, unit: o.unit ?? '' }))
  return out
}

/** Settings by hand, blank or from others: only what changed is typed. */
export function ProfileForm({ from, done }: { from?: Schemas['SettingsCard']; done: () => void }) {
  const machines = useMachines()
  const resins = useResins()
  const form = useDraftForm<Values>(`draft-profile-${from?.profile.id ?? 'new'}`, valuesOf(from?.profile))
  const { setFocus } = form
  useEffect(() => setFocus(from ? 'name' : 'machine_id'), [setFocus, from])
  const basis = useWatch({ control: form.control, name: 'basis' })
  const machineID = useWatch({ control: form.control, name: 'machine_id' })
  const sealed = basis === 'sealed'
  const machine = machines.data?.find((m) => m.machine.id === machineID)?.machine
  const laser = machine?.light_engine === 'laser'
  const save = useMutation({
    mutationFn: (v: Values) => {
      const body: Record<string, unknown> = {
        machine_id: v.machine_id,
        resin_id: v.resin_id,
        name: v.name,
        basis: v.basis,
        parent_id: from?.profile.id ?? null,
        sealed_name: sealed ? v.sealed_name : '',
        layer_um: n(v.layer_um),
        antialiasing: v.antialiasing,
        note: v.note,
        lift: sealed ? [] : moves(v, 'lift'),
        retract: sealed ? [] : moves(v, 'retract'),
        options: v.options ?? [],
      }
      // Nothing is made up for what the maker hides.
      for (const k of numbers) body[k] = sealed ? null : n(v[k])
      return answer(api.POST('/api/v1/profiles', { body: body as unknown as Profile }))
    },
    onSuccess: () => {
      form.forget()
      done()
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="sheet grid w-full gap-3"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
        aria-label="Settings by hand"
      >
        {from && (
          <h2>
            From <span className="font-normal">{from.name}</span>
          </h2>
        )}
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField
            name="machine_id"
            label="Machine"
            empty="choose"
            options={(machines.data ?? []).map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
          />
          <SelectField
            name="resin_id"
            label="Resin"
            empty="choose"
            options={(resins.data ?? []).map((r) => ({ value: r.resin.id ?? '', label: r.resin.name }))}
          />
          <TextField name="name" label="A name of its own" hint="what tells it from its neighbours" />
          <SelectField
            name="basis"
            label="Basis"
            options={[
              { value: 'default', label: "maker's default" },
              ...(from ? [{ value: 'adjusted', label: `adjusted from ${from.profile.code ?? ''}` }] : []),
              { value: 'own', label: 'own, by long use' },
              { value: 'borrowed', label: 'borrowed from another machine' },
              { value: 'sealed', label: 'sealed: the maker hides it' },
            ]}
          />
          <NumberField name="layer_um" label="Layer height" unit="µm" />
          {sealed ? (
            <TextField name="sealed_name" label="Name of the sealed profile" />
          ) : (
            <>
              <NumberField name="exposure_s" label="Exposure" unit="s" />
              <NumberField name="bottom_layers" label="Bottom layers" />
              <NumberField name="bottom_exposure_s" label="Bottom exposure" unit="s" />
              <NumberField name="transition_layers" label="Transition layers" />
              <NumberField name="light_power_pct" label="Light power" unit="%" optional />
            </>
          )}
          <TextField name="antialiasing" label="Anti-aliasing" />
          <TextField name="note" label="Where it comes from" />
        </div>
        {!from && machineID && !sealed && <Begin />}
        {!sealed && !laser && <Motion usual={!from} />}
        <Options />
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div className="flex gap-2">
          <button className="button button-main" disabled={save.isPending}>
            Keep these settings
          </button>
          <button type="button" className="button" onClick={done}>
            Leave it
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

/** What new settings of the machine begin with: taken over on a press, what was typed stays. */
function Begin() {
  const { control, getValues, setValue } = useFormContext<Values>()
  const [machineID, resinID, layer] = useWatch({ control, name: ['machine_id', 'resin_id', 'layer_um'] }) as string[]
  const layerUM = n(layer)
  const draft = useQuery({
    queryKey: ['settings-draft', machineID, resinID, layerUM],
    queryFn: () =>
      answer(
        api.GET('/api/v1/settings-draft', {
          params: {
            query: {
              machine_id: machineID ?? '',
              resin_id: resinID,
              layer_um: typeof layerUM === 'number' ? layerUM : 0,
            },
          },
        }),
      ),
  })
  if (!draft.data?.template_id) return null
  const take = (p: Profile) => {
    const begun = valuesOf(p)
    for (const [key, value] of Object.entries(begun)) {
      if (['machine_id', 'resin_id', 'name', 'basis', 'note', 'options', 'layer_um'].includes(key)) continue
      const untouched = ['bottom_layers', 'bottom_exposure_s', 'transition_layers', 'antialiasing'].includes(key)
      if (value && (untouched || !getValues(key))) setValue(key, value as string, { shouldDirty: true })
    }
    if ((getValues('options') ?? []).length === 0) setValue('options', begun.options, { shouldDirty: true })
  }
  return (
    <p className="flex flex-wrap items-center gap-2">
      <button type="button" className="button" onClick={() => take(draft.data.profile as Profile)}>
        Begin with {draft.data.from}
      </button>
      <span className="text-sm text-soft">
        its moves, waits and bottom layers; its exposures too, where it is for the same resin and layer height
      </span>
    </p>
  )
}

/** Moves and waits of these settings; left empty, the machine's usual ones. */
function Motion({ usual }: { usual: boolean }) {
  return (
    <fieldset className="grid gap-2">
      <legend className="text-sm font-semibold">
        Moves and waits{' '}
        {usual && (
          <span className="font-normal text-soft">(left empty, those that the machine has as its usual ones)</span>
        )}
      </legend>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <NumberField name="lift1_mm" label="Lift, first stage" unit="mm" optional />
        <NumberField name="lift1_mm_min" label="lifted at" unit="mm/min" optional />
        <NumberField name="lift2_mm" label="Lift, second" unit="mm" optional />
        <NumberField name="lift2_mm_min" label="second lifted at" unit="mm/min" optional />
        <NumberField name="retract1_mm" label="Retract, first" unit="mm" optional />
        <NumberField name="retract1_mm_min" label="retracted at" unit="mm/min" optional />
        <NumberField name="retract2_mm" label="Retract, second" unit="mm" optional />
        <NumberField name="retract2_mm_min" label="second retracted at" unit="mm/min" optional />
        <NumberField name="release_s" label="or release in" unit="s" optional />
        <NumberField name="wait_before_s" label="Wait before light" unit="s" optional />
        <NumberField name="wait_after_s" label="Wait after light" unit="s" optional />
        <NumberField name="wait_lift_s" label="Rest after lift" unit="s" optional />
      </div>
    </fieldset>
  )
}

/** Further values, named as the machine or the program shows them. */
function Options() {
  const { register, control } = useFormContext<Values>()
  const { fields, append, remove } = useFieldArray({ control, name: 'options' as never })
  return (
    <fieldset className="grid gap-2">
      <legend className="text-sm font-semibold">Further values, as the machine or the program names them</legend>
      {fields.map((f, i) => (
        <div key={f.id} className="flex flex-wrap items-end gap-2">
          <label className="min-w-40 flex-1 text-sm">
            Name
            <input className="input" required placeholder="blur" {...register(`options.${i}.name` as never)} />
          </label>
          <label className="text-sm">
            Value
            <input className="input num w-28" {...register(`options.${i}.value` as never)} />
          </label>
          <label className="text-sm">
            Unit
            <input className="input w-24" {...register(`options.${i}.unit` as never)} />
          </label>
          <button type="button" className="button" onClick={() => remove(i)}>
            Take out
          </button>
        </div>
      ))}
      <button
        type="button"
        className="button justify-self-start"
        onClick={() => append({ name: '', value: '', unit: '' } as never)}
      >
        Add a value
      </button>
    </fieldset>
  )
}
