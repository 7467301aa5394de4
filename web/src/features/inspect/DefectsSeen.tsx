import { Link } from 'react-router'
import type { Schemas } from '../../lib/api'
import { faults, origins, severities } from '../../lib/defects'
import { figure } from '../../lib/format'
import { standingDefects } from './inHand'

/** What is on record against the copy in hand; it is judged on the page of its print. */
export function DefectsSeen({
  specimen,
  run,
  photographs,
}: {
  specimen: Schemas['Specimen']
  run: string
  photographs: Schemas['Pictured'][]
}) {
  const standing = standingDefects(specimen)
  return (
    <section
      className="sheet flex flex-wrap items-center justify-between gap-3"
      aria-label={`Defects of ${specimen.code}`}
    >
      <div>
        <h2>Defects of {specimen.code}</h2>
        {standing.length === 0 ? (
          <p className="text-soft">{specimen.outcome === 'pending' ? 'Not judged yet.' : 'None noted.'}</p>
        ) : (
          <ul className="grid gap-1">
            {standing.map((d, i) => (
              <li key={d.id ?? i}>
                <strong>{d.symptom}</strong>, {origins[d.origin]}, laid to {faults[d.fault]}
                {d.severity && `, ${severities[d.severity]}`}
                {d.began_mm != null && <span className="num">, from {figure(d.began_mm)} mm up</span>}
                {d.note && `: ${d.note}`}
                {photographs
                  .filter((p) => p.defect_id != null && p.defect_id === d.id)
                  .map((p) => (
                    <Link key={p.id} to={`/photographs/${p.id}`} className="ml-2 whitespace-nowrap underline">
                      {p.code}
                    </Link>
                  ))}
              </li>
            ))}
          </ul>
        )}
      </div>
      <Link className="button" to={`/runs/${run}`}>
        {specimen.outcome === 'pending' ? 'Judge it' : 'Judge it anew'}
      </Link>
    </section>
  )
}
