import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider, get, useFormContext, useWatch } from 'react-hook-form'
import { Link, useNavigate } from 'react-router'
import { DraftOffer } from '../../components/DraftOffer'
import { DurationField, NumberField, SelectField, TextArea, TextField } from '../../components/Field'
import { isQuestion, Question } from '../../components/Question'
import { Figure } from '../../components/Figure'
import { Complaint } from '../../components/Page'
import { answer, api, type PlateSheet, type Run, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { understood } from '../../lib/duration'
import { duration, figure, grouped, modelWords } from '../../lib/format'
import { n } from '../../lib/input'
import { useBottles, useProfiles, useResins } from '../../lib/queries'
import { Pieces } from './Pieces'
import { ConditionFigures } from '../../components/ConditionFigures'
import {
  blanks,
  changeOf,
  conditions,
  recordingOf,
  unknownKey,
  valuesOf,
  type Condition,
  type RunValues,
} from './conditions'
import { RoomOffer } from './RoomOffer'
import { choices, type Kind } from '../../lib/choices'

const grid = 'grid gap-3 sm:grid-cols-2 lg:grid-cols-3'

/** A print and its conditions. What carried over stands filled in; only what changed is typed. */
export function RunForm({
  draft,
  pieces,
  condition,
  never,
  recorded,
  plate,
  draftKey,
}: {
  draft: Schemas['Run']
  pieces: Schemas['Portion'][]
  condition: Schemas['MachineCondition']
  /** What this machine never tells. */
  never?: string[]
  recorded?: Run
  plate?: PlateSheet
  draftKey: string
}) {
  const navigate = useNavigate()
  const [before] = useState(() => valuesOf(draft, pieces, Boolean(recorded), never))
  const form = useDraftForm<RunValues>(draftKey, before, recorded?.version)
  const [open, setOpen] = useState<Condition[]>([])
  // A print that was followed to its end was told there how it ended.
  const followed = recorded?.prepared_ms != null && Boolean(recorded.ended_how)
  const save = useMutation({
    mutationFn: ({ v, confirmed }: { v: RunValues; confirmed: boolean }) =>
      recorded
        ? answer(
            api.PATCH('/api/v1/runs/{id}', {
              params: { path: { id: recorded.id } },
              body: {
                version: recorded.version,
                change: changeOf(before, v) as Schemas['RunChange'],
                why: String(v.why ?? ''),
                confirmed,
              },
            }),
          )
        : answer(api.POST('/api/v1/runs', { body: recordingOf(v, confirmed) })),
    onSuccess: (sheet) => {
      form.forget()
      void navigate(`/runs/${sheet.run.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  const submit = (v: RunValues) => {
    const left = blanks(v)
    setOpen(left)
    left.forEach((c, i) =>
      form.setError(c.key, { message: 'is blank; enter it, or say that it is not known' }, { shouldFocus: i === 0 }),
    )
    if (left.length === 0) save.mutate({ v, confirmed: false })
  }
  const how = useWatch({ control: form.control, name: 'ended_how' })
  const questioned = isQuestion(save.error)
  const allUnknown = () => {
    for (const c of open) {
      form.setValue(unknownKey(c.key), true)
      form.clearErrors(c.key)
    }
    setOpen([])
  }
  return (
    <FormProvider {...form}>
      <form className="grid gap-4" onSubmit={form.handleSubmit(submit)}>
        <DraftOffer old={form.old} />
        <What fixed={Boolean(recorded) || Boolean(plate)} plate={plate} />
        <Computed c={condition} machineID={draft.machine_id} />
        <Conditions title="Before the print, as you saw it" when="before" />
        <section className="sheet grid gap-3">
          <h2>The print</h2>
          <div className={grid}>
            <TextField name="started" label="Started" type="datetime-local" />
            <TextField name="ended" label="Ended" type="datetime-local" hint="leave empty while it prints" />
            {!followed && (
              <SelectField
                name="ended_how"
                label="How it ended"
                options={choices<Exclude<Kind<'Run', 'ended_how'>, ''>>({
                  finished: 'finished, to its last layer',
                  stopped: 'stopped before its end',
                })}
              />
            )}
            {!followed && how === 'stopped' && (
              <NumberField name="stopped_layer" label="It got to layer" hint="empty: not known" optional />
            )}
            {recorded?.prepared_ms == null && (
              <DurationField name="paused" label="Paused for" hint="pauses are left out of its time" optional />
            )}
            <RoomOffer machineID={draft.machine_id} />
            {conditions
              .filter((c) => c.when === 'during')
              .map((c) => (
                <Known key={c.key} c={c} />
              ))}
          </div>
        </section>
        <Conditions title="After the print" when="after" />
        <section className="sheet grid gap-3 sm:grid-cols-2">
          <TextArea name="observed" label="Seen to differ" hint="what the record cannot compute, beside it" />
          <TextArea name="notes" label="Notes" />
          {recorded && <TextField name="why" label="Why it is changed" hint="stands in the print's history" />}
        </section>
        {open.length > 0 && (
          <div role="alert" className="sheet flex flex-wrap items-center gap-3 border-l-4 border-l-bad">
            <p className="font-semibold">
              Still blank: {open.map((c) => c.label).join(', ')}. A comparison weighs these; “not known” is an answer,
              blank is not.
            </p>
            <button type="button" className="button" onClick={allUnknown}>
              None of these is known
            </button>
          </div>
        )}
        {questioned ? (
          <Question
            error={save.error}
            busy={save.isPending}
            confirm={() => save.mutate({ v: form.getValues(), confirmed: true })}
          />
        ) : (
          save.isError && <Complaint>{save.error.message}</Complaint>
        )}
        <div>
          <button className="button button-main" disabled={save.isPending}>
            {recorded ? 'Save what is known' : 'Record this print'}
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

function What({ fixed, plate }: { fixed: boolean; plate?: PlateSheet }) {
  const v = useWatch<RunValues>() as RunValues
  const [resins, bottles, profiles] = [useResins(), useBottles(), useProfiles()]
  const ours = (profiles.data ?? []).filter((p) => p.machine_id === v.machine_id)
  const loaded = ours.filter((p) => p.resin_id === v.resin_id)
  return (
    <section className="sheet grid gap-3">
      <h2>What is printed</h2>
      {profiles.data && ours.length === 0 && (
        <p>
          This machine has no settings yet. <Link to="/dial-in/new">Dial one in</Link> or{' '}
          <Link to="/kit?tab=settings">enter one by hand</Link>.
        </p>
      )}
      {plate && (
        <p>
          <span className="num font-semibold">{plate.placed.length}</span> copies as laid on{' '}
          <Link to={`/plan/${plate.plate.id}`}>
            {plate.plate.code} {plate.plate.name}
          </Link>
          ; each becomes a specimen with a code and a label.
        </p>
      )}
      {fixed && !plate && (
        <p className="text-sm text-soft">Pieces and copies stay as recorded: their specimens carry codes.</p>
      )}
      {!fixed && <Pieces />}
      <div className={grid}>
        <SelectField
          name="resin_id"
          label="Resin"
          empty="choose"
          options={(resins.data ?? []).map((r) => ({ value: r.resin.id ?? '', label: r.resin.name }))}
        />
        <SelectField
          name="bottle_id"
          label="Bottle"
          empty="not known"
          options={(bottles.data ?? [])
            .filter((b) => b.resin_id === v.resin_id)
            .map((b) => ({ value: b.id, label: `${b.code} ${b.lot}` }))}
        />
        <SelectField
          name="profile_id"
          label="Settings"
          empty="choose"
          options={loaded.map((p) => ({ value: p.id, label: p.label }))}
        />
      </div>
      {!plate && <OurEstimate v={v} />}
    </section>
  )
}

/** Our time for a plate of one piece, by the timing model, as soon as it can be computed. */
function OurEstimate({ v }: { v: RunValues }) {
  const first = v.pieces?.[0]
  const query = {
    profile_id: String(v.profile_id ?? ''),
    piece_id: first?.piece_id ?? '',
    copies: n(first?.copies) ?? undefined,
    scale_pct: n(first?.scale_pct) ?? undefined,
  }
  const estimate = useQuery({
    queryKey: ['estimate', query],
    enabled: query.profile_id !== '' && query.piece_id !== '' && v.pieces?.length === 1,
    queryFn: () => answer(api.GET('/api/v1/run-estimate', { params: { query } })),
  })
  const e = estimate.data
  if (!e) return null
  return (
    <dl aria-live="polite">
      {e.total_s === null ? (
        <p>{e.reason}</p>
      ) : (
        <Figure
          label="Our estimate"
          value={duration(e.total_s)}
          source="computed"
          note={`${grouped(e.layers)} layers of ${figure(e.layer_s)} s, ${modelWords(e.model)}`}
        />
      )}
    </dl>
  )
}

/** What the record computes of the machine at the print's own start. */
function Computed({ c, machineID }: { c: Schemas['MachineCondition']; machineID: string }) {
  return (
    <section className="sheet grid gap-2">
      <h2>What the record knows of the machine</h2>
      <ConditionFigures c={c} />
      <p className="text-sm text-soft">
        Computed from its knots and prints, at the start of this one. Something wrong or missing?{' '}
        <Link to={`/kit/machines/${machineID}`}>Tie or correct a knot</Link>.
      </p>
    </section>
  )
}

function Conditions({ title, when }: { title: string; when: Condition['when'] }) {
  return (
    <section className="sheet grid gap-3">
      <h2>{title}</h2>
      <div className={grid}>
        {conditions
          .filter((c) => c.when === when)
          .map((c) => (
            <Known key={c.key} c={c} />
          ))}
      </div>
    </section>
  )
}

/** One condition with its way out: "not known" is an answer, blank is not. */
function Known({ c }: { c: Condition }) {
  const { register, formState, setValue, clearErrors } = useFormContext<RunValues>()
  const unknown = useWatch<RunValues>({ name: unknownKey(c.key) }) === true
  const typed = String(useWatch<RunValues>({ name: c.key }) ?? '')
  const complaint = (get(formState.errors, c.key) as { message?: string } | undefined)?.message
  const box = register(unknownKey(c.key), {
    onChange: (e: { target: { checked: boolean } }) => {
      if (e.target.checked) setValue(c.key, '')
      clearErrors(c.key)
    },
  })
  const shared = {
    id: c.key,
    disabled: unknown,
    'aria-invalid': Boolean(complaint),
    'aria-describedby': complaint || (c.kind === 'time' && !unknown) ? `${c.key}-note` : undefined,
  }
  return (
    <div className="min-w-0">
      <div className="mb-0.5 flex items-baseline justify-between gap-2">
        <label htmlFor={c.key} className="text-sm font-semibold">
          {c.label}
          {c.unit && <span className="num ml-1 font-normal text-soft">{c.unit}</span>}
        </label>
        <label className="flex items-center gap-1 text-sm text-soft">
          <input type="checkbox" className="size-4 accent-(--act)" aria-label={`${c.label}: not known`} {...box} />
          not known
        </label>
      </div>
      {c.kind === 'yesno' || c.kind === 'surface' ? (
        <select {...register(c.key)} {...shared} className="input">
          <option value="">{unknown ? 'not known' : 'choose'}</option>
          {(c.kind === 'yesno' ? ['no', 'yes'] : ['raw', 'primed', 'painted']).map((o) => (
            <option key={o}>{o}</option>
          ))}
        </select>
      ) : (
        <input
          {...register(c.key)}
          {...shared}
          className={`input ${c.kind === 'number' || c.kind === 'time' ? 'num' : ''}`}
          inputMode={c.kind === 'number' ? 'decimal' : 'text'}
          autoComplete="off"
          placeholder={unknown ? 'not known' : undefined}
        />
      )}
      {c.kind === 'time' && !unknown && !complaint && (
        <p id={`${c.key}-note`} className="mt-0.5 text-sm text-soft">
          {understood(typed)}
        </p>
      )}
      {complaint && (
        <p id={`${c.key}-note`} role="alert" className="mt-0.5 text-sm font-semibold text-bad">
          {c.label} {complaint}
        </p>
      )}
    </div>
  )
}
