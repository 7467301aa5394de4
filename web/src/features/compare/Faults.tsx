import type { Comparison } from '../../lib/api'
import { counted } from '../../lib/format'
import { FaultLine } from './FaultLine'

/** Symptoms over the sides, the commonest first: on how many prints of each, and what that says. */
export function Faults({ c }: { c: Comparison }) {
  if (c.faults.length === 0) return null
  const most = Math.max(1, ...c.faults.flatMap((f) => f.sides.map((s) => s.specimens)))
  return (
    <section className="grid gap-2" aria-label="Faults">
      <h3>Faults, by symptom ●</h3>
      <div className="overflow-x-auto">
        <table className="rows w-full">
          <caption className="sr-only">Specimens and prints of each side on which a symptom was seen</caption>
          <thead>
            <tr>
              <th scope="col">Symptom</th>
              {c.sides.map((s) => (
                <th key={s.letter} scope="col">
                  {s.letter}
                </th>
              ))}
              <th scope="col">What that says</th>
            </tr>
          </thead>
          <tbody>
            {c.faults.map((f) => (
              <tr key={f.symptom}>
                <th scope="row">{f.symptom}</th>
                {f.sides.map((s, i) => (
                  <td key={i} className="min-w-24">
                    {s.of === 0 ? (
                      <span className="text-soft">not judged</span>
                    ) : (
                      <>
                        <span className="num">{s.specimens === 0 ? 'none' : s.specimens}</span>
                        <svg
                          viewBox="0 0 100 6"
                          preserveAspectRatio="none"
                          className="block h-1.5 w-full"
                          aria-hidden="true"
                        >
                          <rect width={(100 * s.specimens) / most} height="6" className="fill-ink" />
                        </svg>
                        <span className="block text-sm text-soft">
                          {s.prints === 0 ? '' : `on ${s.prints} `}of {counted(s.of, 'print')}
                        </span>
                      </>
                    )}
                  </td>
                ))}
                <td>{f.says}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <FaultLine c={c} />
      <p className="text-sm text-soft">
        Specimens with the symptom, as printed so or not known; accidents afterwards are left out.
      </p>
    </section>
  )
}
