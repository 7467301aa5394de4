import { Link, useParams } from 'react-router'
import { Figure } from '../../components/Figure'
import { Page, Ready } from '../../components/Page'
import type { RunSheet, Schemas } from '../../lib/api'
import { duration, figure, grouped, modelWords, moment } from '../../lib/format'
import { useRunSheet } from '../../lib/queries'
import { AfterPanel } from './AfterPanel'
import { Again } from './Again'
import { History } from '../../components/History'
import { ConditionFigures } from '../../components/ConditionFigures'
import { SlicedFiles } from '../../components/SlicedFiles'
import { conditions } from './conditions'
import { Diagnosis } from './Diagnosis'
import { LivePanel } from './LivePanel'
import { Outcomes } from './Outcomes'
import { Room } from './Room'

export default function RunPage() {
  const { id = '' } = useParams()
  const sheet = useRunSheet(id)
  return (
    <Ready of={sheet}>
      {(s) => (
        <Page
          title={`${s.run.code}: ${s.printed}`}
          about={`${s.machine.name}${s.unit && ` (${s.unit})`}, ${s.resin.name}, ${s.settings}`}
          actions={
            <>
              <Link className="button" to={`/runs/${s.run.id}/labels`}>
                Labels
              </Link>
              <Link className="button" to={`/runs/${s.run.id}/card`}>
                Run card
              </Link>
              <Link className="button" to={`/runs/${s.run.id}/edit`}>
                Change what is known
              </Link>
              <Link className="button button-main" to={`/inspect/${s.run.id}`}>
                Inspect
              </Link>
            </>
          }
        >
          {s.run.prepared_ms == null && <Cautions />}
          <LivePanel id={id} />
          <Times s={s} />
          {s.run.ended_ms != null && <AfterPanel id={id} />}
          <Outcomes key={s.run.id} sheet={s} />
          <Diagnosis sheet={s} />
          <Again key={`again-${s.run.id}`} sheet={s} />
          <Room key={`room-${s.run.id}`} s={s} />
          <SlicedFiles of="runs" id={id} />
          <Conditions s={s} />
          <History kind="run" id={id} />
        </Page>
      )}
    </Ready>
  )
}

/** Once per run, short; the data sheet and the local rules decide. */
function Cautions() {
  return (
    <p className="border-l-4 border-act pl-3 text-sm">
      Gloves and eye protection before pouring; air the room; keep solvent from flames. Cure waste before you dispose of
      it, never down a drain. The resin's safety data sheet, local rules and the machine's manual decide.
    </p>
  )
}

function Times({ s }: { s: RunSheet }) {
  const r = s.run
  return (
    <section className="sheet">
      <h2 className="mb-2">Time</h2>
      <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <Figure
          label="Took"
          value={s.took.s == null ? 'no time' : duration(s.took.s)}
          n={1}
          source={s.took.s == null ? undefined : 'measured'}
          note={
            s.took.s == null
              ? s.took.reason
              : `from ${moment(r.started_ms)}${(r.paused_s ?? 0) > 0 ? `, ${duration(r.paused_s)} of pauses left out` : ''}`
          }
        />
        <Figure
          label="Our estimate"
          value={duration(r.our_estimate_s)}
          source="computed"
          note={modelWords(r.estimate_model)}
        />
        <Figure
          label="The software's estimate"
          value={duration(r.software_estimate_s)}
          source="claimed"
          note={r.software ?? 'software not known'}
        />
        <Figure
          label="Layers"
          value={grouped(r.layers ?? 0)}
          source="computed"
          note={`of ${figure(s.profile.layer_um)} µm`}
        />
      </dl>
    </section>
  )
}

function Conditions({ s }: { s: RunSheet }) {
  const show = (v: Schemas['Run'][keyof Schemas['Run']], unit?: string) => {
    if (v === null || v === undefined) return 'not known'
    if (typeof v === 'boolean') return v ? 'yes' : 'no'
    return typeof v === 'number' ? `${figure(v, 6)} ${unit ?? ''}` : v
  }
  return (
    <section className="sheet grid gap-3">
      <h2>Conditions</h2>
      <ConditionFigures c={s.condition} />
      {s.light && (
        <p>
          <span className="inline-block first-letter:uppercase">{s.light.says}</span>{' '}
          <span className="text-soft" aria-label="computed">
            ◇
          </span>
        </p>
      )}
      <h3>Seen and measured</h3>
      <dl className="grid gap-x-6 gap-y-2 sm:grid-cols-3 lg:grid-cols-4">
        {conditions.map((c) => (
          <div key={c.key}>
            <dt className="text-sm text-soft">{c.label}</dt>
            <dd className="num wrap-anywhere">
              {c.kind === 'time' && typeof s.run[c.key] === 'number'
                ? duration(s.run[c.key] as number)
                : show(s.run[c.key], c.unit)}
            </dd>
          </div>
        ))}
      </dl>
      {s.run.observed && (
        <p>
          <span className="text-soft">Seen to differ:</span> {s.run.observed}
        </p>
      )}
      {s.run.dial_changed && (
        <p>A setting was changed while it printed: it does not count as a print of its settings.</p>
      )}
      {s.run.notes && <p className="border-t border-line pt-2">{s.run.notes}</p>}
    </section>
  )
}
