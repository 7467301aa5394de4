import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useDeferredValue } from 'react'
import { FormProvider, useFormContext, useWatch } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { NumberField, SelectField, TextArea, TextField } from '../../components/Field'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { counted, figure } from '../../lib/format'
import { n } from '../../lib/input'
import { stages } from '../../lib/viewing'

type Kind = Schemas['StressKind']
type Request = Schemas['Request']

/** A series of stress tests before it begins: what is done, to which specimens, and what so many can show. */
export default function NewStressPage() {
  const kinds = useQuery({
    queryKey: ['stress kinds'],
    staleTime: Infinity,
    queryFn: () => answer(api.GET('/api/v1/stress-kinds')),
  })
  return (
    <Page
      title="Plan a stress series"
      about="Levels rise, so that each is set once; within a level chance decides which specimen is next. Codes alone stand on the page while you judge."
    >
      <Ready of={kinds}>{(list) => <Form kinds={list} />}</Ready>
    </Page>
  )
}

const usual = (k: Kind) => ({
  levels: k.usual.join(', '),
  anchors: k.anchors,
  fails_from: String(k.fails_from),
  mode: k.measured ? 'cumulative' : 'fresh',
})

const blankOf = (k: Kind) => ({ kind: k.key, name: '', under: '', stage: 'cured', span_mm: '', codes: '', ...usual(k) })
type Values = ReturnType<typeof blankOf>

const listed = (text: string) => text.split(/[\s,;]+/).filter(Boolean)

const requestOf = (v: Values, measured: boolean): Request => ({
  series: {
    kind: v.kind as Request['series']['kind'],
    mode: v.mode as Request['series']['mode'],
    name: v.name.trim() || ' ',
    under: v.under.trim() || ' ',
    stage: v.stage as Request['series']['stage'],
    levels: v.levels
      .split(/[\s;]+|,\s+/)
      .filter(Boolean)
      .map(n),
    anchors: measured ? [] : v.anchors,
    fails_from: measured ? 0 : n(v.fails_from),
    span_mm: measured ? n(v.span_mm) : null,
  },
  codes: listed(v.codes),
})

