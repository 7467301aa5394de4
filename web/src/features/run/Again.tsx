import { useMutation, useQuery } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { Link, useNavigate } from 'react-router'
import { shapeWords } from '../../components/Bead'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type RunSheet, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n } from '../../lib/input'
import { useBottles, useProfiles } from '../../lib/queries'

interface Values {
  profile_id: string
  bottle_id: string
  vat_fill_ml: string
  change: string
}

/** The row of tries in which a print stands, and the next try: as it was, or with something changed. */
export function Again({ sheet }: { sheet: RunSheet }) {
  const id = sheet.run.id ?? ''
  const tries = useQuery({
    queryKey: ['tries', id],
    queryFn: () => answer(api.GET('/api/v1/runs/{id}/tries', { params: { path: { id } } })),
  })
  if (tries.isError) return <Complaint>{tries.error.message}</Complaint>
  if (!tries.data) return null
  const { before, after } = tries.data
  const may = sheet.run.ended_ms != null
  if (!may && before.length === 0) return null
  return (
    <section className="sheet grid gap-3" aria-label="Again" id="again">
      {before.length > 0 && (
        <p>
          {sheet.run.code} is <Tried of={before[0]!} /> made again
          {sheet.run.again_change ? `: ${sheet.run.again_change}` : ', nothing changed by hand'}.
          {before.length > 1 && (
            <>
              {' '}
              Before that:{' '}
              {before.slice(1).map((t, i) => (
                <span key={t.run_id}>
                  {i > 0 && ', '}
                  <Tried of={t} />
                </span>
              ))}
              .
            </>
          )}
        </p>
      )}
      {after.map((t) => (
        <p key={t.run_id}>
          Made again as <Tried of={t} />, {t.settings}
          {t.change && `: ${t.change}`}. {t.ended ? `It came out ${shapeWords[t.shape]}.` : 'It is not done yet.'}
        </p>
      ))}
      {may && (
        <details open={after.length === 0 && sheet.counts.failed > 0}>
          <summary className="min-h-(--tap) cursor-pointer content-center">
            <h2 className="inline">Print it again</h2>
          </summary>
          <Form sheet={sheet} />
        </details>
      )}
    </section>
  )
}

const Tried = ({ of }: { of: Schemas['Try'] }) => (
  <Link to={`/runs/${of.run_id}`} className="num whitespace-nowrap underline">
    {of.code}
  </Link>
)

function Form({ sheet }: { sheet: RunSheet }) {
  const navigate = useNavigate()
  const [profiles, bottles] = [useProfiles(), useBottles()]
  const { run } = sheet
  const form = useDraftForm<Values>(`draft-again-${run.id}`, {
    profile_id: run.profile_id,
    bottle_id: run.bottle_id ?? '',
    vat_fill_ml: '',
    change: '',
  })
  const ours = (profiles.data ?? []).filter((p) => p.machine_id === run.machine_id)
  const resin = ours.find((p) => p.id === form.watch('profile_id'))?.resin_id ?? run.resin_id
  const ofResin = (bottles.data ?? []).filter((b) => b.resin_id === resin)
  const print = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/runs/{id}/again', {
          params: { path: { id: run.id ?? '' } },
          body: {
            profile_id: v.profile_id,
            // Settings for another resin leave the bottle of the first behind.
            bottle_id: ofResin.some((b) => b.id === v.bottle_id) ? v.bottle_id : '',
            vat_fill_ml: n(v.vat_fill_ml),
            change: v.change,
          },
        }),
      ),
    onSuccess: (next) => {
      form.forget()
      void navigate(`/runs/${next.run.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="mt-2 grid gap-3"
        aria-label="Print it again"
        onSubmit={form.handleSubmit((v) => print.mutate(v))}
      >
        <p className="text-sm text-soft">
          The same pieces on the same machine, prepared as before. Say what is different, so that what it did can be
          told.
        </p>
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField
            name="profile_id"
            label="Settings"
            options={ours.map((p) => ({ value: p.id, label: p.label }))}
          />
          <SelectField
            name="bottle_id"
            label="Bottle"
            empty="not known"
            options={ofResin.map((b) => ({ value: b.id, label: `${b.code} ${b.lot}` }))}
          />
          <NumberField name="vat_fill_ml" label="In the vat" unit="ml" hint="empty: filled to the top" />
          <TextField name="change" label="What was changed by hand" hint="relevelled, warmer room, fresh film …" />
        </div>
        {print.isError && <Complaint>{print.error.message}</Complaint>}
        <div>
          <button className="button" disabled={print.isPending}>
            Prepare it again
          </button>
        </div>
      </form>
    </FormProvider>
  )
}
