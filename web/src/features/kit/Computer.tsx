import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { FormProvider, useFormContext } from 'react-hook-form'
import { Link } from 'react-router'
import { DurationField, SelectField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { SoftwareTable, stepWords } from '../../components/SoftwareTable'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { showProblem, useDraftForm } from '../../lib/draft'
import { seconds } from '../../lib/duration'
import { duration } from '../../lib/format'

const stages = choices<Kind<'SoftwareStep', 'stage'>>({
  import: 'import',
  orient: 'orient',
  support: 'support',
  slice: 'slice',
  export: 'export',
  transfer: 'transfer to the machine',
})
const ended = choices<Kind<'SoftwareStep', 'ended'>>({ done: 'done', error: 'ended in an error', crash: 'crashed' })

type Values = Record<
  'stage' | 'took' | 'software' | 'software_version' | 'computer' | 'person' | 'ended' | 'note',
  string
>

/** What is done with a piece on a computer before it is printed, each step with its clock. */
export function Computer({ pieceID }: { pieceID: string }) {
  const key = ['software', pieceID]
  const client = useQueryClient()
  const software = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/pieces/{id}/software-steps', { params: { path: { id: pieceID } } })),
  })
  // What stays the same from step to step is that of the last one, of whichever piece.
  const all = useQuery({ queryKey: ['software', 'all'], queryFn: () => answer(api.GET('/api/v1/software')) })
  if (software.isError) return <Complaint>{software.error.message}</Complaint>
  if (!software.data || !all.data) return null
  const { steps, programs, next } = software.data
  const kept = (after: Schemas['Software']) => {
    client.setQueryData(key, after)
    void client.invalidateQueries({ queryKey: ['software', 'all'] })
  }
  const last = [...steps, ...all.data.steps].find((s) => s.taken_back_ms == null)
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="On the computer">
      <h2>On the computer</h2>
      {programs.length > 0 && <SoftwareTable programs={programs} />}
      {steps.length > 0 && <Steps steps={steps} pieceID={pieceID} kept={kept} />}
      <Step key={steps.length} pieceID={pieceID} last={last} next={next} kept={kept} />
      <p className="text-sm">
        <Link to="/software">All programs and versions, over all pieces</Link>
      </p>
    </section>
  )
}

/** How many steps stand open; the others are folded. */
const few = 3

function Steps({
  steps,
  pieceID,
  kept,
}: {
  steps: Schemas['SaidStep'][]
  pieceID: string
  kept: (after: Schemas['Software']) => void
}) {
  const [all, setAll] = useState(false)
  const shown = all ? steps : steps.slice(0, few)
  return (
    <div className="grid justify-items-start gap-2">
      <ul className="grid w-full gap-2" aria-label="Steps so far">
        {shown.map((s) => (
          <li key={s.id} className={`flex flex-wrap items-center gap-2 ${s.taken_back_ms ? 'text-soft' : ''}`}>
            <span className="min-w-0 flex-1 wrap-anywhere">
              {stepWords(s)}
              {s.again && <strong> {s.again}</strong>}
              {s.taken_back_ms && `. Taken back: ${s.taken_back_why}`}
            </span>
            {!s.taken_back_ms ? (
              <TakeBack
                what={stepWords(s)}
                take={async (why) =>
                  kept(
                    await answer(
                      api.POST('/api/v1/pieces/{id}/software-steps/{step_id}/taking-back', {
                        params: { path: { id: pieceID, step_id: s.id ?? '' } },
                        body: { why },
                      }),
                    ),
                  )
                }
              />
            ) : (
              <PutAgain kind="software_step" id={s.id} what={stepWords(s)} />
            )}
          </li>
        ))}
      </ul>
      {shown.length < steps.length && (
        <button className="button" onClick={() => setAll(true)}>
          All {steps.length} steps
        </button>
      )}
    </div>
  )
}

function Step({
  pieceID,
  last,
  next,
  kept,
}: {
  pieceID: string
  last?: Schemas['SaidStep']
  next: string
  kept: (after: Schemas['Software']) => void
}) {
  const form = useDraftForm<Values>(`draft-step-${pieceID}`, {
    stage: next,
    took: '',
    software: last?.software ?? '',
    software_version: last?.software_version ?? '',
    computer: last?.computer ?? '',
    person: last?.person ?? '',
    ended: 'done',
    note: '',
  })
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/pieces/{id}/software-steps', {
          params: { path: { id: pieceID } },
          body: {
            stage: v.stage as Schemas['SoftwareStep']['stage'],
            took_s: seconds(v.took),
            software: v.software,
            software_version: v.software_version,
            computer: v.computer,
            person: v.person,
            ended: v.ended as Schemas['SoftwareStep']['ended'],
            note: v.note,
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
    <FormProvider {...form}>
      <form className="grid gap-3" aria-label="A step" onSubmit={form.handleSubmit((v) => save.mutate(v))}>
        <div className="grid items-start gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField name="stage" label="Step" options={stages} />
          <div className="flex items-start gap-2">
            <div className="min-w-0 flex-1">
              <DurationField name="took" label="Took" optional />
            </div>
            <div className="mt-[1.6rem]">
              <Clock />
            </div>
          </div>
          <SelectField name="ended" label="How it ended" options={ended} />
          <TextField name="note" label="What went wrong, or a note" />
          <TextField name="software" label="Program" />
          <TextField name="software_version" label="Version" />
          <TextField name="computer" label="Computer" />
          <TextField name="person" label="By whom, how used to it" />
        </div>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={save.isPending}>
            Keep this step
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

/** A clock that fills in how long a step took: press when it begins, press when it ends. */
function Clock() {
  const { setValue } = useFormContext<Values>()
  const [since, setSince] = useState<number>()
  const [now, setNow] = useState(0)
  useEffect(() => {
    if (since === undefined) return
    const tick = setInterval(() => setNow(Date.now()), 500)
    return () => clearInterval(tick)
  }, [since])
  if (since === undefined) {
    return (
      <button
        type="button"
        className="button"
        onClick={() => {
          setNow(Date.now())
          setSince(Date.now())
        }}
      >
        Start the clock
      </button>
    )
  }
  return (
    <button
      type="button"
      className="button button-main"
      onClick={() => {
        setValue('took', `${Math.max(1, Math.round((Date.now() - since) / 1000))} s`, { shouldDirty: true })
        setSince(undefined)
      }}
    >
      Stop <span className="num">{duration(Math.floor((now - since) / 1000))}</span>
    </button>
  )
}
