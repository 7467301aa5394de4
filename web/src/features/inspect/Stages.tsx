import { useMutation } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { CheckField, NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { counted, day, figure } from '../../lib/format'
import { n } from '../../lib/input'
import { stages } from '../../lib/viewing'
import type { InHand } from './inHand'

type Stage = Schemas['Stage']['stage']

/** The stages that a copy's surface went through, with the minutes of rework; the next is noted for one or for all. */
export function Stages({ sheet, specimen }: { sheet: InHand; specimen: Schemas['Specimen'] }) {
  const at = sheet.specimens.findIndex((s) => s.id === specimen.id)
  const now = (sheet.reached[at] ?? 'raw') as Stage
  const reworkMin = sheet.rework_min[at]
  const noted = sheet.stages.filter((s) => s.specimen_id === specimen.id)
  const order = stages.map((s) => s.value)
  const blank = { stage: order[order.indexOf(now) + 1] ?? now, rework_min: '', note: '', all: false }
  const form = useDraftForm(`draft-stage-${specimen.id}`, blank, now)
  const others = sheet.specimens.filter((s) => s.outcome !== 'lost' && !sheet.set_aside.includes(s.code ?? ''))
  const save = useMutation({
    mutationFn: (v: typeof blank) =>
      answer(
        api.POST('/api/v1/runs/{id}/stages', {
          params: { path: { id: sheet.id } },
          body: {
            specimen_ids: v.all ? others.map((s) => s.id ?? '') : [specimen.id ?? ''],
            stage: v.stage as Stage,
            rework_min: n(v.rework_min),
            note: v.note,
          },
        }),
      ),
    onSuccess: () => form.forget(),
    onError: (e) => showProblem(form, e),
  })
  return (
    <details className="sheet" open={form.restored} aria-label={`Surface of ${specimen.code}`}>
      <summary className="min-h-(--tap) cursor-pointer content-center">
        <span className="font-semibold">Surface of {specimen.code}: </span>
        {now}
        {reworkMin != null && <span className="num">, {figure(reworkMin)} min of rework</span>}
      </summary>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
        <FormProvider {...form}>
          <form
            className="grid items-start gap-3 sm:grid-cols-2 lg:grid-cols-4"
            aria-label="The next stage"
            onSubmit={form.handleSubmit((v) => save.mutate(v))}
          >
            <SelectField
              name="stage"
              label="It is now"
              options={stages.filter((s) => order.indexOf(s.value) >= order.indexOf(now))}
            />
            <NumberField name="rework_min" label="Sanding, filling: each took" unit="min" optional />
            <TextField name="note" label="Note" />
            <CheckField name="all" label={`all ${counted(others.length, 'copy', 'copies')} of this print`} />
            <div>
              <button className="button button-main" disabled={save.isPending}>
                Keep this
              </button>
            </div>
          </form>
        </FormProvider>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <p className="text-sm text-soft">
          Under varnish, primer or paint nothing of what lay below can be judged any more, and sizes read from then on
          stand apart.
        </p>
        {noted.length > 0 && (
          <ul className="grid gap-1" aria-label={`Stages of ${specimen.code}`}>
            {noted.map((s) => (
              <Noted key={s.id} run={sheet.id} s={s} />
            ))}
          </ul>
        )}
      </div>
    </details>
  )
}

function Noted({ run, s }: { run: string; s: Schemas['SpecimenStage'] }) {
  const back = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/runs/{id}/stages/{stage_id}/taking-back', {
          params: { path: { id: run, stage_id: s.id } },
        }),
      ),
  })
  const words = [s.stage, s.rework_min !== null && `${figure(s.rework_min)} min of rework`, s.note]
    .filter(Boolean)
    .join(', ')
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className={s.taken_back_ms === null ? '' : 'text-soft line-through'}>
        {day(s.at_ms)}: {words}
      </span>
      {s.taken_back_ms === null ? (
        <button
          className="button"
          aria-label={`Take back ${words}`}
          disabled={back.isPending}
          onClick={() => back.mutate()}
        >
          Take back
        </button>
      ) : (
        <span className="text-soft">taken back</span>
      )}
      {back.isError && <Complaint>{back.error.message}</Complaint>}
    </li>
  )
}
