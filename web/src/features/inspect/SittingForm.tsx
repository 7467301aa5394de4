import { useMutation } from '@tanstack/react-query'
import { FormProvider, useWatch } from 'react-hook-form'
import { DraftOffer } from '../../components/DraftOffer'
import { ManyField, NumberField, SelectField, TextField } from '../../components/Field'
import { OwnScale } from '../../components/OwnScale'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n } from '../../lib/input'
import { stages, stations } from '../../lib/viewing'

type Sitting = Schemas['Sitting']

interface Values {
  rater: string
  station: string
  magnification: string
  stage: string
  light: string
  note: string
  scales: string[]
}

/** By whom, from where, in which stage and light: said once, and standing above every rating of the sitting. */
export function SittingForm({
  scales,
  before,
  done,
  leave,
}: {
  scales: Schemas['RatingScale'][]
  before?: Sitting
  done: () => void
  leave?: () => void
}) {
  const form = useDraftForm<Values>('draft-sitting', {
    rater: before?.rater ?? '',
    station: before?.station ?? 'in_hand',
    magnification: before?.magnification == null ? '' : String(before.magnification),
    stage: before?.stage ?? 'raw',
    light: before?.light ?? '',
    note: '',
    scales: before?.scales ?? ['edges', 'layer_lines', 'stepping'],
  })
  const station = useWatch({ control: form.control, name: 'station' })
  const begin = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/sittings', {
          body: {
            rater: v.rater,
            station: v.station as Sitting['station'],
            magnification: v.station === 'loupe' ? n(v.magnification) : null,
            stage: v.stage as Sitting['stage'],
            light: v.light,
            note: v.note,
            scales: v.scales,
          },
        }),
      ),
    onSuccess: () => {
      form.forget()
      done()
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <>
      <FormProvider {...form}>
        <form className="grid gap-3" aria-label="A sitting" onSubmit={form.handleSubmit((v) => begin.mutate(v))}>
          <DraftOffer old={form.old} />
          <p className="text-soft">
            Scores of different stations or stages are never averaged. Say once how you look; it stands above every
            rating until you begin another sitting.
          </p>
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
            <TextField name="rater" label="Who judges" />
            <SelectField name="station" label="From where" options={stations} />
            {station === 'loupe' && <NumberField name="magnification" label="Magnification" unit="×" />}
            <SelectField name="stage" label="Stage of the surface" options={stages} />
            <TextField name="light" label="Light" hint="daylight, a desk lamp from the left …" />
            <TextField name="note" label="Note of the sitting" />
          </div>
          <ManyField
            name="scales"
            label="What is judged"
            options={scales.map((s) => ({ value: s.key, label: s.name }))}
          />
          {begin.isError && <Complaint>{begin.error.message}</Complaint>}
          <div className="flex flex-wrap gap-2">
            <button className="button button-main" disabled={begin.isPending}>
              Begin this sitting
            </button>
            {leave && (
              <button type="button" className="button" onClick={leave}>
                Stay in the one before
              </button>
            )}
          </div>
        </form>
      </FormProvider>
      <OwnScale keep={(v) => answer(api.POST('/api/v1/rating-scales', { body: { ...v, about: 'specimens' } }))} />
    </>
  )
}
