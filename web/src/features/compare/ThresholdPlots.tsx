import { HoldingPlot } from '../../components/HoldingPlot'
import type { Comparison } from '../../lib/api'
import { counted, figure } from '../../lib/format'

/** How many of each size of a ladder held, over all copies of each side, and where half of them do. */
export function ThresholdPlots({ c }: { c: Comparison }) {
  if (c.thresholds.length === 0) return null
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {counted(c.thresholds.length, 'ladder')} size by size, and where half hold
      </summary>
      <div className="mt-2 grid gap-5">
        {c.thresholds.map((t) => (
          <HoldingPlot
            key={t.feature}
            title={`${t.feature}: share that holds, by size`}
            axis="size"
            unit="mm"
            sides={t.sides.map((s, i) => ({
              letter: c.sides[i]!.letter,
              rungs: s.rungs.map((r) => ({ at: r.size_mm, held: r.intact, of: r.of })),
              half: s.d50_mm,
              ci: s.d50_ci_mm,
              more: s.d50_pixels === null ? '' : `, ${figure(s.d50_pixels)} pixels`,
            }))}
          />
        ))}
      </div>
    </details>
  )
}
