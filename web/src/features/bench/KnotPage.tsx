import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { Link, useParams } from 'react-router'
import { DraftOffer } from '../../components/DraftOffer'
import { TextField } from '../../components/Field'
import { History } from '../../components/History'
import { Measure } from '../../components/Measure'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { counted, figure, grouped, listed, moment, words } from '../../lib/format'
import { useSettings } from '../../lib/queries'
import { knotBody, KnotFields, knotValues, type KnotValues } from '../../components/KnotFields'

/** One knot: all that changed with it, what can be told apart, and the prints on both sides of it. */
export default function KnotPage() {
  const { id = '' } = useParams()
  const set = useQuery({
    queryKey: ['knots', id],
    queryFn: () => answer(api.GET('/api/v1/machine-events/{id}', { params: { path: { id } } })),
  })
  return (
    <Ready of={set}>
      {(s) => (
        <Page
          title={`${s.machine}: ${kindsOf(s.event)}`}
          about={[moment(s.event.at_ms), s.event.note].filter(Boolean).join(', ')}
        >
          {s.event.retired_ms != null && (
            <p className="border-l-4 border-bad pl-3">
              Retired {moment(s.event.retired_ms)}: {s.event.retired_why}. Nothing counts from it any more.
            </p>
          )}
          <Readings e={s.event} />
          <Changes s={s} />
          <Effect s={s} />
          <Pairs s={s} />
          {s.event.retired_ms == null && <Correct key={s.event.version} e={s.event} />}
          <History kind="machine_event" id={id} />
        </Page>
      )}
    </Ready>
  )
}

const kindsOf = (e: Schemas['MachineEvent']) => listed(e.kinds.map(words))

/** What the machine's own counters showed then. */
function Readings({ e }: { e: Schemas['MachineEvent'] }) {
  const said = [
    e.film_layers != null && `${grouped(Math.round(e.film_layers))} layers on the film`,
    e.light_h != null && `${figure(e.light_h)} h lit`,
    e.unknown_before && 'what it had seen before is not known',
  ].filter(Boolean)
  if (said.length === 0) return null
  return <p className="sheet">At that moment: {said.join(', ')}. Wear counts on from it.</p>
}

/** A knot that was tied wrong is put right, or retired; what it said before stays. */
function Correct({ e }: { e: Schemas['MachineEvent'] }) {
  const id = e.id ?? ''
  const before = knotValues(e)
  const form = useDraftForm<KnotValues & { why: string }>(`draft-knot-${id}`, { ...before, why: '' }, e.version)
  const [open, setOpen] = useState(false)
  const save = useMutation({
    mutationFn: (v: KnotValues & { why: string }) => {
      const [was, now] = [knotBody(before), knotBody(v)]
      const change = Object.fromEntries(
        Object.entries(now).filter(([k, x]) => JSON.stringify(x) !== JSON.stringify(was[k as keyof typeof was])),
      )
      return answer(
        api.PATCH('/api/v1/machine-events/{id}', {
          params: { path: { id } },
          body: { version: e.version ?? 0, change: change as Schemas['EventChange'], why: v.why },
        }),
      )
    },
    onSuccess: () => form.forget(),
    onError: (x) => showProblem(form, x),
  })
  const [why, setWhy] = useState('')
  const retire = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/machine-events/{id}/retirement', {
          params: { path: { id } },
          body: { version: e.version ?? 0, why },
        }),
      ),
  })
  if (!open) {
    return (
      <button className="button justify-self-start" onClick={() => setOpen(true)}>
        Correct or retire this knot
      </button>
    )
  }
  return (
    <>
      <FormProvider {...form}>
        <form
          className="sheet grid gap-3"
          aria-label="Correct this knot"
          onSubmit={form.handleSubmit((v) => save.mutate(v))}
        >
          <h2>Put it right</h2>
          <DraftOffer old={form.old} />
          <KnotFields />
          <TextField name="why" label="Why it is corrected" />
          {save.isError && <Complaint>{save.error.message}</Complaint>}
          <div className="flex gap-2">
            <button className="button button-main" disabled={save.isPending}>
              Correct this knot
            </button>
            <button type="button" className="button" onClick={() => setOpen(false)}>
              Leave it
            </button>
          </div>
        </form>
      </FormProvider>
      <form
        className="sheet flex flex-wrap items-end gap-3"
        aria-label="Retire this knot"
        onSubmit={(x) => {
          x.preventDefault()
          retire.mutate()
        }}
      >
        <label className="min-w-60 flex-1 text-sm font-semibold">
          Why it is retired
          <input className="input font-normal" required value={why} onChange={(x) => setWhy(x.target.value)} />
        </label>
        <button className="button" disabled={retire.isPending}>
          Retire this knot
        </button>
        {retire.isError && <Complaint>{retire.error.message}</Complaint>}
      </form>
    </>
  )
}

