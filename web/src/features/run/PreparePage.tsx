import { useMutation } from '@tanstack/react-query'
import { FormProvider, useWatch } from 'react-hook-form'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { shapeWords } from '../../components/Bead'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type PlateSheet } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n, t } from '../../lib/input'
import { useBottles, useMachines, usePlate, useProfiles, useRuns } from '../../lib/queries'
import type { PieceLine } from './conditions'
import { Pieces } from './Pieces'

interface Values {
  machine_id: string
  profile_id: string
  pieces: PieceLine[]
  bottle_id: string
  vat_fill_ml: string
  prediction: string
  prediction_fail_pct: string
}

/** A run before it is printed: its specimens get their codes, and the preflight is made. */
export default function PreparePage() {
  const [params] = useSearchParams()
  const plateID = params.get('plate') ?? ''
  const plate = usePlate(plateID)
  return (
    <Page
      title="Prepare a print"
      about="Specimens get their codes and labels now; what to look at first is made from the record."
    >
      {plateID === '' && <OneAgain />}
      {plateID === '' ? <Form key="none" /> : <Ready of={plate}>{(s) => <Form key={plateID} plate={s} />}</Ready>}
    </Page>
  )
}

function Form({ plate }: { plate?: PlateSheet }) {
  const navigate = useNavigate()
  const [machines, profiles, bottles] = [useMachines(), useProfiles(), useBottles()]
  const form = useDraftForm<Values>(`draft-prepare-${plate?.plate.id ?? 'new'}`, {
    machine_id: plate?.machine.id ?? '',
    profile_id: plate?.profile?.id ?? '',
    bottle_id: plate?.plate.bottle_id ?? '',
    pieces: [{ piece_id: '', copies: '1', scale_pct: '100' }],
    vat_fill_ml: t(plate?.plate.vat_fill_ml),
    prediction: '',
    prediction_fail_pct: '',
  })
  const v = useWatch({ control: form.control })
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/run-preparations', {
          body: {
            machine_id: v.machine_id,
            plate_id: plate?.plate.id ?? null,
            profile_id: v.profile_id,
            pieces: plate
              ? []
              : v.pieces.map((p) => ({ piece_id: p.piece_id, copies: n(p.copies), scale_pct: n(p.scale_pct) })),
            bottle_id: v.bottle_id || null,
            vat_fill_ml: n(v.vat_fill_ml),
            prediction: v.prediction,
            prediction_fail_pct: n(v.prediction_fail_pct),
          },
        }),
      ),
    onSuccess: (sheet) => {
      form.forget()
      void navigate(`/runs/${sheet.run.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  if (machines.data?.length === 0) {
    return (
      <Empty title="A print needs a machine">
        <Link to="/kit/machines/new">Enter a machine</Link>
      </Empty>
    )
  }
  const ours = (profiles.data ?? []).filter((p) => p.machine_id === v.machine_id)
  // The cells of a series have settings of their own, which need no choice.
  const resinID = ours.find((p) => p.id === v.profile_id)?.resin_id ?? plate?.series?.resin_id
  return (
    <FormProvider {...form}>
      <form className="sheet grid gap-3" onSubmit={form.handleSubmit((v) => save.mutate(v))}>
        {plate && (
          <p>
            <span className="num font-semibold">{plate.placed.length}</span> copies as laid on{' '}
            <Link to={`/plan/${plate.plate.id}`}>
              {plate.plate.code} {plate.plate.name}
            </Link>{' '}
            for {plate.machine.name}.
          </p>
        )}
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          {!plate && (
            <>
              <SelectField
                name="machine_id"
                label="Machine"
                empty="choose"
                options={(machines.data ?? []).map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
              />
              <SelectField
                name="profile_id"
                label="Settings"
                empty="choose"
                options={ours.map((p) => ({ value: p.id, label: p.label }))}
              />
            </>
          )}
          <SelectField
            name="bottle_id"
            label="Bottle"
            empty="not known"
            options={(bottles.data ?? [])
              .filter((b) => b.resin_id === resinID)
              .map((b) => ({ value: b.id, label: `${b.code} ${b.lot}` }))}
          />
          <NumberField name="vat_fill_ml" label="In the vat" unit="ml" hint="empty: filled to the top" />
        </div>
        {!plate && <Pieces />}
        <h2>A prediction, if you like</h2>
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField name="prediction" label="What will fail" hint="it is scored once the plate is judged" />
          <NumberField name="prediction_fail_pct" label="How sure that something fails" unit="%" optional />
        </div>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={save.isPending}>
            Prepare it
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

/** What may rather be printed again, failed ones first: it brings its plate, settings and preparation along. */
function OneAgain() {
  const [none, part, last] = [
    useRuns({ shape: 'ring', most: 3 }),
    useRuns({ shape: 'split', most: 3 }),
    useRuns({ most: 3 }),
  ]
  const lines = [none, part, last].flatMap((q) => q.data?.lines ?? [])
  // What is not done yet has no next try.
  const runs = lines.filter((r, i) => r.shape !== 'open' && lines.findIndex((o) => o.id === r.id) === i)
  if (runs.length === 0) return null
  return (
    <details className="sheet">
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        Rather print one again, failed ones first
      </summary>
      <ul className="grid gap-1">
        {runs.map((r) => (
          <li key={r.id}>
            <Link
              className="inline-block min-h-(--tap) content-center underline underline-offset-4"
              to={`/runs/${r.id}#again`}
            >
              <span className="num">{r.code}</span> {r.printed}, {r.machine}: {shapeWords[r.shape]}
            </Link>
          </li>
        ))}
      </ul>
    </details>
  )
}
