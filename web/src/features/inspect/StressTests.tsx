import { Link } from 'react-router'
import type { Schemas } from '../../lib/api'
import { figure, reading } from '../../lib/format'

/** What a copy was put through, and how it came out; it is no failure of its print. */
export function StressTests({ stressed, code }: { stressed: Schemas['Stressed'][]; code: string }) {
  if (stressed.length === 0) return null
  return (
    <section className="sheet grid gap-2" aria-label={`Stress tests of ${code}`}>
      <h2>Stress tests of {code}</h2>
      <ul className="grid gap-1">
        {stressed.map((s) => (
          <li key={s.id}>
            <Link to={`/inspect/stress/${s.stress_series_id}`}>
              <span className="num whitespace-nowrap">{s.series.code}</span> {s.series.name}
            </Link>
            , {s.series.under}
            {s.mass_g !== null && <span className="num">, {figure(s.mass_g)} g</span>}:{' '}
            {s.tests.filter((t) => t.taken_back_ms === null).length === 0 && 'not tested yet'}
            {s.tests.map((t) => (
              <span key={t.id} className={t.taken_back_ms === null ? 'block' : 'block text-soft line-through'}>
                {shown(s.series, t)}
              </span>
            ))}
          </li>
        ))}
      </ul>
    </section>
  )
}

const shown = (series: Schemas['StressSeries'], t: Schemas['StressTest']) =>
  [
    `at ${figure(t.level)}: ${t.damage === null ? `${reading(t.deflection_mm)} mm` : `${t.damage}, ${series.anchors?.[t.damage]}`}`,
    t.part,
    t.note,
  ]
    .filter(Boolean)
    .join('; ')
