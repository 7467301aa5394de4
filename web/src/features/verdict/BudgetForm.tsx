import { useMutation } from '@tanstack/react-query'
import { FormProvider, useFieldArray, useFormContext } from 'react-hook-form'
import { How } from '../../components/How'
import { DraftOffer } from '../../components/DraftOffer'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { figure } from '../../lib/format'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n, orNull, t } from '../../lib/input'

interface Values {
  pieces_per_year: string
  years: string
  resale_pct: string
  per_piece: string
  upkeep: { name: string; price: string; every_pieces: string }[]
  paths: { name: string; now: string; saved: string; per_piece: string; measured_on: string }[]
}

/** How an owner is taken to use a machine, what is used up beside, and the ways to go on with one that is owned. */
export function BudgetForm({ id, s }: { id: string; s: Schemas['MoneySheet'] }) {
  const b = s.budget
  const form = useDraftForm<Values>(
    `draft-budget-${id}`,
    {
      pieces_per_year: t(b.pieces_per_year),
      years: t(b.years),
      resale_pct: t(b.resale_pct),
      per_piece: t(b.per_piece),
      upkeep: b.upkeep.map((k) => ({ name: k.name, price: t(k.price), every_pieces: t(k.every_pieces) })),
      paths: (b.paths ?? []).map((p) => ({
        name: p.name,
        now: t(p.now),
        saved: t(p.saved),
        per_piece: t(p.per_piece),
        measured_on: p.measured_on ? keyOf(p.measured_on) : '',
      })),
    },
    b.version,
  )
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.PUT('/api/v1/reviews/{id}/budget', {
          params: { path: { id } },
          body: {
            version: b.version,
            pieces_per_year: n(v.pieces_per_year),
            years: n(v.years),
            resale_pct: n(v.resale_pct),
            per_piece: orNull(v.per_piece) === null ? null : n(v.per_piece),
            upkeep: v.upkeep.map((k) => ({ name: k.name, price: n(k.price), every_pieces: n(k.every_pieces) })),
            paths: v.paths.map((p) => ({
              name: p.name,
              now: n(p.now),
              saved: n(p.saved),
              per_piece: p.measured_on === '' ? n(p.per_piece) : 0,
              measured_on: s.measured.find((m) => keyOf(m.ref) === p.measured_on)?.ref ?? null,
            })),
          },
        }),
      ),
    onSuccess: () => form.forget(),
    onError: (e) => showProblem(form, e),
  })
  const unit = s.prices.currency
  return (
    <FormProvider {...form}>
      <form
        className="sheet grid gap-4"
        aria-label="How it is owned"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
      >
        <div className="flex flex-wrap items-center justify-between gap-x-4">
          <h2>How it is owned</h2>
          <How figure="money" of="How it is owned" />
        </div>
        <DraftOffer old={form.old} />
        <div className="grid gap-3 sm:grid-cols-3">
          <NumberField name="pieces_per_year" label="Good pieces a year" />
          <NumberField name="years" label="Years" />
          <NumberField name="resale_pct" label="Sold again for" unit="% of its price" />
        </div>
        <Upkeep unit={unit} />
        <Paths unit={unit} perPiece={s.per_piece} measured={s.measured} />
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={save.isPending}>
            Keep how it is owned
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

function Upkeep({ unit }: { unit: string }) {
  const { control } = useFormContext<Values>()
  const { fields, append, remove } = useFieldArray({ control, name: 'upkeep' })
  return (
    <fieldset className="grid gap-2">
      <legend className="font-semibold">
        Used up beside resin, film and light <span className="font-normal text-soft">solvent, gloves, filters</span>
      </legend>
      {fields.map((f, i) => (
        <div key={f.id} className="grid items-end gap-2 sm:grid-cols-[1fr_9rem_11rem_auto]">
          <TextField name={`upkeep.${i}.name`} label="What" />
          <NumberField name={`upkeep.${i}.price`} label="Price" unit={unit} />
          <NumberField name={`upkeep.${i}.every_pieces`} label="Every so many pieces" />
          <button type="button" className="button" aria-label={`Remove upkeep ${i + 1}`} onClick={() => remove(i)}>
            Remove
          </button>
        </div>
      ))}
      <div>
        <button type="button" className="button" onClick={() => append({ name: '', price: '', every_pieces: '' })}>
          Add what is used up
        </button>
      </div>
    </fieldset>
  )
}

const keyOf = (r: { profile_id: string; since?: string }) => `${r.profile_id} ${r.since ?? ''}`

function Paths({
  unit,
  perPiece,
  measured,
}: {
  unit: string
  perPiece: number | null
  measured: Schemas['MeasuredCost'][]
}) {
  const { control, watch } = useFormContext<Values>()
  const { fields, append, remove } = useFieldArray({ control, name: 'paths' })
  const first = (name: string) => append({ name, now: '', saved: '0', per_piece: '', measured_on: '' })
  return (
    <fieldset className="grid gap-2">
      <legend className="font-semibold">
        To go on with one that is owned <span className="font-normal text-soft">when it pays for itself</span>
      </legend>
      <div className="max-w-xs">
        <NumberField
          name="per_piece"
          label="A good piece costs now"
          unit={unit}
          optional
          hint={perPiece === null ? undefined : `empty: ${figure(perPiece)} ${unit}, of the record`}
        />
      </div>
      {fields.map((f, i) => (
        <div
          key={f.id}
          className="grid items-start gap-2 border-t border-line pt-2 sm:grid-cols-2 lg:grid-cols-[1fr_9rem_11rem_16rem_auto]"
        >
          <TextField name={`paths.${i}.name`} label="Way" />
          <NumberField name={`paths.${i}.now`} label="Costs once" unit={unit} />
          <NumberField name={`paths.${i}.saved`} label="Less what it saves" unit={unit} />
          <div className="grid gap-2">
            <SelectField
              name={`paths.${i}.measured_on`}
              label="A good piece then"
              options={[
                { value: '', label: 'as typed' },
                ...measured.map((m) => ({ value: keyOf(m.ref), label: `as on ${m.name}: ${m.says}` })),
              ]}
            />
            {watch(`paths.${i}.measured_on`) === '' && (
              <NumberField name={`paths.${i}.per_piece`} label="It costs" unit={unit} />
            )}
          </div>
          <button type="button" className="button lg:mt-5" aria-label={`Remove way ${i + 1}`} onClick={() => remove(i)}>
            Remove
          </button>
        </div>
      ))}
      <div className="flex flex-wrap gap-2">
        {['upgrading now', 'upgrading with the next panel', 'buying new'].map((name) => (
          <button key={name} type="button" className="button" onClick={() => first(name)}>
            Add {name}
          </button>
        ))}
      </div>
    </fieldset>
  )
}
