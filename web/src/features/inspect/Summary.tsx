import { How } from '../../components/How'
import { Figure, Warnings } from '../../components/Figure'
import { figure, micrometres } from '../../lib/format'
import type { InHand } from './inHand'

/** What the readings of the whole plate say so far. */
export function Summary({ sheet, of = 'plate' }: { sheet: InHand; of?: string }) {
  const d = sheet.dimensions
  if (!d && sheet.ladders.length === 0) return <p className="text-soft">The summary appears with the first reading.</p>
  return (
    <section className="sheet grid gap-4" aria-label={`Summary of the ${of}`}>
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>The {of} so far</h2>
        <How figure="sizes" of="What was read" />
      </div>
      {sheet.set_aside.length > 0 && <p>Set aside, counted under failures: {sheet.set_aside.join(', ')}.</p>}
      {sheet.corrections.length > 0 && (
        <section aria-label="Corrections">
          <h3>So that they come right ◇</h3>
          <ul className="grid gap-1">
            {sheet.corrections.map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        </section>
      )}
      {sheet.later.length > 0 && (
        <ul className="grid gap-1" aria-label="Sizes over days">
          {sheet.later.map((line) => (
            <li key={line}>{line} ◇</li>
          ))}
        </ul>
      )}
      {d && (
        <>
          <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
            <Figure
              label="Mean error"
              value={micrometres(d.overall.mean_error_mm)}
              n={d.features.length}
              source="measured"
              note="over features"
            />
            <Figure
              label="Largest error"
              value={micrometres(d.overall.max_abs_mm).replace('+', '')}
              n={d.features.length}
              source="measured"
            />
            <Figure
              label="Mean size of the error"
              value={figure(d.overall.mean_abs_pct)}
              unit="%"
              n={d.features.length}
              source="measured"
            />
            <Figure
              label="ISO grade"
              value={d.it_grade === null ? 'none' : `IT${d.it_grade}`}
              source="computed"
              note="of the coarsest feature"
            />
          </dl>
          <div className="overflow-x-auto">
            <table className="rows">
              <thead>
                <tr>
                  <th>Feature</th>
                  <th>n</th>
                  <th>Mean, mm</th>
                  <th>Error ± U (k = 2)</th>
                  <th>%</th>
                  <th>Grade</th>
                </tr>
              </thead>
              <tbody>
                {d.features.map((f) => (
                  <tr key={f.feature}>
                    <td>{f.feature}</td>
                    <td className="num">{f.n}</td>
                    <td className="num">{f.mean_mm.toFixed(3)}</td>
                    <td className="num">
                      {micrometres(f.error_mm)} ± {Math.round(1000 * f.expanded_mm)} µm
                    </td>
                    <td className="num">{figure(f.error_pct, 2)}</td>
                    <td className="num">{f.it_grade === null ? '–' : `IT${f.it_grade}`}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          {d.fits.length > 0 && (
            <p className="text-sm">
              {d.fits
                .map(
                  (f) =>
                    `${f.axis} ${f.kind}: offset ${micrometres(f.offset_mm)} (light), scale ${figure(f.scale_pct, 2)} % (shrinkage), n = ${f.n}`,
                )
                .join('; ')}
              .
            </p>
          )}
          <Warnings list={d.warnings} />
        </>
      )}
      {sheet.ladders.map((l) => (
        <div key={l.feature_id}>
          <dl>
            <Figure
              label={`${l.name}, smallest whole in all`}
              value={figure(l.result.smallest_intact_mm)}
              unit="mm"
              n={l.specimens}
              source="measured"
              note={
                l.result.d50_mm !== null
                  ? `half hold at ${figure(l.result.d50_mm)} mm`
                  : l.result.bracket_mm
                    ? `threshold between ${figure(l.result.bracket_mm[0])} and ${figure(l.result.bracket_mm[1])} mm`
                    : undefined
              }
            />
          </dl>
          <Warnings list={l.result.warnings} />
        </div>
      ))}
    </section>
  )
}
