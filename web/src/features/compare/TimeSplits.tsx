import type { Comparison } from '../../lib/api'
import { duration } from '../../lib/format'

const phases = [
  { key: 'exposure_s', name: 'exposure', fill: 'var(--act)' },
  { key: 'lift_s', name: 'lift', fill: 'var(--ink)' },
  { key: 'retract_s', name: 'retract', fill: 'var(--soft)' },
  { key: 'wait_s', name: 'waits', fill: 'url(#waits)' },
  { key: 'overhead_s', name: 'start, end', fill: 'var(--line)' },
] as const

/** Where the time of each side goes, and which setting accounts for how much of the difference. */
export function TimeSplits({ c }: { c: Comparison }) {
  const longest = Math.max(...c.time_splits.map((s) => s.total_s), 1)
  return (
    <section className="grid gap-3">
      <h3>Where the time goes ◇</h3>
      <Waits />
      <div className="overflow-x-auto">
        <table className="rows w-full table-fixed sm:min-w-200">
          <caption className="sr-only">Time of a plate by what the machine does, computed from the settings</caption>
          <thead className="max-sm:sr-only">
            <tr>
              <th className="w-10">Side</th>
              <th className="w-28">A plate</th>
              <th>Share of the time</th>
              {phases.map((p) => (
                <th key={p.key} scope="col" className="w-28">
                  <span className="flex items-center gap-1">
                    <Swatch fill={p.fill} /> {p.name}
                  </span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {c.time_splits.map((s, i) => (
              <tr key={c.sides[i]?.letter} className="max-sm:grid max-sm:grid-cols-[2rem_1fr]">
                <th scope="row" className="max-sm:row-span-7">
                  {c.sides[i]?.letter}
                </th>
                {s.known ? (
                  <>
                    <td className="num font-semibold whitespace-nowrap">{duration(s.total_s)}</td>
                    <td>
                      <Bar s={s} longest={longest} />
                    </td>
                    {phases.map((p) => (
                      <td key={p.key} className="num whitespace-nowrap">
                        <span className="mr-2 inline-flex items-center gap-1 text-soft sm:sr-only">
                          <Swatch fill={p.fill} /> {p.name}
                        </span>
                        {duration(s.phases[p.key])}
                      </td>
                    ))}
                  </>
                ) : (
                  <td colSpan={2 + phases.length} className="text-soft">
                    Not known: {s.reason}.
                  </td>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {c.whys.map((w) => (
        <ul key={w.a} className="grid gap-1">
          {w.sentences.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      ))}
    </section>
  )
}

function Swatch({ fill }: { fill: string }) {
  return (
    <svg viewBox="0 0 10 10" className="size-3 shrink-0" aria-hidden="true">
      <rect width="10" height="10" fill={fill} stroke="var(--ink)" strokeWidth="0.8" />
    </svg>
  )
}

function Bar({ s, longest }: { s: Comparison['time_splits'][number]; longest: number }) {
  const wide = (keys: readonly (typeof phases)[number][]) =>
    keys.reduce((sum, p) => sum + (200 * s.phases[p.key]) / longest, 0)
  return (
    <svg viewBox="0 0 200 20" preserveAspectRatio="none" className="h-5 w-full min-w-24" aria-hidden="true">
      {phases.map((p, i) => (
        <rect key={p.key} x={wide(phases.slice(0, i))} width={wide([p])} height="20" fill={p.fill} />
      ))}
    </svg>
  )
}

/** Waiting is hatched: told by its texture where colours are alike. */
function Waits() {
  return (
    <svg className="absolute size-0" aria-hidden="true">
      <pattern id="waits" width="4" height="4" patternUnits="userSpaceOnUse">
        <rect width="4" height="4" fill="var(--plate)" />
        <path d="M0 4 4 0" stroke="var(--ink)" strokeWidth="1" />
      </pattern>
    </svg>
  )
}