function Changes({ s }: { s: Schemas['ChangeSet'] }) {
  if (!s.plan) {
    return (
      <section className="sheet">
        <h2>What changed</h2>
        <p className="text-soft">
          {kindsOf(s.event)} alone is on record. What else changed with it cannot be known from here.
        </p>
      </section>
    )
  }
  return (
    <section className="sheet grid gap-3">
      <h2>What changed, and what can be told apart</h2>
      <p className="border-l-4 border-act pl-3">{s.plan.sentence}</p>
      <div className="overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th>Set-up to print</th>
              {(s.event.changes ?? []).map((c) => (
                <th key={c.what}>
                  {c.what}
                  <span className="block text-sm font-normal text-soft">
                    {[c.from, c.to].filter(Boolean).join(' → ') || 'not described'}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {s.plan.cells.map((c) => (
              <tr key={c.label}>
                <td>
                  {c.label}
                  {!c.printed && <strong className="block text-sm">to be printed</strong>}
                </td>
                {c.in.map((on, i) => (
                  <td key={i}>{on ? '■ in' : '□ as before'}</td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-sm text-soft">
        Print the same pieces in each set-up, in a drawn order, and change nothing else. Main effects only: whether two
        changes work on each other cannot be seen from these.
      </p>
    </section>
  )
}

/** What it did to prints of the same pieces in the same resin: the audit first, the claim, then the figures. */
function Effect({ s }: { s: Schemas['ChangeSet'] }) {
  const currency = useSettings().data?.currency ?? ''
  const e = s.effect
  if (!e) return <p className="sheet text-soft">{s.effect_reason}</p>
  const [before, after] = [e.sides[0], e.sides[1]]
  const why = [...new Set(e.audits.flatMap((a) => a.why))]
  const grades = [...new Set(e.audits.map((a) => words(a.grade)))]
  const told = e.measures.filter((m) => m.pairs.some((p) => p.difference !== null))
  const shows = (m: (typeof told)[number]) => m.pairs.some((p) => p.verdict !== 'not_shown')
  const [seen, unseen] = [told.filter(shows), told.filter((m) => !shows(m))]
  const measure = (m: (typeof told)[number]) => (
    <Measure key={m.key} m={m} sides={e.sides} baseline={0} currency={currency} />
  )
  return (
    <section className="sheet grid gap-3" aria-label="Before and after">
      <h2>What it did</h2>
      <p>
        {counted(before?.runs.length ?? 0, 'print')} before (A: <Codes of={before} />
        ), {counted(after?.runs.length ?? 0, 'print')} after (B: <Codes of={after} />
        ), of pieces that were printed in one resin on both sides.
        {e.under_test.length > 0 && ` What came with it: ${listed(e.under_test.map(words))}.`}
      </p>
      <div>
        <h3>How fair that is</h3>
        <p>
          {grades.length === 1
            ? `For every question: ${grades[0]}.`
            : `${e.audits.map((a) => `${words(a.question)}: ${words(a.grade)}`).join('; ')}.`}
        </p>
        {why.length > 0 && (
          <ul className="grid gap-1">
            {why.map((w) => (
              <li key={w}>{w}</li>
            ))}
          </ul>
        )}
      </div>
      {e.claim && (
        <p className="border-l-4 border-act pl-3">
          <strong>{claimWords[e.claim_verdict]}</strong> {e.claim}
        </p>
      )}
      <p className="text-sm text-soft">
        {e.counted.table === 0
          ? 'So few prints give no p.'
          : `Every p is adjusted by Holm’s method among the ${e.counted.table} of this page.`}
      </p>
      <div className="grid gap-5">{seen.map(measure)}</div>
      {unseen.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
            {counted(unseen.length, 'figure')} in which no difference is shown
          </summary>
          <div className="mt-2 grid gap-5">{unseen.map(measure)}</div>
        </details>
      )}
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">In sentences</summary>
        <ul className="grid gap-1">
          {e.sentences.map((x) => (
            <li key={x}>{x}</li>
          ))}
        </ul>
      </details>
    </section>
  )
}

/** The codes of prints, each on one line. */
function Codes({ of }: { of?: Schemas['Side'] }) {
  return of?.runs.map((code, i) => (
    <span key={code}>
      {i > 0 && ', '}
      <Link className="num whitespace-nowrap" to={`/runs/${of.run_ids[i]}`}>
        {code}
      </Link>
    </span>
  ))
}

const claimWords: Record<string, string> = {
  met: 'Met.',
  not_met: 'Not met.',
  cannot_tell: 'Cannot be told.',
}

function Pairs({ s }: { s: Schemas['ChangeSet'] }) {
  const both = s.pairs.filter((p) => p.before_run_ids.length > 0 && p.after_run_ids.length > 0)
  const one = s.pairs.filter((p) => !both.includes(p))
  return (
    <section className="sheet grid gap-2">
      <h2>Before and after on record</h2>
      {s.pairs.length === 0 && <p className="text-soft">No finished print lies near this knot.</p>}
      {both.length > 0 && <PairTable pairs={both} />}
      {one.length > 0 && (
        <details open={both.length === 0}>
          <summary className="min-h-(--tap) cursor-pointer content-center">
            {counted(one.length, 'piece and resin', 'pieces and resins')} with prints on one side alone
          </summary>
          <PairTable pairs={one} />
        </details>
      )}
    </section>
  )
}

function PairTable({ pairs }: { pairs: Schemas['ChangeSet']['pairs'] }) {
  return (
    <div className="overflow-x-auto">
      <table className="rows">
        <thead>
          <tr>
            <th>Piece and resin</th>
            <th>Runs before</th>
            <th>Runs after</th>
            <th>Compare</th>
          </tr>
        </thead>
        <tbody>
          {pairs.map((p) => (
            <tr key={p.piece + p.resin}>
              <td>
                {p.piece}, {p.resin}
              </td>
              <td className="num">{p.before_run_ids.length}</td>
              <td className="num">{p.after_run_ids.length}</td>
              <td>
                {p.before_run_ids.length > 0 && p.after_run_ids.length > 0 ? (
                  <Link
                    to={`/compare?side=${p.before_run_ids.slice(-20).join()}&side=${p.after_run_ids.slice(0, 20).join()}&piece=${p.piece_id}&question=detail`}
                  >
                    Before against after
                  </Link>
                ) : (
                  <span className="text-soft">needs a print on both sides</span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
