import { useMutation } from '@tanstack/react-query'
import { FormProvider, useFieldArray, useFormContext } from 'react-hook-form'
import { DraftOffer } from '../../components/DraftOffer'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { choices } from '../../lib/choices'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n, t } from '../../lib/input'

type Reader = Schemas['Reader']

interface Values {
  name: string
  about: string
  criteria: { measure: string; piece_id: string; name: string; weight: string; worst: string; best: string }[]
  limits: { measure: string; piece_id: string; name: string; bound: string; value: string }[]
}

const bounds = choices<Schemas['ReaderLimit']['bound']>({ at_most: 'at most', at_least: 'at least' })

/** What a reader weighs, between which values, and what they must have. */
export function ReaderForm({
  reader,
  measures,
  pieces,
  close,
}: {
  reader: Reader
  measures: Schemas['ReaderMeasure'][]
  pieces: Schemas['PieceNamed'][]
  close: () => void
}) {
  const form = useDraftForm<Values>(
    `draft-reader-${reader.id}`,
    {
      name: reader.name,
      about: reader.about ?? '',
      criteria: reader.criteria.map((c) => ({
        measure: c.measure,
        piece_id: c.piece_id ?? '',
        name: c.name,
        weight: t(c.weight),
        worst: t(c.worst),
        best: t(c.best),
      })),
      limits: (reader.limits ?? []).map((l) => ({ ...l, piece_id: l.piece_id ?? '', value: t(l.value) })),
    },
    reader.version,
  )
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.PUT('/api/v1/readers/{id}', {
          params: { path: { id: reader.id ?? '' } },
          body: {
            version: reader.version ?? 0,
            name: v.name,
            about: v.about,
            criteria: v.criteria.map((c) => ({ ...c, weight: n(c.weight), worst: n(c.worst), best: n(c.best) })),
            limits: v.limits.map((l) => ({ ...l, bound: l.bound as 'at_most', value: n(l.value) })),
          },
        }),
      ),
    onSuccess: () => {
      form.forget()
      close()
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="grid gap-4 border-t border-line pt-3"
        aria-label={`What ${reader.name} weighs`}
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
      >
        <DraftOffer old={form.old} />
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField name="name" label="Who" />
          <TextField name="about" label="What they do" />
        </div>
        <Criteria measures={measures} pieces={pieces} />
        <Limits measures={measures} pieces={pieces} />
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div className="flex flex-wrap gap-2">
          <button className="button button-main" disabled={save.isPending}>
            Keep this reader
          </button>
          <button type="button" className="button" onClick={close}>
            Leave it
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

interface Known {
  measures: Schemas['ReaderMeasure'][]
  pieces: Schemas['PieceNamed'][]
}

/** The measures of the review, and the one that a row has where the review has it not. */
const measured = (measures: Known['measures'], now: string) => {
  const list = measures.map((m) => ({ value: m.key, label: m.unit ? `${m.label} (${m.unit})` : m.label }))
  return list.some((m) => m.value === now) ? list : [...list, { value: now, label: `${now}: not measured here` }]
}

function Which({ at, measures, pieces }: Known & { at: string }) {
  const { watch } = useFormContext()
  const key = String(watch(`${at}.measure`))
  const measure = measures.find((m) => m.key === key)
  return (
    <>
      <SelectField name={`${at}.measure`} label="Measured as" options={measured(measures, key)} />
      <SelectField
        name={`${at}.piece_id`}
        label="Of which piece"
        options={[
          { value: '', label: 'all, each alike' },
          ...pieces.filter((p) => measure?.pieces.includes(p.id)).map((p) => ({ value: p.id, label: p.name })),
        ]}
      />
    </>
  )
}

function Criteria({ measures, pieces }: Known) {
  const { control, watch } = useFormContext<Values>()
  const { fields, append, remove } = useFieldArray({ control, name: 'criteria' })
  const unit = (i: number) => measures.find((m) => m.key === watch(`criteria.${i}.measure`))?.unit ?? ''
  return (
    <fieldset className="grid gap-3">
      <legend className="font-semibold">What they weigh</legend>
      {fields.map((f, i) => (
        <div
          key={f.id}
          className="grid items-end gap-2 border-t border-line pt-2 sm:grid-cols-3 lg:grid-cols-[1.2fr_1.4fr_1fr_5rem_7rem_7rem_auto]"
        >
          <TextField name={`criteria.${i}.name`} label="Criterion" />
          <Which at={`criteria.${i}`} measures={measures} pieces={pieces} />
          <NumberField name={`criteria.${i}.weight`} label="Weight" />
          <NumberField name={`criteria.${i}.worst`} label="Worst" unit={unit(i)} />
          <NumberField name={`criteria.${i}.best`} label="Best" unit={unit(i)} />
          <button type="button" className="button" aria-label={`Remove criterion ${i + 1}`} onClick={() => remove(i)}>
            Remove
          </button>
        </div>
      ))}
      <div>
        <button
          type="button"
          className="button"
          onClick={() =>
            append({
              measure: measures[0]?.key ?? '',
              piece_id: '',
              name: measures[0]?.label ?? '',
              weight: '1',
              worst: '',
              best: '',
            })
          }
        >
          Weigh something else
        </button>
      </div>
    </fieldset>
  )
}

function Limits({ measures, pieces }: Known) {
  const { control, watch } = useFormContext<Values>()
  const { fields, append, remove } = useFieldArray({ control, name: 'limits' })
  const unit = (i: number) => measures.find((m) => m.key === watch(`limits.${i}.measure`))?.unit ?? ''
  return (
    <fieldset className="grid gap-3">
      <legend className="font-semibold">What they must have</legend>
      {fields.map((f, i) => (
        <div
          key={f.id}
          className="grid items-end gap-2 border-t border-line pt-2 sm:grid-cols-3 lg:grid-cols-[1.2fr_1.4fr_1fr_8rem_8rem_auto]"
        >
          <TextField name={`limits.${i}.name`} label="Must-have" />
          <Which at={`limits.${i}`} measures={measures} pieces={pieces} />
          <SelectField name={`limits.${i}.bound`} label="Is" options={bounds} />
          <NumberField name={`limits.${i}.value`} label="Value" unit={unit(i)} />
          <button type="button" className="button" aria-label={`Remove must-have ${i + 1}`} onClick={() => remove(i)}>
            Remove
          </button>
        </div>
      ))}
      <div>
        <button
          type="button"
          className="button"
          onClick={() =>
            append({
              measure: measures[0]?.key ?? '',
              piece_id: '',
              name: measures[0]?.label ?? '',
              bound: 'at_most',
              value: '',
            })
          }
        >
          Add a must-have
        </button>
      </div>
    </fieldset>
  )
}
