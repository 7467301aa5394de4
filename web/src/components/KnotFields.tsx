import { useFieldArray, useFormContext, useWatch } from 'react-hook-form'
import { CheckField, ManyField, NumberField, SelectField, TextField } from './Field'
import type { Schemas } from '../lib/api'
import { localInput } from '../lib/format'
import { n, t } from '../lib/input'
import { useResins } from '../lib/queries'
import { choices } from '../lib/choices'

type Change = Schemas['Change']

/** A knot as it is typed: one or several things that happened to a machine at once. */
export interface KnotValues {
  kinds: string[]
  at: string
  note: string
  film_layers: string
  light_h: string
  unknown_before: boolean
  resin_id: string
  changes: Change[]
  claimed_time_pct: string
}

const kinds = choices<Schemas['MachineEvent']['kinds'][number]>({
  film: 'new film',
  panel: 'new panel or light',
  relevel: 'levelled',
  zero: 'zero set',
  move: 'moved',
  vat: 'another vat put in',
  vat_clean: 'vat cleaned',
  firmware: 'firmware',
  upgrade: 'upgrade',
  light_calibration: 'light calibrated',
  filter: 'filter',
  plate_surface: 'plate surface',
  accessory_on: 'accessory put on',
  accessory_off: 'accessory taken off',
  surroundings: 'heat, cold or a knock',
  counter: 'its counter was read',
  incident: 'incident',
  stands: 'stands in a room',
})

/** What a change is called so that the record can hold it against prints. */
const names = ['film type', 'plate surface', 'panel', 'firmware', 'accessory', 'room']

export const blankKnot = (nowMs: number): KnotValues => ({
  kinds: ['film'],
  at: localInput(nowMs),
  note: '',
  film_layers: '',
  light_h: '',
  unknown_before: false,
  resin_id: '',
  changes: [],
  claimed_time_pct: '',
})

export const knotValues = (e: Schemas['MachineEvent']): KnotValues => ({
  kinds: [...e.kinds],
  at: localInput(e.at_ms),
  note: e.note,
  film_layers: t(e.film_layers),
  light_h: t(e.light_h),
  unknown_before: e.unknown_before ?? false,
  resin_id: e.resin_id ?? '',
  changes: [...(e.changes ?? [])],
  claimed_time_pct: t(e.claimed_time_pct),
})

export const knotBody = (v: KnotValues) => ({
  kinds: v.kinds as Schemas['MachineEvent']['kinds'],
  at_ms: new Date(v.at).getTime() || 0,
  note: v.note,
  film_layers: n(v.film_layers) as number | null,
  light_h: n(v.light_h) as number | null,
  unknown_before: v.unknown_before,
  resin_id: v.resin_id || null,
  changes: v.changes,
  claimed_time_pct: n(v.claimed_time_pct) as number | null,
})

/** What happened, when, what its counters showed, and all that changed with it. */
export function KnotFields() {
  const resins = useResins()
  const chosen = (useWatch({ name: 'kinds' }) as string[] | undefined) ?? []
  const has = (...of: string[]) => of.some((k) => chosen.includes(k))
  return (
    <>
      <ManyField name="kinds" label="What happened, all at once" options={kinds} />
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <TextField name="at" label="When" type="datetime-local" />
        <TextField name="note" label="Note" />
        {has('film', 'counter') && (
          <NumberField
            name="film_layers"
            label={has('film') ? 'It had on it before' : 'Layers that it shows'}
            unit="layers"
            optional
          />
        )}
        {has('panel', 'counter') && (
          <NumberField
            name="light_h"
            label={has('panel') ? 'It was lit before' : 'Hours that it shows'}
            unit="h"
            optional
          />
        )}
        {has('vat') && (
          <SelectField
            name="resin_id"
            label="Resin in that vat"
            empty="choose"
            options={(resins.data ?? []).map((r) => ({ value: r.resin.id ?? '', label: r.resin.name }))}
          />
        )}
        {has('upgrade', 'firmware') && (
          <NumberField
            name="claimed_time_pct"
            label="A print is claimed to take"
            unit="% of before"
            optional
            hint="held against what is measured"
          />
        )}
        {has('film', 'panel', 'counter') && (
          <CheckField name="unknown_before" label="What it had seen before is not known" />
        )}
      </div>
      <ChangeList accessory={has('accessory_on', 'accessory_off')} room={has('stands')} />
    </>
  )
}

/** All that changed with it: an upgrade seldom changes one thing. */
function ChangeList({ accessory, room }: { accessory: boolean; room: boolean }) {
  const { register, control, formState } = useFormContext<KnotValues>()
  const { fields, append, remove } = useFieldArray({ control, name: 'changes' })
  const complaint = formState.errors.changes?.message ?? formState.errors.changes?.root?.message
  return (
    <fieldset className="grid gap-2">
      <legend className="text-sm font-semibold">All that changed with it</legend>
      <datalist id="change-names">
        {names.map((name) => (
          <option key={name} value={name} />
        ))}
      </datalist>
      {fields.map((f, i) => (
        <div key={f.id} className="flex flex-wrap items-end gap-2">
          <label className="min-w-40 flex-1 text-sm">
            What
            <input className="input" list="change-names" required {...register(`changes.${i}.what`)} />
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
      {complaint && (
        <p role="alert" className="text-sm font-semibold text-bad">
          This list {complaint}
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="button"
          onClick={() => append({ what: '', from: '', to: '', undoable: false })}
        >
          Add a change
        </button>
        {room && (
          <button
            type="button"
            className="button"
            onClick={() => append({ what: 'room', from: '', to: '', undoable: true })}
          >
            Name the room
          </button>
        )}
        {accessory && (
          <button
            type="button"
            className="button"
            onClick={() => append({ what: 'accessory', from: '', to: '', undoable: true })}
          >
            Name the accessory
          </button>
        )}
      </div>
    </fieldset>
  )
}
