import { useMutation, useQuery } from '@tanstack/react-query'
import { FormProvider, useWatch } from 'react-hook-form'
import { Link } from 'react-router'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { counted, day, figure, words } from '../../lib/format'
import { n } from '../../lib/input'
import { instrumentKinds, measuresLengths } from '../../lib/instruments'

const blank = { name: '', kind: 'caliper', resolution_mm: '0.01', reference_u_mm: '0.01' }

export function InstrumentPanel() {
  const cards = useQuery({
    queryKey: ['instruments', 'cards'],
    queryFn: () => answer(api.GET('/api/v1/instrument-cards')),
  })
  const form = useDraftForm('draft-instrument', blank)
  const kind = useWatch({ control: form.control, name: 'kind' })
  const save = useMutation({
    mutationFn: (v: typeof blank) =>
      answer(
        api.POST('/api/v1/instruments', {
          body: {
            name: v.name,
            kind: v.kind as Schemas['Instrument']['kind'],
            resolution_mm: measuresLengths(v.kind) ? n(v.resolution_mm) : 0,
            reference_u_mm: measuresLengths(v.kind) ? n(v.reference_u_mm) : 0,
          },
        }),
      ),
    onSuccess: () => {
      form.reset(blank)
      form.forget()
      form.setFocus('name')
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3">
      <h2>Instruments</h2>
      <p className="text-soft">
        Resolution and the uncertainty of what it was checked against stand in every size measured with it. A check that
        fails puts the readings since the last good one in doubt; a repeatability study says what share of a difference
        is the measuring.
      </p>
      <Ready of={cards}>
        {(list) => (
          <div className="relative overflow-x-auto">
            <table className="rows w-full">
              <thead>
                <tr>
                  <th scope="col">Instrument</th>
                  <th scope="col">Resolution, mm</th>
                  <th scope="col">Reference uncertainty, mm</th>
                  <th scope="col">Last check</th>
                  <th scope="col">Smallest difference ◇</th>
                </tr>
              </thead>
              <tbody>
                {list.map((c) => (
                  <tr key={c.instrument.id}>
                    <td>
                      <span className="num text-soft">{c.instrument.code}</span>{' '}
                      <Link to={`/kit/instruments/${c.instrument.id}`}>{c.instrument.name}</Link>
                      <span className="block text-sm text-soft">{words(c.instrument.kind ?? '')}</span>
                    </td>
                    <td className="num">{c.lengths ? c.instrument.resolution_mm : ''}</td>
                    <td className="num">{c.lengths ? c.instrument.reference_u_mm : ''}</td>
                    <td>
                      <LastCheck c={c} />
                    </td>
                    <td>
                      <Smallest c={c} />
                    </td>
                  </tr>
                ))}
                {list.length === 0 && (
                  <tr>
                    <td colSpan={5}>None yet. A caliper is enough to begin.</td>
                  </tr>
                )}
              </tbody>
            </table>
          </div>
        )}
      </Ready>
      <FormProvider {...form}>
        <form
          className="grid items-end gap-3 sm:grid-cols-5"
          onSubmit={form.handleSubmit((v) => save.mutate(v))}
          aria-label="A new instrument"
        >
          <TextField name="name" label="Name" />
          <SelectField name="kind" label="Kind" options={instrumentKinds} />
          {measuresLengths(kind) && (
            <>
              <NumberField name="resolution_mm" label="Resolution" unit="mm" />
              <NumberField name="reference_u_mm" label="Reference uncertainty" unit="mm" />
            </>
          )}
          <button className="button" disabled={save.isPending}>
            Add this instrument
          </button>
        </form>
      </FormProvider>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </section>
  )
}

type Card = Schemas['InstrumentCard']

function LastCheck({ c }: { c: Card }) {
  const last = c.checks.find((check) => check.taken_back_ms == null)
  if (!last) return <span className="text-soft">never checked</span>
  return c.state === 'out' ? (
    <strong className="text-bad">out of tolerance, {day(last.at_ms ?? 0)}</strong>
  ) : (
    <>good, {day(last.at_ms ?? 0)}</>
  )
}

function Smallest({ c }: { c: Card }) {
  const done = c.studies.find((s) => s.result)
  if (!c.lengths) return null
  if (!done?.result) return <span className="text-soft">not studied</span>
  return (
    <>
      <span className="num">{figure(1000 * done.result.smallest_visible_mm)} µm</span>
      <span className="block text-sm text-soft">
        {done.study.code}, {counted(done.steps.length, 'reading')}
      </span>
    </>
  )
}
