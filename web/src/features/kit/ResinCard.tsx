import { useMutation, useQuery } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { Link } from 'react-router'
import { NumberField, SelectField } from '../../components/Field'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { counted, day, figure } from '../../lib/format'
import { n, orNull } from '../../lib/input'

const marks: Record<string, string> = { measured: '●', computed: '◇', judged: '◐' }

/** What was measured of a resin with its n and conditions; what its maker says stands apart from it. */
export function ResinCard({ id }: { id: string }) {
  const card = useQuery({
    queryKey: ['resins', 'card', id],
    queryFn: () => answer(api.GET('/api/v1/resins/{id}/card', { params: { path: { id } } })),
  })
  return (
    <Ready of={card}>
      {(c) => (
        <>
          <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-labelledby="measured">
            <h2 id="measured">What was measured of it</h2>
            <p className="text-soft">
              Over {counted(c.prints, 'print')} on record. ● measured, ◇ computed, ◐ judged; intervals are at 95 %.
            </p>
            {c.figures.length > 0 && (
              <div className="relative overflow-x-auto">
                <table className="rows w-full">
                  <thead>
                    <tr>
                      <th scope="col">What</th>
                      <th scope="col">Figure</th>
                      <th scope="col">From</th>
                      <th scope="col">Conditions</th>
                    </tr>
                  </thead>
                  <tbody>
                    {c.figures.map((f) => (
                      <tr key={f.what + f.conditions}>
                        <th scope="row" className="font-normal">
                          {f.what} {marks[f.source]}
                        </th>
                        <td className="num">{f.value}</td>
                        <td className="num">{f.n}</td>
                        <td>{f.conditions}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            )}
            {c.missing.length > 0 && (
              <ul className="grid gap-1 text-soft" aria-label="Not known yet">
                {c.missing.map((m) => (
                  <li key={m.what}>
                    <span className="font-semibold">{m.what}</span> is not known yet: {m.how}.
                  </li>
                ))}
              </ul>
            )}
            <p className="flex flex-wrap gap-2">
              <Link className="button" to="/inspect/stress/new">
                Plan a stress series
              </Link>
              <Link className="button" to="/kit/coupons/new">
                Make a bar or a plaque
              </Link>
            </p>
            <Weighings c={c} />
          </section>
          <section className="sheet grid gap-2" aria-labelledby="claims">
            <h2 id="claims">What its maker says</h2>
            {c.claims.length === 0 ? (
              <p className="text-soft">Nothing is noted; add it to the resin above, a claim a line.</p>
            ) : (
              <ul className="grid gap-1">
                {c.claims.map((line) => (
                  <li key={line}>“{line}”</li>
                ))}
              </ul>
            )}
            <p className="text-sm text-soft">Claims, none of them measured here.</p>
          </section>
        </>
      )}
    </Ready>
  )
}

const blank = { mass_g: '', volume_ml: '', temp_c: '', bottle_id: '' }

/** Volumes of the resin on the balance, and the form for the next. */
function Weighings({ c }: { c: Schemas['Card'] }) {
  const id = c.resin.id ?? ''
  const bottles = useQuery({ queryKey: ['bottles'], queryFn: () => answer(api.GET('/api/v1/bottles')) })
  const form = useDraftForm(`draft-weighing-${id}`, blank)
  const save = useMutation({
    mutationFn: (v: typeof blank) =>
      answer(
        api.POST('/api/v1/resins/{id}/weighings', {
          params: { path: { id } },
          body: { mass_g: n(v.mass_g), volume_ml: n(v.volume_ml), temp_c: n(v.temp_c), bottle_id: orNull(v.bottle_id) },
        }),
      ),
    onSuccess: () => {
      form.reset(blank)
      form.forget()
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <details open={form.restored}>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        Weigh a volume of it{c.weighings.length > 0 && `: ${counted(c.weighings.length, 'weighing')} on record`}
      </summary>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
        <FormProvider {...form}>
          <form
            className="grid items-end gap-3 sm:grid-cols-2 lg:grid-cols-5"
            aria-label="A weighing"
            onSubmit={form.handleSubmit((v) => save.mutate(v))}
          >
            <NumberField name="volume_ml" label="Volume, by syringe or flask" unit="ml" />
            <NumberField name="mass_g" label="Mass of it" unit="g" />
            <NumberField name="temp_c" label="At" unit="°C" optional />
            <SelectField
              name="bottle_id"
              label="From bottle"
              empty="not noted"
              options={(bottles.data ?? [])
                .filter((b) => b.resin_id === id)
                .map((b) => ({ value: b.id ?? '', label: `${b.code} ${b.lot}` }))}
            />
            <button className="button button-main" disabled={save.isPending}>
              Keep this weighing
            </button>
          </form>
        </FormProvider>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        {c.weighings.length > 0 && (
          <ul className="grid gap-1" aria-label="Weighings">
            {c.weighings.map((w) => (
              <Weighed key={w.id} resin={id} w={w} />
            ))}
          </ul>
        )}
      </div>
    </details>
  )
}

function Weighed({ resin, w }: { resin: string; w: Schemas['Weighing'] }) {
  const back = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/resins/{id}/weighings/{weighing_id}/taking-back', {
          params: { path: { id: resin, weighing_id: w.id ?? '' } },
        }),
      ),
  })
  const words = `${figure(w.mass_g)} g of ${figure(w.volume_ml)} ml${w.temp_c == null ? '' : ` at ${figure(w.temp_c)} °C`}: ${figure(w.density_g_ml)} g/ml`
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className={`num ${w.taken_back_ms == null ? '' : 'text-soft line-through'}`}>
        {day(w.at_ms ?? 0)}, {words}
      </span>
      {w.taken_back_ms == null ? (
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
