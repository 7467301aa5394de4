import type { ReactNode } from 'react'
import type { Comparison, Schemas } from '../../lib/api'
import { counted, duration, figure, micrometres, percent } from '../../lib/format'
import { useSettings } from '../../lib/queries'

type Side = Schemas['Side']

/** Figures of both sides, row by row, each with n, interval and where it came from. */
export function Figures({ c }: { c: Comparison }) {
  const currency = useSettings().data?.currency ?? ''
  return (
    <section className="sheet overflow-x-auto" aria-label="Figures">
      <h2>Figures</h2>
      <p className="mb-2 text-sm text-soft">● measured, ◇ computed, ❝ claimed. Intervals are at 95 %.</p>
      <table className="rows table-fixed [&_th:first-child]:w-[26%]">
        <thead>
          <tr>
            <th>
              <span className="sr-only">Figure</span>
            </th>
            <th>A: {c.a.machine}</th>
            <th>B: {c.b.machine}</th>
          </tr>
        </thead>
        <tbody>
          <Row
            c={c}
            label="Time of a plate ●"
            of={(s) => (
              <Value
                v={s.actual_s === null ? 'not known' : duration(s.actual_s)}
                note={`n = ${s.actual_n} of ${counted(s.runs.length, 'run')}`}
              />
            )}
          />
          <Row
            c={c}
            label="Time of a piece ●"
            of={(s) => <Value v={duration(s.per_piece_s)} note={`${counted(s.copies, 'copy', 'copies')} in all`} />}
          />
          <Row c={c} label="Our estimate of a plate ◇" of={(s) => <Value v={duration(s.our_estimate_s)} />} />
          <Row
            c={c}
            label="The software's estimate ❝"
            of={(s) => (
              <Value
                v={duration(s.software_estimate_s)}
                note={
                  s.bias
                    ? `in truth ${figure(s.bias.factor)} times as long${s.bias.factor_ci ? `, 95 %: ${figure(s.bias.factor_ci[0])} to ${figure(s.bias.factor_ci[1])}` : ''}`
                    : undefined
                }
              />
            )}
          />
          <Ladders c={c} />
          <Row
            c={c}
            label="Sizes: mean error ●"
            of={(s) =>
              s.dimensions ? (
                <Value
                  v={micrometres(s.dimensions.overall.mean_error_mm)}
                  note={`largest ${micrometres(s.dimensions.overall.max_abs_mm).replace('+', '')}, ${s.dimensions.it_grade === null ? 'no ISO grade' : `IT${s.dimensions.it_grade}`}, n = ${s.dimensions.features.length} features`}
                />
              ) : (
                <Value v="not measured" />
              )
            }
          />
          <Sizes c={c} />
          <Row
            c={c}
            label="Failures, all ●"
            of={(s) => <Rate r={s.all_failures} events={s.outcomes.failed} trials={s.outcomes.judged} />}
          />
          <Row
            c={c}
            label="Failures attributed to the machine ●"
            of={(s) => <Rate r={s.by_machine} events={s.outcomes.by_machine} trials={s.outcomes.judged} />}
          />
          <Row
            c={c}
            label="Marked in printing, usable ●"
            of={(s) => <Rate r={s.micro_defects} events={s.outcomes.micro_printed} trials={s.outcomes.judged} />}
          />
          <Row
            c={c}
            label="Accidents after printing ●"
            of={(s) => (
              <Value
                v={counted(s.outcomes.accidents, 'accident')}
                note={`of ${counted(s.outcomes.judged, 'specimen')}; they count against nobody`}
              />
            )}
          />
          <Row c={c} label={`Cost of a good piece, ${currency} ◇`} of={(s) => <Cost s={s} />} />
        </tbody>
      </table>
      <Differences c={c} />
    </section>
  )
}

function Row({ c, label, of }: { c: Comparison; label: string; of: (s: Side) => ReactNode }) {
  return (
    <tr>
      <th scope="row" className="border-t border-line">
        {label}
      </th>
      <td>{of(c.a)}</td>
      <td>{of(c.b)}</td>
    </tr>
  )
}

function Value({ v, note }: { v: string; note?: string }) {
  return (
    <>
      <span className="num text-lg font-semibold">{v}</span>
      {note && <span className="block text-sm text-soft">{note}</span>}
    </>
  )
}

