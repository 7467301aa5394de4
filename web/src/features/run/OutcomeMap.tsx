import type { Schemas } from '../../lib/api'
import { words } from '../../lib/format'

type Specimen = Schemas['Specimen']

interface Props {
  machine: Pick<Schemas['Machine'], 'width_mm' | 'depth_mm'>
  list: Specimen[]
  at?: number
  select: (i: number) => void
}

const symptoms = (s: Specimen) =>
  (s.defects ?? [])
    .filter((d) => d.taken_back_ms == null && d.symptom !== '')
    .map((d) => `, ${d.symptom}`)
    .join('')

/** Where each specimen stood and what became of it: the shape tells, the colour only repeats it. */
export function OutcomeMap({ machine, list, at, select }: Props) {
  const { width_mm: w, depth_mm: d } = machine
  const r = Math.max(w, d) / 34
  return (
    <svg
      viewBox={`${-r} ${-r} ${w + 2 * r} ${d + 4.5 * r}`}
      className="max-h-96 w-full"
      role="group"
      aria-label="Outcomes on the plate, as it lies before you"
    >
      <rect width={w} height={d} rx={r / 2} className="fill-plate stroke-ink" strokeWidth={w / 300} />
      <text x={w / 2} y={d + 2.4 * r} textAnchor="middle" fontSize={r * 1.3} className="fill-soft">
        front
      </text>
      {list.map((s, i) =>
        s.x_mm == null || s.y_mm == null ? null : (
          <g
            key={s.id}
            role="button"
            tabIndex={0}
            aria-label={`${s.code}: ${s.outcome === 'pending' ? 'not judged' : words(s.outcome)}${symptoms(s)}`}
            className="cursor-pointer outline-offset-0"
            transform={`translate(${s.x_mm} ${d - s.y_mm})`}
            onClick={() => select(i)}
            onKeyDown={(e) => (e.key === 'Enter' || e.key === ' ') && (e.preventDefault(), select(i))}
          >
            {i === at && <circle r={1.7 * r} className="fill-none stroke-act" strokeWidth={r / 4} />}
            <OutcomeMark outcome={s.outcome} r={r} />
            <text y={2.5 * r} textAnchor="middle" fontSize={r} className="num fill-ink">
              {s.copy}
            </text>
          </g>
        ),
      )}
    </svg>
  )
}

function OutcomeMark({ outcome, r }: { outcome: Specimen['outcome']; r: number }) {
  switch (outcome) {
    case 'whole':
      return <circle r={r} className="fill-good" />
    case 'micro_defect':
      return (
        <path
          d={`M${-r * 0.45} ${-r * 0.9} A${r} ${r} 0 1 0 ${r * 0.45} ${-r * 0.9} L0 ${r * 0.15} Z`}
          className="fill-act"
        />
      )
    case 'lost':
      return (
        <g className="fill-none stroke-bad" strokeWidth={r / 2.5}>
          <circle r={r * 0.85} />
          <path d={`M${-r * 0.5} ${-r * 0.5} L${r * 0.5} ${r * 0.5}`} />
        </g>
      )
  }
  return (
    <circle r={r * 0.9} className="fill-none stroke-ink" strokeWidth={r / 5} strokeDasharray={`${r / 3} ${r / 3}`} />
  )
}
