import { FormProvider } from 'react-hook-form'
import { DraftOffer } from '../../components/DraftOffer'
import { CheckField, DurationField, NumberField, SelectField, TextField } from '../../components/Field'
import type { PlateSheet } from '../../lib/api'
import { useDraftForm } from '../../lib/draft'
import { seconds, spelled } from '../../lib/duration'
import { n, t } from '../../lib/input'
import { useBottles } from '../../lib/queries'

interface Values {
  name: string
  spacing_mm: string
  margin_mm: string
  overlap_allowed: boolean
  vat_fill_ml: string
  drip_ml: string
  liquid_ratio: string
  bottle_id: string
  software: string
  software_estimate_s: string
  orientation: string
  supports: string
  wash_s: string
  cure_s: string
}

/** What the plan rests on besides the pieces. */
export function PlateSettings({ sheet: s, save }: { sheet: PlateSheet; save: (plate: PlateSheet['plate']) => void }) {
  const bottles = useBottles()
  const p = s.plate
  const form = useDraftForm<Values>(
    `draft-plate-${p.id}`,
    {
      name: p.name,
      spacing_mm: t(p.spacing_mm),
      margin_mm: t(p.margin_mm),
      overlap_allowed: p.overlap_allowed,
      vat_fill_ml: t(p.vat_fill_ml),
      drip_ml: t(p.drip_ml),
      liquid_ratio: t(p.liquid_ratio),
      bottle_id: p.bottle_id ?? '',
      software: p.software,
      software_estimate_s: spelled(p.software_estimate_s),
      orientation: p.orientation ?? '',
      supports: p.supports ?? '',
      wash_s: spelled(p.wash_s),
      cure_s: spelled(p.cure_s),
    },
    p.version,
  )
  const submit = (v: Values) => {
    form.forget()
    save({
      ...p,
      name: v.name,
      spacing_mm: n(v.spacing_mm),
      margin_mm: n(v.margin_mm),
      overlap_allowed: v.overlap_allowed,
      vat_fill_ml: n(v.vat_fill_ml),
      drip_ml: n(v.drip_ml),
      liquid_ratio: n(v.liquid_ratio),
      bottle_id: v.bottle_id || null,
      software: v.software,
      software_estimate_s: seconds(v.software_estimate_s),
      orientation: v.orientation || null,
      supports: v.supports || null,
      wash_s: seconds(v.wash_s),
      cure_s: seconds(v.cure_s),
    })
  }
  return (
    <FormProvider {...form}>
      <form
        className="sheet no-print grid gap-3"
        onSubmit={form.handleSubmit(submit)}
        aria-label="What the plan rests on"
      >
        <DraftOffer old={form.old} />
        <h2>What the plan rests on</h2>
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <TextField name="name" label="Name" />
          <NumberField name="spacing_mm" label="Between pieces" unit="mm" />
          <NumberField name="margin_mm" label="From the edge" unit="mm" />
          <CheckField name="overlap_allowed" label="Pieces may overlap" />
          <SelectField
            name="bottle_id"
            label="Bottle"
            empty="none chosen"
            options={(bottles.data ?? [])
              .filter((b) => b.resin_id === s.resin.id)
              .map((b) => ({ value: b.id, label: `${b.code} ${b.lot}` }))}
          />
          <NumberField name="vat_fill_ml" label="In the vat at the start" unit="ml" hint="empty: filled to the top" />
          <NumberField name="drip_ml" label="Drips off with the parts" unit="ml" />
          <NumberField name="liquid_ratio" label="Liquid per solid volume" hint="cured resin is denser: 1.05 or so" />
          <TextField name="software" label="Software that slices it" />
          <DurationField name="software_estimate_s" label="Its own estimate" optional />
          <TextField name="orientation" label="Orientation" hint="the print takes these four over" />
          <TextField name="supports" label="Supports" />
          <DurationField name="wash_s" label="To be washed" optional />
          <DurationField name="cure_s" label="To be cured" optional />
        </div>
        <div>
          <button className="button">Work it out again</button>
        </div>
      </form>
    </FormProvider>
  )
}
