import { useMutation } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { Complaint } from '../../components/Page'
import { DraftOffer } from '../../components/DraftOffer'
import { NumberField, SelectField, TextArea, TextField } from '../../components/Field'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n, orNull, t } from '../../lib/input'
import { useMachines, useResins } from '../../lib/queries'

type Claim = Schemas['LedgerClaim']

const kinds = choices<Kind<'LedgerClaim', 'kind'>>({
  words: 'words: you judge it',
  speed: 'a speed, in mm/h',
  ratio: 'so many times another machine',
  life: 'a life, in hours or layers',
  size: 'a size of its plate, in mm',
  measure: 'a row of this review’s comparison',
})
const bounds = choices<Kind<'LedgerClaim', 'bound'>>({
  '': 'as it stands',
  at_least: 'at least',
  at_most: 'at most',
  about: 'about',
})
const interests = choices<Kind<'LedgerClaim', 'interest'>>({
  maker: 'its maker',
  seller: 'sells it',
  paid: 'was paid to say so',
  competitor: 'sells another',
  owner: 'owns one',
  none: 'gains nothing by it',
  unknown: 'not known',
})
const states = choices<Kind<'LedgerClaim', 'state'>>({
  '': 'what the record says',
  met: 'met',
  partly: 'partly met',
  not_met: 'not met',
  cannot_tell: 'cannot be told',
  untested: 'untested',
  untestable: 'cannot be tested here',
})
const quantities = [
  { value: '', label: 'not said of what' },
  { value: 'pixel_count', label: 'the pixel count' },
  { value: 'linear_resolution', label: 'pixels along a millimetre' },
  { value: 'density', label: 'pixels in a square millimetre' },
  { value: 'plate_width', label: 'the width of the plate' },
  { value: 'plate_area', label: 'the area of the plate' },
  { value: 'volume', label: 'the build volume' },
]
const lives = [
  { value: 'film_layers', label: 'the film, in layers' },
  { value: 'light_h', label: 'the light source, in hours lit' },
  { value: 'filter_h', label: 'a filter, in hours of printing' },
]
const sides = ['width', 'depth', 'height'].map((s) => ({ value: s, label: s }))

interface Values {
  subject: string
  words: string
  kind: string
  value: string
  bound: string
  of: string
  against_id: string
  base: string
  source: string
  by: string
  interest: string
  test: string
  state: string
  why: string
}

