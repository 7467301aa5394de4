import { useMutation } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { DurationField, NumberField, TextField } from '../../components/Field'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { seconds, spelled } from '../../lib/duration'
import { n, t } from '../../lib/input'
import { useSettings } from '../../lib/queries'

export function SettingsPanel() {
  const settings = useSettings()
  return <Ready of={settings}>{(s) => <Form key={s.version} settings={s} />}</Ready>
}

function Form({ settings }: { settings: Schemas['Settings'] }) {
  const form = useDraftForm('draft-settings', {
    currency: settings.currency,
    energy_per_kwh: t(settings.energy_per_kwh),
    labour_per_h: t(settings.labour_per_h),
    waste_pct: t(settings.waste_pct),
    viewing_mm: t(settings.viewing_mm),
    attended_from_h: t(settings.attended_from_h),
    attended_to_h: t(settings.attended_to_h),
    attended_days: t(settings.attended_days),
    turnaround_min: t(settings.turnaround_min),
    run_h_per_week: t(settings.run_h_per_week),
    vat_change_min: t(settings.vat_change_min),
    usual_software: settings.usual_software ?? '',
    usual_orientation: settings.usual_orientation ?? '',
    usual_supports: settings.usual_supports ?? '',
    usual_wash_s: spelled(settings.usual_wash_s),
    usual_cure_s: spelled(settings.usual_cure_s),
  })
  const save = useMutation({
    mutationFn: (v: Record<string, string>) =>
      answer(
        api.PUT('/api/v1/settings', {
          body: {
            version: settings.version,
            currency: v.currency ?? '',
            energy_per_kwh: n(v.energy_per_kwh),
            labour_per_h: n(v.labour_per_h),
            waste_pct: n(v.waste_pct),
            viewing_mm: n(v.viewing_mm),
            attended_from_h: n(v.attended_from_h),
            attended_to_h: n(v.attended_to_h),
            attended_days: n(v.attended_days),
            turnaround_min: n(v.turnaround_min),
            run_h_per_week: n(v.run_h_per_week),
            vat_change_min: n(v.vat_change_min),
            usual_software: v.usual_software ?? '',
            usual_orientation: v.usual_orientation ?? '',
            usual_supports: v.usual_supports ?? '',
            usual_wash_s: seconds(v.usual_wash_s),
            usual_cure_s: seconds(v.usual_cure_s),
          },
        }),
      ),
    onSuccess: () => form.forget(),
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form className="sheet grid gap-3" onSubmit={form.handleSubmit((v) => save.mutate(v))}>
        <h2>What every cost rests on</h2>
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <TextField name="currency" label="Currency" />
          <NumberField name="energy_per_kwh" label="Energy" unit="per kWh" />
          <NumberField name="labour_per_h" label="Your attended hour" unit="per h" hint="0 if you do not count it" />
          <NumberField name="waste_pct" label="Resin lost in vat and wash" unit="%" />
        </div>
        <h2>Your week, and your readers' eyes</h2>
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          <NumberField name="attended_from_h" label="You are there from" unit="h of the day" />
          <NumberField name="attended_to_h" label="to" unit="h of the day" />
          <NumberField name="attended_days" label="on" unit="days a week" />
          <NumberField
            name="turnaround_min"
            label="To turn a machine round"
            unit="min"
            hint="clear, level, pour, start"
          />
          <NumberField
            name="vat_change_min"
            label="To change the resin"
            unit="min"
            hint="empty, clean and fill a vat, besides"
          />
          <NumberField name="run_h_per_week" label="A machine runs" unit="h a week" hint="for years of wear" />
          <NumberField name="viewing_mm" label="Readers look from" unit="mm" />
        </div>
        <h2>What you usually do</h2>
        <p className="text-sm text-soft">
          The first print on a machine begins with it; later ones with what the last one there had.
        </p>
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          <TextField name="usual_software" label="Software, with its version" />
          <TextField name="usual_orientation" label="Orientation" />
          <TextField name="usual_supports" label="Supports" />
          <DurationField name="usual_wash_s" label="Wash" optional />
          <DurationField name="usual_cure_s" label="Cure" optional />
        </div>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={save.isPending}>
            Save
          </button>
        </div>
      </form>
    </FormProvider>
  )
}
