import { useQuery } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { Link, useParams } from 'react-router'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type RunSheet } from '../../lib/api'
import { duration, figure, grouped } from '../../lib/format'
import { useRunSheet } from '../../lib/queries'

/** A print on paper, for a bench without a screen: what to set and to look at, and where to write what happened. */
export default function CardPage() {
  const { id = '' } = useParams()
  const sheet = useRunSheet(id)
  return <Ready of={sheet}>{(s) => <Card s={s} id={id} />}</Ready>
}

function Card({ s, id }: { s: RunSheet; id: string }) {
  return (
    <Page
      title={`${s.run.code}: ${s.printed}`}
      about={`${s.machine.name}, ${s.resin.name}, ${s.settings}`}
      actions={
        <>
          <Link className="button" to={`/runs/${id}`}>
            Back to the run
          </Link>
          <button className="button button-main" onClick={() => window.print()}>
            Print it
          </button>
        </>
      }
    >
      <section className="sheet grid grid-cols-[minmax(0,1fr)_auto] gap-4">
        <div className="grid content-start gap-2">
          <h2>To set</h2>
          <ul className="gap-x-8 sm:columns-2">
            {s.settings_say.map((words) => (
              <li key={words} className="wrap-anywhere">
                {words}
              </li>
            ))}
          </ul>
          {s.run.prediction && (
            <p>
              Foretold: {s.run.prediction}
              {s.run.prediction_fail_pct != null &&
                `, ${figure(s.run.prediction_fail_pct)} % sure that something fails`}
              .
            </p>
          )}
        </div>
        <img
          className="size-28 [image-rendering:pixelated]"
          src={`/api/v1/runs/${id}/qr.png?url=${encodeURIComponent(window.location.origin)}`}
          alt={`Code that opens ${s.run.code}`}
        />
      </section>
      <Before id={id} />
      <section className="sheet grid break-inside-avoid gap-2">
        <h2>While it prints</h2>
        <p>
          Began <Blank wide /> ended <Blank wide /> ☐ to its last layer ☐ stopped at layer <Blank /> because{' '}
          <Blank wide />
        </p>
        <p>
          Room at the start <Blank /> °C <Blank /> %, in between <Blank /> °C <Blank /> %, at the end <Blank /> °C{' '}
          <Blank /> %; resin <Blank /> °C; heater ☐ on ☐ off
        </p>
        <p>
          Poured in <Blank /> ml at <Blank />; paused from <Blank /> to <Blank />; your minutes at it <Blank />; resin
          used <Blank /> g
        </p>
      </section>
      <After id={id} />
      <section className="sheet grid break-inside-avoid gap-2">
        <h2>What came of it</h2>
        <ul className="grid gap-1 sm:grid-cols-2 print:grid-cols-2">
          {s.specimens.map((p, i) => (
            <li key={p.id} className="break-inside-avoid">
              <span className="num">{i + 1}</span> <strong className="num">{p.code}</strong> ☐ whole ☐ marked ☐ lost:{' '}
              <Blank />
            </li>
          ))}
        </ul>
        <p className="text-sm text-soft">
          To type in afterwards, in one line on the bench: “{s.run.code} done 2h05 all whole but 3 and 7”. Sizes and
          checkpoints have <Link to={`/inspect/${id}/paper`}>a reading sheet of their own</Link>.
        </p>
      </section>
    </Page>
  )
}

/** What preflight asks, with what the record says of it, to be ticked with a pen. */
function Before({ id }: { id: string }) {
  const live = useQuery({
    queryKey: ['runs', id, 'live'],
    queryFn: () => answer(api.GET('/api/v1/runs/{id}/live', { params: { path: { id } } })),
  })
  const l = live.data
  if (live.isError) return <Complaint>{live.error.message}</Complaint>
  if (!l || l.items.length === 0) return null
  return (
    <section className="sheet grid gap-2">
      <h2>Before it starts</h2>
      {l.live && l.state === 'prepared' && (
        <p>
          Takes about <span className="num font-semibold">{duration(l.live.left_s)}</span>
          {l.total_pi && ` (95 %: ${duration(l.total_pi[0])} to ${duration(l.total_pi[1])})`}, {grouped(l.layers)}{' '}
          layers.
          {l.level?.dry_layer != null &&
            ` The vat runs dry in layer ${grouped(l.level.dry_layer)}: top up ${figure(l.level.short_ml)} ml before.`}
        </p>
      )}
      <ul className="grid gap-1">
        {l.items.map((i) => (
          <li key={i.item} className="grid grid-cols-[1.5rem_minmax(0,1fr)] break-inside-avoid">
            <span>☐</span>
            <span className="wrap-anywhere">
              <strong>{i.title}.</strong> {i.fact}
            </span>
          </li>
        ))}
      </ul>
    </section>
  )
}

function After({ id }: { id: string }) {
  const after = useQuery({
    queryKey: ['runs', id, 'after'],
    queryFn: () => answer(api.GET('/api/v1/runs/{id}/after', { params: { path: { id } } })),
  })
  if (after.isError) return <Complaint>{after.error.message}</Complaint>
  if (!after.data) return null
  return (
    <section className="sheet grid break-inside-avoid gap-2">
      <h2>After it</h2>
      <ul className="grid gap-1">
        {after.data.steps.map((step) => (
          <li key={step.kind}>
            ☐ <strong>{step.title}</strong>
            {step.planned_s != null && ` for ${duration(step.planned_s)} (${step.from})`}: from <Blank /> to <Blank />
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A place to write on. */
const Blank = ({ wide }: { wide?: boolean }): ReactNode => (
  <span aria-hidden="true" className={`inline-block border-b border-soft align-baseline ${wide ? 'w-32' : 'w-14'}`}>
    &nbsp;
  </span>
)
