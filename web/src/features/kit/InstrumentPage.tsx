import { useMutation, useQuery } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { How } from '../../components/How'
import { Complaint, Page, Ready } from '../../components/Page'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, ProblemError, type Schemas } from '../../lib/api'
import { counted, moment, words } from '../../lib/format'
import { n } from '../../lib/input'
import { InstrumentName } from './InstrumentName'

type Card = Schemas['InstrumentCard']

/** One instrument: whether it can be relied on, its checks, and what a study of it shows. */
export default function InstrumentPage() {
  const { id = '' } = useParams()
  const card = useQuery({
    queryKey: ['instruments', id],
    queryFn: () => answer(api.GET('/api/v1/instruments/{id}', { params: { path: { id } } })),
  })
  return (
    <Ready of={card}>
      {(c) => (
        <Page
          title={`${c.instrument.code} ${c.instrument.name}`}
          about={`${words(c.instrument.kind ?? '')}, ${counted(c.readings, 'reading')} on record${
            c.lengths ? `, resolution ${c.instrument.resolution_mm} mm` : ''
          }`}
          actions={
            <Link className="button" to="/kit?tab=instruments">
              All instruments
            </Link>
          }
        >
          {c.doubts.map((d) => (
            <Complaint key={d.says}>
              {d.says} {counted(d.readings, 'reading')} on record {d.readings === 1 ? 'is' : 'are'} of that time and
              marked.
            </Complaint>
          ))}
          <Checks c={c} />
          {c.lengths && <Studies c={c} />}
          <InstrumentName key={c.instrument.version} instrument={c.instrument} />
        </Page>
      )}
    </Ready>
  )
}