function Rate({ r, events, trials }: { r: Schemas['EvidenceRateResult']; events: number; trials: number }) {
  if (r.rate === null) return <Value v="no trials" />
  const note =
    r.upper_if_none !== null
      ? `none in ${trials}: up to ${percent(r.upper_if_none)}`
      : `${events} of ${trials}, 95 %: ${percent(r.ci?.[0])} to ${percent(r.ci?.[1])}`
  return <Value v={percent(r.rate)} note={trials < 3 ? `${note}; fewer than three trials` : note} />
}

function Cost({ s }: { s: Side }) {
  if (!s.cost) return <Value v="not known" note={s.cost_reason} />
  const { per_good_piece: good, per_good_ci: ci } = s.cost
  return (
    <Value
      v={good === null ? 'none' : good.toFixed(2)}
      note={
        good === null
          ? s.cost.warnings[0]?.message
          : `n = ${counted(s.outcomes.judged, 'piece')}${ci ? `, 95 %: ${ci[0]?.toFixed(2)} to ${ci[1]?.toFixed(2)}` : ''}; ${s.cost.parts.map((p) => `${p.name} ${p.cost.toFixed(2)}`).join(', ')} in all`
      }
    />
  )
}

/** One row a ladder, by its name, so that A and B stand beside each other. */
function Ladders({ c }: { c: Comparison }) {
  const names = [...new Set([...c.a.ladders, ...c.b.ladders].map((l) => l.name))]
  return names.map((name) => (
    <Row
      key={name}
      c={c}
      label={`${name}: smallest whole ●`}
      of={(s) => {
        const l = s.ladders.find((x) => x.name === name)
        if (!l) return <Value v="not read" />
        const { smallest_intact_mm: smallest, pixels, d50_mm, bracket_mm } = l.result
        const notes = [
          `n = ${l.specimens}`,
          pixels !== null && `${figure(pixels)} pixels`,
          d50_mm !== null && `half hold at ${figure(d50_mm)} mm`,
          bracket_mm && `threshold between ${figure(bracket_mm[0])} and ${figure(bracket_mm[1])} mm`,
        ]
        return (
          <Value v={smallest === null ? 'none' : `${figure(smallest)} mm`} note={notes.filter(Boolean).join(', ')} />
        )
      }}
    />
  ))
}

/** One row a size: its mean error with expanded uncertainty, so that both sides stand side by side. */
function Sizes({ c }: { c: Comparison }) {
  const names = [...new Set([c.a, c.b].flatMap((s) => s.dimensions?.features.map((f) => f.feature) ?? []))]
  return names.map((name) => (
    <Row
      key={name}
      c={c}
      label={`${name}: error ± U ●`}
      of={(s) => {
        const f = s.dimensions?.features.find((x) => x.feature === name)
        if (!f) return <Value v="not measured" />
        return (
          <Value
            v={`${micrometres(f.error_mm)} ± ${Math.round(1000 * f.expanded_mm)} µm`}
            note={`of ${f.nominal_mm.toFixed(2)} mm, ${figure(f.error_pct, 2)} %, n = ${f.n} readings, k = 2`}
          />
        )
      }}
    />
  ))
}

/** What the two sides show against each other, and as plainly what they do not. */
function Differences({ c }: { c: Comparison }) {
  const interval = (ci: number[] | null, show: (v: number) => string) =>
    ci ? `95 %: ${show(ci[0] ?? 0)} to ${show(ci[1] ?? 0)}` : 'no interval'
  return (
    <div className="mt-4 grid gap-2 border-t border-line pt-3">
      <h3>What this shows</h3>
      {c.verdicts.map((v) => (
        <p key={v}>{v}</p>
      ))}
      {c.time && (
        <p>
          A plate takes {figure(Math.abs(c.time.difference) / 60)} min {c.time.difference < 0 ? 'less' : 'more'} on A
          (difference {interval(c.time.ci, (v) => `${figure(v / 60)} min`)}; n = {c.a.actual_n} and {c.b.actual_n}).
        </p>
      )}
      {c.features.length > 0 && (
        <table className="rows">
          <thead>
            <tr>
              <th>Size</th>
              <th>A − B</th>
              <th>95 %</th>
              <th>p</th>
              <th>n, specimens</th>
            </tr>
          </thead>
          <tbody>
            {c.features.map((f) => (
              <tr key={f.feature}>
                <td>{f.feature}</td>
                <td className="num">{micrometres(f.means.difference)}</td>
                <td className="num">
                  {f.means.ci ? `${micrometres(f.means.ci[0] ?? 0)} to ${micrometres(f.means.ci[1] ?? 0)}` : 'none'}
                </td>
                <td className="num">{figure(f.means.p, 2)}</td>
                <td className="num">
                  {f.n_a}, {f.n_b}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  )
}
