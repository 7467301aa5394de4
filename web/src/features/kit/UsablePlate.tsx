import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { FormProvider, useFieldArray } from 'react-hook-form'
import { NumberField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { PlateMap } from '../../components/PlateMap'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { counted, day, figure } from '../../lib/format'
import { n, t } from '../../lib/input'

interface Values {
  left_mm: string
  right_mm: string
  front_mm: string
  back_mm: string
  height_mm: string
  note: string
  spots: { x_mm: string; y_mm: string; radius_mm: string; what: string }[]
}

/** What is really usable of a machine's plate: pieces are laid within it, and off its spots. */
export function UsablePlate({ machine }: { machine: Schemas['Machine'] }) {
  const id = machine.id ?? ''
  const key = ['surveys', id]
  const client = useQueryClient()
  const surveys = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/machines/{id}/surveys', { params: { path: { id } } })),
  })
  if (surveys.isError) return <Complaint>{surveys.error.message}</Complaint>
  if (!surveys.data) return null
  const { usable, surveys: list } = surveys.data
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="What is usable of its plate">
      <h2>What is usable of its plate</h2>
      <div className="grid items-start gap-4 md:grid-cols-[minmax(0,1fr)_20rem]">
        <div className="grid gap-3">
          <p>
            {usable.says}{' '}
            {usable.verified && (
              <span className="text-soft">
                Claimed are {figure(machine.width_mm, 5)} × {figure(machine.depth_mm, 5)} ×{' '}
                {figure(machine.height_mm, 5)} mm.
              </span>
            )}
          </p>
          {list.length > 0 && (
            <ul className="grid gap-2" aria-label="Looked at so far">
              {list.toReversed().map((s) => (
                <li key={s.id} className={`flex flex-wrap items-center gap-2 ${s.taken_back_ms ? 'text-soft' : ''}`}>
                  <span>
                    {day(s.at_ms ?? 0)}: dead at the left {figure(s.left_mm)}, right {figure(s.right_mm)}, front{' '}
                    {figure(s.front_mm)}, back {figure(s.back_mm)} mm
                    {s.height_mm != null && `; pieces up to ${figure(s.height_mm, 4)} mm come out`}
                    {(s.spots ?? []).length > 0 &&
                      `; ${(s.spots ?? []).map((p) => `${p.what || 'dead spot'} at ${figure(p.x_mm, 4)}, ${figure(p.y_mm, 4)} mm`).join(', ')}`}
                    {s.note && `; found so: ${s.note}`}
                    {s.taken_back_ms && `. Taken back: ${s.taken_back_why}`}
                  </span>
                  {!s.taken_back_ms ? (
                    <TakeBack
                      what={`what was found on ${day(s.at_ms ?? 0)}`}
                      take={async (why) =>
                        client.setQueryData(
                          key,
                          await answer(
                            api.POST('/api/v1/machines/{id}/surveys/{survey_id}/taking-back', {
                              params: { path: { id, survey_id: s.id ?? '' } },
                              body: { why },
                            }),
                          ),
                        )
                      }
                    />
                  ) : (
                    <PutAgain kind="plate_survey" id={s.id} what={`what was found on ${day(s.at_ms ?? 0)}`} />
                  )}
                </li>
              ))}
            </ul>
          )}
        </div>
        <PlateMap
          machine={machine}
          margin={0}
          items={[]}
          usable={usable}
          title={`Plate of ${machine.name}: ${usable.says}`}
        />
      </div>
      <Look key={list.length} machineID={id} last={usable.verified} kept={(after) => client.setQueryData(key, after)} />
    </section>
  )
}

/** What was found when somebody looked; it begins with what was found last. */
function Look({
  machineID,
  last,
  kept,
}: {
  machineID: string
  last?: Schemas['PlateSurvey'] | null
  kept: (after: Schemas['PlateSurveys']) => void
}) {
  const form = useDraftForm<Values>(
    `draft-survey-${machineID}`,
    {
      left_mm: t(last?.left_mm ?? 0),
      right_mm: t(last?.right_mm ?? 0),
      front_mm: t(last?.front_mm ?? 0),
      back_mm: t(last?.back_mm ?? 0),
      height_mm: t(last?.height_mm),
      note: '',
      spots: (last?.spots ?? []).map((s) => ({
        x_mm: t(s.x_mm),
        y_mm: t(s.y_mm),
        radius_mm: t(s.radius_mm),
        what: s.what ?? '',
      })),
    },
    last?.id ?? 'none',
  )
  const spots = useFieldArray({ control: form.control, name: 'spots' })
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/machines/{id}/surveys', {
          params: { path: { id: machineID } },
          body: {
            left_mm: n(v.left_mm)!,
            right_mm: n(v.right_mm)!,
            front_mm: n(v.front_mm)!,
            back_mm: n(v.back_mm)!,
            height_mm: n(v.height_mm),
            note: v.note,
            spots: v.spots.map((s) => ({
              x_mm: n(s.x_mm)!,
              y_mm: n(s.y_mm)!,
              radius_mm: n(s.radius_mm)!,
              what: s.what,
            })),
          },
        }),
      ),
    onSuccess: (after) => {
      form.forget()
      kept(after)
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <details open={!last}>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {last ? 'Look again' : 'Say what is usable'}
      </summary>
      <FormProvider {...form}>
        <form
          className="grid gap-3"
          aria-label="What is usable of the plate"
          onSubmit={form.handleSubmit((v) => save.mutate(v))}
        >
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-5">
            <NumberField name="left_mm" label="Dead at the left" unit="mm" />
            <NumberField name="right_mm" label="Dead at the right" unit="mm" />
            <NumberField name="front_mm" label="Dead at the front" unit="mm" />
            <NumberField name="back_mm" label="Dead at the back" unit="mm" />
            <NumberField name="height_mm" label="Tallest that comes out" unit="mm" optional />
          </div>
          {spots.fields.map((field, i) => (
            <div key={field.id} className="grid items-end gap-3 sm:grid-cols-[7rem_7rem_7rem_minmax(0,1fr)_auto]">
              <NumberField name={`spots.${i}.x_mm`} label={`Spot ${i + 1}: from the left`} unit="mm" />
              <NumberField name={`spots.${i}.y_mm`} label="from the front" unit="mm" />
              <NumberField name={`spots.${i}.radius_mm`} label="Radius" unit="mm" />
              <TextField name={`spots.${i}.what`} label="What it is" />
              <button type="button" className="button" onClick={() => spots.remove(i)}>
                Remove<span className="sr-only"> spot {i + 1}</span>
              </button>
            </div>
          ))}
          <TextField name="note" label="How it was found" hint="lit with the vat off, a grid printed and measured …" />
          <div className="flex flex-wrap gap-2">
            <button
              type="button"
              className="button"
              onClick={() => spots.append({ x_mm: '', y_mm: '', radius_mm: '0.5', what: 'dead pixel' })}
            >
              Mark a spot
            </button>
            <button className="button button-main" disabled={save.isPending}>
              Keep what is usable
              {spots.fields.length > 0 && <>, with {counted(spots.fields.length, 'spot')}</>}
            </button>
          </div>
          {save.isError && <Complaint>{save.error.message}</Complaint>}
        </form>
      </FormProvider>
    </details>
  )
}