function Checks({ c }: { c: Card }) {
  const id = c.instrument.id ?? ''
  const last = c.checks[0]
  const [v, setV] = useState({
    against: last?.against ?? '',
    true_value: last ? String(last.true_value) : '',
    shown_value: '',
    tolerance: last ? String(last.tolerance) : '',
  })
  const check = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/instruments/{id}/checks', {
          params: { path: { id } },
          body: {
            against: v.against,
            true_value: n(v.true_value),
            shown_value: n(v.shown_value),
            tolerance: n(v.tolerance),
          },
        }),
      ),
    onSuccess: () => setV({ ...v, shown_value: '' }),
  })
  const field = (name: keyof typeof v, label: string, unit = '') => (
    <label className="text-sm font-semibold">
      {label} {unit && <span className="num font-normal text-soft">{unit}</span>}
      <input
        className="input num font-normal"
        inputMode={unit ? 'decimal' : undefined}
        required
        value={v[name]}
        onChange={(e) => setV({ ...v, [name]: e.target.value })}
      />
    </label>
  )
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-labelledby="checks">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2 id="checks">Checks</h2>
        <How figure="instruments" of="Checks" />
      </div>
      <form
        className="grid items-end gap-3 sm:grid-cols-5"
        aria-label="A check"
        onSubmit={(e) => {
          e.preventDefault()
          check.mutate()
        }}
      >
        {field('against', 'Against (block, pin, weight …)')}
        {field('true_value', 'It is', c.unit)}
        {field('shown_value', 'The instrument shows', c.unit)}
        {field('tolerance', 'It may be off by', c.unit)}
        <button className="button button-main" disabled={check.isPending}>
          Keep this check
        </button>
      </form>
      {check.isError && <Complaint>{check.error.message}</Complaint>}
      {c.checks.length === 0 ? (
        <p className="text-soft">Never checked: nothing is known of how far off it is.</p>
      ) : (
        <div className="relative overflow-x-auto">
          <table className="rows w-full">
            <thead>
              <tr>
                <th scope="col">When</th>
                <th scope="col">Against</th>
                <th scope="col">It is, {c.unit}</th>
                <th scope="col">Shown, {c.unit} ●</th>
                <th scope="col">May be off by, {c.unit}</th>
                <th scope="col">So it was</th>
                <th scope="col">
                  <span className="sr-only">Take back</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {c.checks.map((k) => (
                <tr key={k.id} className={k.taken_back_ms != null ? 'text-soft' : ''}>
                  <td className="whitespace-nowrap">{moment(k.at_ms ?? 0)}</td>
                  <td>{k.against}</td>
                  <td className="num">{k.true_value}</td>
                  <td className="num">{k.shown_value}</td>
                  <td className="num">{k.tolerance}</td>
                  <td>
                    {k.taken_back_ms != null ? `taken back: ${k.taken_back_why}` : k.good ? 'good' : 'out of tolerance'}
                  </td>
                  <td>
                    {k.taken_back_ms == null ? (
                      <TakeBack
                        what={`the check of ${moment(k.at_ms ?? 0)}`}
                        take={(why) =>
                          answer(
                            api.POST('/api/v1/instruments/{id}/checks/{check_id}/taking-back', {
                              params: { path: { id, check_id: k.id ?? '' } },
                              body: { why },
                            }),
                          )
                        }
                      />
                    ) : (
                      <PutAgain kind="instrument_check" id={k.id} what={`the check of ${moment(k.at_ms ?? 0)}`} />
                    )}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}

const list = (text: string) =>
  text
    .split(/[\n,;]/)
    .map((s) => s.trim())
    .filter(Boolean)

function Studies({ c }: { c: Card }) {
  const navigate = useNavigate()
  const [what, setWhat] = useState('')
  const [parts, setParts] = useState('')
  const [operators, setOperators] = useState('')
  const [repeats, setRepeats] = useState('3')
  const begin = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/instruments/{id}/studies', {
          params: { path: { id: c.instrument.id ?? '' } },
          body: { what, parts: list(parts), operators: list(operators), repeats: Number(repeats) },
        }),
      ),
    onSuccess: (s) => void navigate(`/kit/studies/${s.study.id}`),
  })
  const submit = (e: FormEvent) => {
    e.preventDefault()
    begin.mutate()
  }
  const readings = list(parts).length * Math.max(1, list(operators).length) * Number(repeats)
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-labelledby="studies">
      <h2 id="studies">How repeatable it is</h2>
      {c.studies.map((s) => (
        <div key={s.study.id}>
          <h3>
            <Link to={`/kit/studies/${s.study.id}`}>
              {s.study.code}: {s.study.what}
            </Link>
          </h3>
          {s.result ? (
            s.says.map((line) => <p key={line}>{line}</p>)
          ) : (
            <p>
              {counted(s.next, 'reading')} of {s.steps.length} taken; go on where you stopped.
            </p>
          )}
        </div>
      ))}
      <details open={c.studies.length === 0}>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">A study of ten minutes</summary>
        <p className="text-soft">
          Lay out five to ten like parts that differ a little, such as copies of one plate. Each is measured in each
          round, in an order that is drawn, without looking at what was read before.
        </p>
        <form className="mt-2 grid items-end gap-3 sm:grid-cols-2" aria-label="A new study" onSubmit={submit}>
          <label className="text-sm font-semibold">
            What is measured
            <input
              className="input font-normal"
              required
              value={what}
              placeholder="width of the base"
              onChange={(e) => setWhat(e.target.value)}
            />
          </label>
          <label className="text-sm font-semibold">
            Rounds
            <select className="input font-normal" value={repeats} onChange={(e) => setRepeats(e.target.value)}>
              {[2, 3, 4, 5].map((r) => (
                <option key={r}>{r}</option>
              ))}
            </select>
          </label>
          <label className="text-sm font-semibold">
            Parts, by comma or line
            <textarea
              className="input font-normal"
              rows={3}
              required
              value={parts}
              onChange={(e) => setParts(e.target.value)}
            />
          </label>
          <label className="text-sm font-semibold">
            Who measures, by comma or line
            <textarea
              className="input font-normal"
              rows={3}
              required
              value={operators}
              onChange={(e) => setOperators(e.target.value)}
            />
          </label>
          <button className="button button-main justify-self-start" disabled={begin.isPending}>
            Draw the order and begin{list(parts).length > 1 && `: ${counted(readings, 'reading')}`}
          </button>
        </form>
        {begin.isError && (
          <Complaint>{begin.error instanceof ProblemError ? begin.error.message : String(begin.error)}</Complaint>
        )}
      </details>
    </section>
  )
}
