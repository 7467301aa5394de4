import { How } from '../../components/How'
import type { Comparison, ComparisonQuery } from '../../lib/api'
import { counted, duration, figure, micrometres } from '../../lib/format'
import { useSettings } from '../../lib/queries'
import { gradeOf } from './Audit'
import { ErrorsPlot } from './ErrorsPlot'
import { Faults } from './Faults'
import { Ordeals } from './Ordeals'
import { OtherFills } from './OtherFills'
import { Measure } from '../../components/Measure'
import { ThresholdPlots } from './ThresholdPlots'
import { TimeSplits } from './TimeSplits'

/** What the sides show: for the question first, all else folded; under an audit that says not comparable, all folded. */
export function Figures({ c, query }: { c: Comparison; query: ComparisonQuery }) {
  const currency = useSettings().data?.currency ?? ''
  const answering = c.measures.filter((m) => m.questions.includes(c.question))
  const [asked, alike] = [answering.filter((m) => !m.alike), answering.filter((m) => m.alike)]
  const others = c.measures.filter((m) => !m.questions.includes(c.question))
  const weighed = c.audits.filter((a) => !a.reference)
  const unlike = weighed.filter((a) => a.result.grade === 'not_comparable')
  const list = (measures: Comparison['measures']) =>
    measures.map((m) => <Measure key={m.key} m={m} sides={c.sides} baseline={c.baseline} currency={currency} />)
  const all = (
    <div className="grid gap-5">
      {answering.length === 0 && <p>Nothing was read that answers this question yet.</p>}
      {c.question === 'dimension' && <ErrorsPlot c={c} />}
      {c.question === 'detail' && <ThresholdPlots c={c} />}
      {c.question === 'strength' && <Ordeals c={c} />}
      {list(asked)}
      {alike.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
            The same on every side: {alike.map((m) => m.label).join('; ')}
          </summary>
          <div className="mt-2 grid gap-5">{list(alike)}</div>
        </details>
      )}
      {(c.question === 'failure' || c.question === 'finish') && <Faults c={c} />}
      {c.question === 'time' && <TimeSplits c={c} />}
      {c.question === 'time' && <OtherFills c={c} query={query} />}
      {(c.question === 'time' || c.question === 'failure') && <Warmth c={c} />}
      {[...c.stages, ...c.expected, ...c.agreement].length > 0 &&
        (c.question === 'finish' || c.question === 'detail') && (
          <section aria-label="Ratings together">
            <h3>Ratings together ◇</h3>
            {[...c.stages, ...c.expected, ...c.agreement].map((s) => (
              <p key={s}>{s}</p>
            ))}
          </section>
        )}
      {c.measuring.length > 0 && c.question === 'dimension' && (
        <section aria-label="What the measuring does">
          <h3>What the measuring does ◇</h3>
          {c.measuring.map((s) => (
            <p key={s}>{s}</p>
          ))}
        </section>
      )}
      {c.gaps.length > 0 && (
        <section aria-label="Not worked out">
          <h3>Not worked out</h3>
          <ul className="grid gap-1">
            {c.gaps.map((g) => (
              <li key={g.part + g.why}>
                <strong>{g.part}:</strong> {g.why}
              </li>
            ))}
          </ul>
        </section>
      )}
      {c.answers.length > 0 && (
        <div>
          <h3>What this shows</h3>
          <ul className="grid gap-1">
            {c.answers.map((a) => (
              <li key={a}>{a}</li>
            ))}
          </ul>
        </div>
      )}
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
          {counted(others.length, 'other figure')} of the same prints
        </summary>
        <div className="mt-2 grid gap-5">
          {list(others)}
          {c.question !== 'time' && <TimeSplits c={c} />}
          {c.question !== 'failure' && c.question !== 'finish' && <Faults c={c} />}
        </div>
      </details>
      <Sides c={c} currency={currency} />
    </div>
  )
  return (
    <section className="sheet" aria-label="Figures">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Figures</h2>
        <How figure="many" of="Figures" />
      </div>
      <p className="mb-3 text-sm text-soft">
        Measured, over prints: copies of one print share its fate.{' '}
        {c.counted.table === 0
          ? 'So few prints give no p'
          : `Every p is adjusted by Holm’s method among the ${c.counted.table} of this comparison`}
        {c.counted.declared > 0 && `, but the ${c.counted.declared} declared to decide among themselves`}.
      </p>
      {unlike.length > 0 && unlike.length === weighed.length ? (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
            {gradeOf(unlike[0]!)}: show the figures all the same
          </summary>
          <div className="mt-3">{all}</div>
        </details>
      ) : (
        <>
          {unlike.length > 0 && (
            <p className="mb-3 border-l-4 border-act pl-2">
              {unlike.map((a) => c.sides[a.a]?.letter).join(', ')} cannot be compared with {c.sides[c.baseline]?.letter}{' '}
              as it stands; read its rows with the audit beside them.
            </p>
          )}
          {all}
        </>
      )}
    </section>
  )
}

