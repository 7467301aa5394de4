import { HoldingPlot } from '../../components/HoldingPlot'
import type { Comparison } from '../../lib/api'

/** What the sides bore of each stress: the curve of damage, and what is to be known beside it. */
export function Ordeals({ c }: { c: Comparison }) {
  return c.ordeals.map((o) => (
    <section key={o.label} className="grid grid-cols-[minmax(0,1fr)] gap-2" aria-label={o.label}>
      <HoldingPlot
        title={`${o.label}: share that held, by ${o.level}`}
        axis={o.level}
        unit={o.unit}
        sides={o.sides.map((s, i) => ({
          letter: c.sides[i]!.letter,
          rungs: s.rungs.map((r) => ({ at: r.level, held: r.held, of: r.of })),
          half: s.half,
          ci: s.ci,
          more: s.beyond ? ', beyond what was tested' : '',
        }))}
      />
      {o.says.map((line) => (
        <p key={line}>{line}</p>
      ))}
      <p className="text-sm text-soft">From series {o.series.join(', ')}; what broke there is no failure of a print.</p>
    </section>
  ))
}