/** A claim written down as it is made: of what, by whom, as a number where it has one, and how the reviewer judges it. */
export function ClaimForm({
  row,
  review,
  measures,
  close,
}: {
  row?: Schemas['LedgerRow']
  review: Review
  measures: Schemas['LedgerMeasure'][]
  close: () => void
}) {
  const [machines, resins] = [useMachines(), useResins()]
  const c = row?.claim
  const form = useDraftForm<Values>(
    `draft-claim-${row?.key ?? `new-${review.id}`}`,
    {
      subject: subjectOf(row, c),
      words: row?.words ?? '',
      kind: c?.kind ?? 'words',
      value: t(c?.value),
      bound: c?.bound ?? '',
      of: c?.of ?? '',
      against_id: c?.against_id ?? '',
      base: c?.base ?? '',
      source: c?.source ?? row?.source ?? '',
      by: c?.by ?? '',
      interest: c?.interest ?? row?.interest ?? 'maker',
      test: c?.test ?? '',
      state: c?.state ?? '',
      why: c?.why ?? '',
    },
    c?.version ?? 0,
  )
  const kind = form.watch('kind')
  const save = useMutation({
    mutationFn: (v: Values) => {
      const body = bodyOf(v, review, c ?? undefined)
      return answer(
        c
          ? api.PUT('/api/v1/claims/{id}', { params: { path: { id: c.id ?? '' } }, body })
          : api.POST('/api/v1/claims', { body }),
      )
    },
    onSuccess: () => {
      form.forget()
      close()
    },
    onError: (e) => showProblem(form, e),
  })
  const subjects = [
    { value: 'review', label: 'the matter of this review' },
    ...(machines.data ?? []).map((m) => ({ value: `machine ${m.machine.id}`, label: m.machine.name })),
    ...(resins.data ?? []).map((r) => ({ value: `resin ${r.resin.id}`, label: r.resin.name })),
  ]
  const measure = measures.find((m) => m.key === form.watch('of'))
  return (
    <FormProvider {...form}>
      <form
        className="sheet grid gap-3"
        aria-label={c ? `Claim ${c.code}` : 'A claim'}
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
      >
        <h2>{c ? `Claim ${c.code}` : 'A claim, as it is made'}</h2>
        <DraftOffer old={form.old} />
        <TextArea name="words" label="In their words" />
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField name="subject" label="Of what" options={subjects} />
          <TextField name="source" label="Where it stands" hint="its page, the box, a film" />
          <TextField name="by" label="Who says it" />
          <SelectField name="interest" label="Their interest" options={interests} />
        </div>
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField name="kind" label="What kind of claim" options={kinds} />
          {kind !== 'words' && (
            <NumberField name="value" label="The number" unit={unitOf(kind, form.watch('of'), measure)} />
          )}
          {(kind === 'speed' || kind === 'size' || kind === 'measure') && (
            <SelectField name="bound" label="Claimed as" options={bounds} />
          )}
          {kind === 'ratio' && (
            <>
              <SelectField
                name="against_id"
                label="Against which machine"
                options={[
                  { value: '', label: 'choose' },
                  ...(machines.data ?? []).map((m) => ({ value: m.machine.id ?? '', label: m.machine.name })),
                ]}
              />
              <SelectField name="of" label="Of what it is said" options={quantities} />
            </>
          )}
          {kind === 'life' && (
            <SelectField name="of" label="Of what" options={[{ value: '', label: 'choose' }, ...lives]} />
          )}
          {kind === 'size' && (
            <SelectField name="of" label="Which side" options={[{ value: '', label: 'choose' }, ...sides]} />
          )}
          {kind === 'measure' && (
            <SelectField
              name="of"
              label="Which row"
              options={[
                { value: '', label: 'choose' },
                ...measures.map((m) => ({ value: m.key, label: m.unit ? `${m.label} (${m.unit})` : m.label })),
              ]}
            />
          )}
          <TextField name="base" label="Compared with what" hint="as they say it, or leave it empty" />
        </div>
        <TextField name="test" label="What would show it" hint="empty: the program proposes a test" />
        <div className="grid gap-3 sm:grid-cols-[16rem_1fr]">
          <SelectField name="state" label="What became of it" options={states} />
          <TextField name="why" label="Why" hint="needed where you judge it yourself" />
        </div>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div className="flex flex-wrap gap-2">
          <button className="button button-main" disabled={save.isPending}>
            Keep the claim
          </button>
          <button type="button" className="button" onClick={close}>
            Leave it
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

function subjectOf(row?: Schemas['LedgerRow'], c?: Claim | null): string {
  const [machine, resin] = [c?.machine_id ?? row?.machine_id, c?.resin_id ?? row?.resin_id]
  if (machine) return `machine ${machine}`
  return resin ? `resin ${resin}` : 'review'
}

function unitOf(kind: string, of: string, measure?: Schemas['LedgerMeasure']): string {
  if (kind === 'life') return of === 'film_layers' ? 'layers' : 'h'
  return { speed: 'mm/h', ratio: 'times', size: 'mm', measure: measure?.unit ?? '' }[kind] ?? ''
}

function bodyOf(v: Values, review: Review, c?: Claim): Claim {
  const [what, id] = v.subject.split(' ')
  const number = v.kind !== 'words'
  return {
    version: c?.version ?? 0,
    review_id: what === 'review' ? review.id : null,
    machine_id: what === 'machine' ? id : null,
    resin_id: what === 'resin' ? id : null,
    words: v.words,
    kind: v.kind as Claim['kind'],
    value: number && orNull(v.value) !== null ? n(v.value) : null,
    bound: (v.kind === 'speed' || v.kind === 'size' || v.kind === 'measure' ? v.bound : '') as Claim['bound'],
    of: number && v.kind !== 'speed' ? v.of : '',
    against_id: v.kind === 'ratio' ? orNull(v.against_id) : null,
    base: v.base,
    source: v.source,
    by: v.by,
    interest: v.interest as Claim['interest'],
    test: v.test,
    state: v.state as Claim['state'],
    why: v.why,
  }
}
