import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useLayoutEffect, useRef, useState, type FormEvent } from 'react'
import { Link, useParams } from 'react-router'
import { How } from '../../components/How'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, ProblemError, type Schemas } from '../../lib/api'
import { newTurn } from '../../lib/command'
import { counted, figure, reading } from '../../lib/format'
import { n } from '../../lib/input'
import { dropKeys, holdKeys, pourKeys } from '../../lib/typeAhead'

type Study = Schemas['Study']

/** A repeatability study: whose turn it is with which part, one reading after the other, then what it shows. */
export default function StudyPage() {
  const { id = '' } = useParams()
  const study = useQuery({
    queryKey: ['studies', id],
    queryFn: () => answer(api.GET('/api/v1/gauge-studies/{id}', { params: { path: { id } } })),
  })
  return (
    <Ready of={study}>
      {(s) => (
        <Page
          title={`Study ${s.study.code}: ${s.study.what}`}
          about={`with ${s.instrument}, ${counted(s.study.parts.length, 'part')}, ${counted(
            s.study.operators.length,
            'hand',
          )}, ${counted(s.study.repeats, 'round')}; order drawn from seed ${s.study.seed}`}
          actions={
            <Link className="button" to={`/kit/instruments/${s.study.instrument_id}`}>
              Back to {s.instrument}
            </Link>
          }
        >
          {s.result ? <Result s={s} /> : <Next key={s.next} s={s} />}
          {s.result && <Taken s={s} />}
        </Page>
      )}
    </Ready>
  )
}

/** The reading that is next; what was read before is hidden, so that it leads nobody. */
function Next({ s }: { s: Study }) {
  const id = s.study.id ?? ''
  const step = s.steps[s.next]!
  const client = useQueryClient()
  const box = useRef<HTMLInputElement>(null)
  const [typed, setTyped] = useState('')
  const [turn] = useState(newTurn)
  // With the part's name, so that what is typed at once goes into its box.
  useLayoutEffect(() => box.current?.focus(), [])
  const keep = useMutation({
    mutationFn: (confirmed: boolean) =>
      answer(
        api.POST('/api/v1/gauge-studies/{id}/readings', {
          params: { path: { id } },
          body: { value_mm: n(typed), confirmed },
          headers: turn,
        }),
      ),
    // An answer that is still on its way is older than what follows, and would take its place.
    onMutate: () => client.cancelQueries({ queryKey: ['studies', id] }),
    onSuccess: (after) => {
      client.setQueryData(['studies', id], after)
      pourKeys()
    },
    onError: dropKeys,
  })
  const questioned = keep.error instanceof ProblemError && keep.error.problem.type === 'urn:ojime:questioned'
  const submit = (e: FormEvent) => {
    e.preventDefault()
    if (typed.trim() === '' || keep.isPending) return
    holdKeys()
    keep.mutate(questioned)
  }
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-labelledby="next">
      <p className="num text-soft">
        Reading {s.next + 1} of {s.steps.length}, round {step.round}
      </p>
      <h2 id="next" className="text-2xl">
        {step.operator} measures {step.part}
      </h2>
      <form className="flex flex-wrap items-end gap-3" onSubmit={submit}>
        <label className="text-sm font-semibold">
          {s.study.what} of {step.part} <span className="num font-normal text-soft">mm</span>
          <input
            ref={box}
            className="input num text-2xl font-normal"
            inputMode="decimal"
            autoComplete="off"
            data-unit="mm"
            data-advance=""
            value={typed}
            onChange={(e) => {
              setTyped(e.target.value)
              keep.reset()
            }}
          />
        </label>
        <button className="button button-main">Keep and go on</button>
        <Undo s={s} />
      </form>
      {keep.isError &&
        (questioned ? (
          <p role="alert" className="font-semibold text-bad">
            {(keep.error as ProblemError).problem.errors?.[0]?.message ?? keep.error.message} Enter again keeps it, or
            type anew.
          </p>
        ) : (
          <Complaint>{keep.error.message}</Complaint>
        ))}
      <progress
        className="h-2 w-full accent-(--act)"
        aria-label="How far the study has come"
        max={s.steps.length}
        value={s.next}
      />
    </section>
  )
}

function Undo({ s }: { s: Study }) {
  const [turn] = useState(newTurn)
  const undo = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/gauge-studies/{id}/undo', { params: { path: { id: s.study.id ?? '' } }, headers: turn }),
      ),
  })
  if (s.next === 0) return null
  return (
    <>
      <button type="button" className="button" disabled={undo.isPending} onClick={() => undo.mutate()}>
        Take the last reading back
      </button>
      {undo.isError && <Complaint>{undo.error.message}</Complaint>}
    </>
  )
}

function Result({ s }: { s: Study }) {
  const r = s.result!
  return (
    <section className="sheet grid gap-2" aria-labelledby="shows">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2 id="shows">What it shows</h2>
        <How figure="instruments" of="What the study shows" />
      </div>
      {s.says.map((line) => (
        <p key={line}>{line}</p>
      ))}
      <table className="rows">
        <caption className="text-left text-soft">
          Where the spread comes from, as standard deviations ◇ of {counted(s.steps.length, 'reading')}
        </caption>
        <tbody>
          <Row name="One hand, the same part again" mm={r.repeatability_sd_mm} />
          {r.reproducibility_sd_mm != null && <Row name="Hand to hand" mm={r.reproducibility_sd_mm} />}
          <Row name="The measuring together" mm={r.gauge_sd_mm} />
          <Row name="The parts themselves" mm={r.part_sd_mm} />
          <Row name="All of it" mm={r.total_sd_mm} />
        </tbody>
      </table>
      {r.gauge_share_pct != null && <Share pct={r.gauge_share_pct} />}
      {r.warnings.map((w) => (
        <p key={w.code} className="font-semibold">
          {w.message}
        </p>
      ))}
      <p>
        <Undo s={s} />
      </p>
    </section>
  )
}

const Row = ({ name, mm }: { name: string; mm: number }) => (
  <tr>
    <th scope="row">{name}</th>
    <td className="num">{figure(1000 * mm)} µm</td>
  </tr>
)

/** The share of the measuring as a bar: its length says it, its words repeat it. */
const Share = ({ pct }: { pct: number }) => (
  <div>
    <div className="h-4 w-full max-w-md border border-line" aria-hidden="true">
      <div className="h-full bg-act" style={{ width: `${Math.min(100, pct)}%` }} />
    </div>
    <p className="text-sm text-soft">
      <span className="num">{figure(pct)} %</span> of the spread is the measuring.
    </p>
  </div>
)

/** What was read, in the order in which it was: shown once all is read, so that it leads nobody. */
function Taken({ s }: { s: Study }) {
  const taken = s.steps.filter((t) => t.value_mm != null)
  if (taken.length === 0) return null
  return (
    <details className="sheet">
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {counted(taken.length, 'reading')} in their order
      </summary>
      <table className="rows">
        <thead>
          <tr>
            <th scope="col">Round</th>
            <th scope="col">Who</th>
            <th scope="col">Part</th>
            <th scope="col">Read, mm ●</th>
          </tr>
        </thead>
        <tbody>
          {taken.map((t, i) => (
            <tr key={i}>
              <td className="num">{t.round}</td>
              <td>{t.operator}</td>
              <td>{t.part}</td>
              <td className="num">{reading(t.value_mm)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  )
}