/** What cold or heat did to a side some of whose prints were made in it. */
function Warmth({ c }: { c: Comparison }) {
  const said = c.sides.flatMap((s) =>
    [...s.warmth, ...[s.odds_per_degree, s.per_degree].filter((p) => p != null)].map((w) => ({
      letter: s.letter,
      says: w.says,
    })),
  )
  if (said.length === 0) return null
  return (
    <section aria-label="Temperature">
      <h3>Temperature ●</h3>
      {said.map((s) => (
        <p key={s.letter + s.says}>
          <strong>{s.letter}:</strong> {s.says}
        </p>
      ))}
      <p className="text-sm text-soft">
        Prints of one side by their resin’s temperature; what else changed between them is for the audit.
      </p>
    </section>
  )
}

/** What each side's prints say beside the contest: estimates, accidents, what a good piece is made of, sizes. */
function Sides({ c, currency }: { c: Comparison; currency: string }) {
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        Estimates, treatment, accidents, cost and sizes of each side
      </summary>
      {c.sides.map((s) => (
        <div key={s.letter} className="mt-3 border-t border-line pt-2">
          <h3>
            {s.letter}: {s.label}
          </h3>
          <dl className="grid gap-x-4 gap-y-1 sm:grid-cols-[14rem_1fr]">
            <Fact label="Our estimate of a plate ◇" text={duration(s.our_estimate_s)} />
            <Fact
              label="The software’s estimate ❝"
              text={duration(s.software_estimate_s)}
              note={
                s.bias
                  ? `in truth ${figure(s.bias.factor)} times as long${s.bias.factor_ci ? `, 95 %: ${figure(s.bias.factor_ci[0])} to ${figure(s.bias.factor_ci[1])}` : ''}, n = ${s.bias.n}`
                  : undefined
              }
            />
            <Fact
              label="Time of a piece at the fills printed ●"
              text={duration(s.per_piece_s)}
              note={`${counted(s.copies, 'copy', 'copies')} in all${s.shared ? ', by their share of the plate' : ''}`}
            />
            {s.rose && <Fact label="How fast it rose, its first layers included ●" text={s.rose.says} />}
            <Fact label="Washed ●" text={s.washed} />
            <Fact label="Cured ●" text={s.cured} />
            <Fact
              label="Accidents after printing ●"
              text={counted(s.outcomes.accidents, 'accident')}
              note={`of ${counted(s.outcomes.judged, 'specimen')}; they count against nobody`}
            />
            {s.cost && (
              <Fact
                label={`A good piece is made of, ${currency} ◇`}
                text={s.cost.parts.map((p) => `${p.name} ${p.cost.toFixed(2)}`).join(', ')}
                note="over all prints"
              />
            )}
            {s.set_aside.length > 0 && <Fact label="Set aside from detail and sizes" text={s.set_aside.join(', ')} />}
            {s.dimensions && (
              <Fact
                label="Sizes together ●"
                text={`mean ${micrometres(s.dimensions.overall.mean_error_mm)}, largest ${micrometres(s.dimensions.overall.max_abs_mm).replace('+', '')}`}
                note={`${s.dimensions.it_grade === null ? 'no ISO grade' : `IT${s.dimensions.it_grade}`}, ${counted(s.dimensions.features.length, 'feature')}${fits(s.dimensions.fits)}`}
              />
            )}
            {s.corrections.length > 0 && <Fact label="So that they come right ◇" text={s.corrections.join(' ')} />}
          </dl>
        </div>
      ))}
    </details>
  )
}

/** Offset and scale of each axis with their standard errors. */
function fits(list: NonNullable<Comparison['sides'][number]['dimensions']>['fits']): string {
  return list
    .map(
      (f) =>
        `; ${f.axis} ${f.kind}: offset ${micrometres(f.offset_mm)}${f.offset_se_mm === null ? '' : ` (se ${Math.round(1000 * f.offset_se_mm)} µm)`}, scale ${figure(f.scale_pct, 2)} %${f.scale_se_pct === null ? '' : ` (se ${figure(f.scale_se_pct, 2)} %)`}`,
    )
    .join('')
}

function Fact({ label, text, note }: { label: string; text: string; note?: string }) {
  return (
    <>
      <dt className="text-soft">{label}</dt>
      <dd>
        <span className="num">{text}</span>
        {note && <span className="text-sm text-soft"> {note}</span>}
      </dd>
    </>
  )
}