function Form({ kinds }: { kinds: Kind[] }) {
  const navigate = useNavigate()
  const form = useDraftForm<Values>('draft-stress', blankOf(kinds[0]!))
  const key = useWatch({ control: form.control, name: 'kind' })
  const kind = kinds.find((k) => k.key === key) ?? kinds[0]!
  const begin = useMutation({
    mutationFn: (v: Values) => answer(api.POST('/api/v1/stress-series', { body: requestOf(v, kind.measured) })),
    onSuccess: (sheet) => {
      form.forget()
      void navigate(`/inspect/stress/${sheet.series.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  const choose = (k: Kind) => {
    form.setValue('kind', k.key)
    for (const [name, value] of Object.entries(usual(k))) form.setValue(name as keyof Values, value)
  }
  return (
    <FormProvider {...form}>
      <form className="grid grid-cols-[minmax(0,1fr)] gap-4" onSubmit={form.handleSubmit((v) => begin.mutate(v))}>
        <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3">
          <fieldset>
            <legend className="font-semibold">What is done to them</legend>
            <div className="mt-1 flex flex-wrap gap-2">
              {kinds.map((k) => (
                <label key={k.key} className="button has-checked:bg-act has-checked:text-sheet">
                  <input
                    type="radio"
                    name="kind"
                    className="mr-2"
                    checked={k.key === kind.key}
                    onChange={() => choose(k)}
                  />
                  {k.name}
                </label>
              ))}
            </div>
          </fieldset>
          <div className="grid gap-3 sm:grid-cols-2">
            <TextField name="name" label="Name of the series" />
            <TextField name="under" label="On or under what" hint={`Say ${kind.under}.`} />
            <TextField
              name="levels"
              label={`Levels: ${kind.level}`}
              unit={kind.unit}
              hint={
                kind.measured
                  ? 'Rising, apart by spaces; the first is the preload that the others are read from.'
                  : 'Rising, apart by spaces.'
              }
            />
            <SelectField name="stage" label="Stage of the surface" options={stages} />
            {kind.measured ? (
              <NumberField name="span_mm" label="Between the supports" unit="mm" />
            ) : (
              <SelectField
                name="mode"
                label="How often one is stressed"
                options={[
                  { value: 'fresh', label: 'each specimen once, at one level' },
                  { value: 'cumulative', label: 'one specimen through all levels, until it fails' },
                ]}
              />
            )}
          </div>
          {!kind.measured && <Classes />}
        </section>
        <Specimens measured={kind.measured} />
        {begin.isError && <Complaint>{begin.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={begin.isPending}>
            Draw the order and begin
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

/** What each class of damage means, and from which on a specimen failed. */
function Classes() {
  const { control, register } = useFormContext<Values>()
  const anchors = useWatch({ control, name: 'anchors' })
  return (
    <div className="grid gap-2">
      <SelectField
        name="fails_from"
        label="It failed from"
        options={anchors.slice(1).map((a, i) => ({ value: String(i + 1), label: `class ${i + 1}: ${a}` }))}
      />
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
          What each class of damage means
        </summary>
        <div className="grid gap-2 sm:grid-cols-2">
          {anchors.map((_, i) => (
            <label key={i} className="text-sm font-semibold">
              Class {i}
              <input className="input font-normal" autoComplete="off" {...register(`anchors.${i}`)} />
            </label>
          ))}
        </div>
      </details>
    </div>
  )
}

/** The specimens by their codes, with who they are and what so many can show. */
function Specimens({ measured }: { measured: boolean }) {
  const v = useWatch<Values>() as Values
  const codes = useDeferredValue(v.codes)
  const draft = useQuery({
    queryKey: ['stress draft', v.kind, v.mode, codes],
    enabled: listed(codes).length > 0,
    placeholderData: keepPreviousData,
    queryFn: ({ signal }) =>
      answer(api.POST('/api/v1/stress-drafts', { body: requestOf({ ...v, codes }, measured), signal })),
  })
  const d = listed(codes).length > 0 ? draft.data : undefined
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-labelledby="specimens">
      <h2 id="specimens">Specimens</h2>
      <TextArea
        name="codes"
        label="Codes of specimens, or of prints for all their copies"
        hint="Scan one after the other, or type them apart by spaces: S-014-03 S-014-04 R-021."
      />
      {draft.isError && <Complaint>{draft.error.message}</Complaint>}
      {d && d.refused.length > 0 && (
        <ul className="grid gap-1 font-semibold text-bad" aria-label="Not in the series">
          {d.refused.map((r) => (
            <li key={r.code}>
              <span className="num">{r.code}</span>: {r.why}.
            </li>
          ))}
        </ul>
      )}
      {d && d.set_ups.length > 0 && (
        <div className="relative overflow-x-auto" aria-live="polite">
          <table className="rows">
            <caption className="text-left text-soft">{counted(d.members.length, 'specimen')} in the series</caption>
            <thead>
              <tr>
                <th scope="col">Set-up</th>
                <th scope="col">Specimens</th>
                <th scope="col">Prints</th>
                <th scope="col">Cured</th>
              </tr>
            </thead>
            <tbody>
              {d.set_ups.map((s) => (
                <tr key={s.label}>
                  <th scope="row" className="font-normal">
                    {s.label}
                  </th>
                  <td className="num">{figure(s.specimens)}</td>
                  <td className="num">{s.prints.join(', ')}</td>
                  <td>{s.cured}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {d && d.left_out.length > 0 && (
        <p className="text-sm text-soft">
          Not in the series: {d.left_out.map((r) => `${r.code}, ${r.why}`).join('; ')}.
        </p>
      )}
      {d?.advice.map((a) => (
        <p key={a}>{a}</p>
      ))}
    </section>
  )
}
