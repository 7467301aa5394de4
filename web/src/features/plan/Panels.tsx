import { How } from '../../components/How'
import { CellTimes } from '../../components/CellTimes'
import { Figure, Warnings } from '../../components/Figure'
import type { PlateSheet, Schemas } from '../../lib/api'
import { counted, duration, figure, grouped, modelWords, percent } from '../../lib/format'
import { useSettings } from '../../lib/queries'

const span = (i: number[] | null | undefined): [string, string] | null => (i ? [duration(i[0]), duration(i[1])] : null)
const grid = 'grid gap-3 sm:grid-cols-2'

export function TimePanel({ s }: { s: PlateSheet }) {
  const time = s.time
  if (!time) return null
  const e = time.estimate
  return (
    <section className="sheet grid content-start gap-3">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Time</h2>
        <How figure="time" of="Time" />
      </div>
      <dl className={grid}>
        <Figure
          label="To plan with"
          value={duration(time.best_s)}
          interval={span(time.best_pi)}
          source={time.best_from === 'model' && e.model !== 'learned' ? 'computed' : 'estimated'}
          note={
            time.best_from === 'ours'
              ? `ours, put right by ${counted(time.ours_n, 'print')} ${time.ours_from}`
              : time.best_from === 'software'
                ? `the software's, put right by ${counted(time.software_n, 'print')} ${time.software_from}`
                : e.model === 'learned'
                  ? modelWords(e.model)
                  : 'no finished print to put it right by'
          }
        />
        {e.model !== 'learned' && (
          <Figure
            label="By the timing model"
            value={duration(e.total_s)}
            source="computed"
            note={`${grouped(e.layers)} layers${e.layer_s == null ? '' : ` of ${figure(e.layer_s)} s`}, ${modelWords(e.model)}`}
          />
        )}
        {time.ours?.factor != null && (
          <Figure
            label="Prints take, of our estimate"
            value={figure(time.ours.factor)}
            unit="times"
            n={time.ours_n}
            note={time.ours_from}
            interval={time.ours.factor_ci ? [figure(time.ours.factor_ci[0]), figure(time.ours.factor_ci[1])] : null}
            source="measured"
          />
        )}
        {time.software && (
          <Figure
            label={`${s.plate.software || 'The software'} says ${duration(s.plate.software_estimate_s)}; put right`}
            value={duration(time.software.corrected_s)}
            n={time.software_n}
            note={time.software_from}
            interval={span(time.software.corrected_pi)}
            source="estimated"
          />
        )}
        {e.light_on_s != null && e.total_s != null && (
          <Figure
            label="Of it lit"
            value={duration(e.light_on_s)}
            source="computed"
            note="the rest is motion, waits and peel"
          />
        )}
      </dl>
      {e.reason && <p>{e.reason}</p>}
      {time.ours && <Warnings list={time.ours.warnings} />}
      {s.headline && <Headline h={s.headline} s={s} />}
    </section>
  )
}

/** The maker's speed against what a layer takes. */
function Headline({ h, s }: { h: Schemas['TimingHeadlineResult']; s: PlateSheet }) {
  return (
    <div className="border-t border-line pt-2">
      <p>
        Claimed: <span className="num">{figure(s.machine.claimed_mm_h)}</span> mm/h, which leaves{' '}
        <span className="num">{figure(h.implied_layer_s)}</span> s a layer.{' '}
        {h.measured_mm_h != null && (
          <>
            With these settings a layer takes <span className="num">{figure(s.time?.estimate.layer_s)}</span> s:{' '}
            <span className="num">{figure(h.measured_mm_h)}</span> mm/h, {percent(h.share)} of the claim.
          </>
        )}
      </p>
      <Warnings list={h.warnings} />
    </div>
  )
}

export function ResinPanel({ s }: { s: PlateSheet }) {
  const r = s.resin_budget
  if (!r) return null
  const b = r.budget
  return (
    <section className="sheet grid content-start gap-3">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Resin</h2>
        <How figure="resin" of="Resin" />
      </div>
      {b && (
        <p className={`border-l-4 pl-2 font-semibold ${b.runs_dry ? 'border-bad text-bad' : 'border-good text-good'}`}>
          {b.runs_dry
            ? `The vat runs dry in layer ${grouped(b.dry_layer ?? 0)}, ${duration(b.dry_at_s)} after the first one: top up by then, ${figure(b.short_ml)} ml in all, in ${b.refills} ${b.refills === 1 ? 'refill' : 'refills'}.`
            : 'The vat holds to the end.'}
        </p>
      )}
      <dl className={grid}>
        <Figure label="Solid: pieces, supports, rafts" value={figure(r.solid_ml)} unit="ml" source="computed" />
        {b && (
          <>
            <Figure
              label="Needed in all"
              value={figure(b.needed_ml)}
              unit="ml"
              source="computed"
              note={`${figure(s.plate.drip_ml)} ml of it drips off`}
            />
            <Figure
              label="The vat gives"
              value={figure(b.usable_ml)}
              unit="ml"
              source="computed"
              note={`of ${figure(r.fill_ml)} ml in it`}
            />
            <Figure
              label="Left in the vat"
              value={figure(b.left_ml)}
              unit="ml"
              source="computed"
              note={b.refills > 0 ? 'after filling to the top each time' : undefined}
            />
          </>
        )}
        {r.bottle_ml != null && (
          <Figure
            label="Bottle now"
            value={figure(r.bottle_ml)}
            unit="ml"
            source="computed"
            note={r.bottle_left_ml == null ? undefined : `${figure(Math.max(0, r.bottle_left_ml))} ml after this`}
          />
        )}
      </dl>
      {b && <Warnings list={b.warnings} />}
      {r.reason && <p>{r.reason}</p>}
      {r.bottle_reason && <p className="text-soft">{r.bottle_reason}</p>}
    </section>
  )
}

const units = { light_h: 'h of light', layers: 'layers' }

export function WearPanel({ s }: { s: PlateSheet }) {
  const settings = useSettings()
  return (
    <section className="sheet grid content-start gap-3">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Wear</h2>
        <How figure="light" of="Wear" />
      </div>
      {s.wear_reason && <p className="text-soft">{s.wear_reason}</p>}
      {s.wear.map((w) => (
        <div key={w.name} className="border-t border-line pt-2 first-of-type:border-t-0">
          <h3>
            {w.name}: <span className="num">{percent(w.result.used_share)}</span> of its stated{' '}
            <span className="num">{grouped(w.life)}</span> {units[w.unit]} used
          </h3>
          <dl className={`${grid} mt-1`}>
            <Figure
              label="This print uses"
              value={figure(w.result.use_per_print)}
              unit={units[w.unit]}
              source="computed"
              note={w.light_known ? `lit ${percent(w.result.light_duty)} of the time` : undefined}
            />
            <Figure label="Such prints left" value={grouped(w.result.prints_left)} source="computed" note={w.from} />
            <Figure
              label="Years left"
              value={figure(w.result.years_left, 2)}
              source="computed"
              note={`at ${figure(settings.data?.run_h_per_week)} h a week`}
            />
            <Figure
              label="Costs a print"
              value={w.result.cost_per_print == null ? 'price not stated' : w.result.cost_per_print.toFixed(2)}
              unit={w.result.cost_per_print == null ? '' : settings.data?.currency}
              source="computed"
            />
          </dl>
          <Warnings list={w.result.warnings} />
        </div>
      ))}
    </section>
  )
}

export function CostPanel({ s }: { s: PlateSheet }) {
  const settings = useSettings()
  const c = s.cost
  const money = settings.data?.currency
  return (
    <section className="sheet grid content-start gap-3">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Cost before printing</h2>
        <How figure="cost" of="Cost before printing" />
      </div>
      {s.cost_reason && <p className="text-soft">{s.cost_reason}</p>}
      {c && (
        <>
          <dl className={grid}>
            <Figure
              label="The plate"
              value={c.print_cost.toFixed(2)}
              unit={money}
              source="computed"
              note={`${c.per_copy.toFixed(2)} a copy`}
            />
            <Figure
              label="A good piece"
              value={c.per_good_piece == null ? '–' : c.per_good_piece.toFixed(2)}
              unit={money}
              interval={c.per_good_ci ? [c.per_good_ci[0]!.toFixed(2), c.per_good_ci[1]!.toFixed(2)] : null}
              source="estimated"
              note={s.cost_basis}
            />
          </dl>
          <Warnings list={c.warnings} />
          <p className="text-sm text-soft">
            {c.parts.map((p) => `${p.name} ${p.cost.toFixed(2)}`).join(', ')} {money}
          </p>
        </>
      )}
    </section>
  )
}

export function CellsPanel({ s }: { s: PlateSheet }) {
  return s.cells ? (
    <section className="sheet grid gap-2">
      <h2>One plate, or one a cell</h2>
      <CellTimes c={s.cells} />
    </section>
  ) : null
}

const days = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

/** The week of printing this plate again and again, as bars on seven days. */
export function WeekPanel({ s }: { s: PlateSheet }) {
  const settings = useSettings()
  const w = s.week
  const hours = settings.data
  if (!w || !hours) return null
  return (
    <section className="sheet grid gap-2">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>A week of it</h2>
        <How figure="fill" of="A week of it" />
      </div>
      <p>
        <span className="num font-semibold">{w.plates}</span> plates,{' '}
        <span className="num font-semibold">{w.copies}</span> pieces; <span className="num">{w.overnight}</span> of the
        plates end while nobody is there. The machine runs <span className="num">{figure(w.run_h)}</span> h, waits{' '}
        <span className="num">{figure(w.wait_h)}</span> h for you, and takes{' '}
        <span className="num">{figure(w.attended_h)}</span> h of your time.
      </p>
      <div className="overflow-x-auto">
        <svg
          viewBox="0 0 840 74"
          className="w-full min-w-[30rem]"
          role="img"
          aria-label={`Prints of a week: ${counted(w.plates, 'plate')}`}
        >
          {days.map((d, i) => (
            <g key={d}>
              {i < hours.attended_days! && (
                <rect
                  x={i * 120 + hours.attended_from_h! * 5}
                  width={(hours.attended_to_h! - hours.attended_from_h!) * 5}
                  y="18"
                  height="38"
                  className="fill-line/60"
                />
              )}
              <line x1={i * 120} x2={i * 120} y1="18" y2="56" className="stroke-soft" />
              <text x={i * 120 + 4} y="13" fontSize="12" className="fill-soft">
                {d}
              </text>
            </g>
          ))}
          {w.prints.map((p, i) => (
            <rect
              key={i}
              x={p.start_h * 5}
              width={Math.max(1.5, (Math.min(p.end_h, 168) - p.start_h) * 5 - 1)}
              y="28"
              height="18"
              rx="4"
              className="fill-act"
            />
          ))}
          <text x="0" y="70" fontSize="12" className="fill-soft">
            grey: you are there; bars: it prints
          </text>
        </svg>
      </div>
      {w.warnings.map((x) => (
        <p key={x.code} className="border-l-4 border-act pl-2">
          {x.message}
        </p>
      ))}
      <p className="text-sm text-soft">Your hours and the time to turn a machine round stand under Kit, Costs.</p>
    </section>
  )
}
