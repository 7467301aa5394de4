import type { Schemas } from '../../lib/api'
import { figure } from '../../lib/format'

type View = 'plan' | 'front'

/** The piece from above and from the front; the size in turn is drawn along its axis. */
export function Drawing({ piece, feature }: { piece: Schemas['Piece']; feature?: Schemas['Feature'] }) {
  const at = `/api/v1/pieces/${piece.id}/picture.png?size=260`
  const marked = feature?.axis ? (feature.axis === 'z' ? 'front' : 'plan') : undefined
  return (
    <figure className="grid gap-1" aria-label={`Drawing of ${piece.name}`}>
      <div className="flex flex-wrap gap-3">
        {(['plan', 'front'] as View[]).map((view) => (
          <span key={view} className="relative block size-44">
            <img
              src={`${at}&view=${view}`}
              className="size-full"
              alt={view === 'plan' ? `${piece.name} from above` : `${piece.name} from the front`}
            />
            {marked === view && feature && <Mark feature={feature} />}
            <span className="absolute top-0 left-1 text-xs text-soft">
              {view === 'plan' ? 'from above' : 'from the front'}
            </span>
          </span>
        ))}
      </div>
      <figcaption className="min-h-6 text-sm text-soft">
        {feature && (
          <>
            <span className="font-semibold text-ink">{feature.name}</span>
            {feature.axis && `, along ${feature.axis}`}
            {feature.face && `, ${feature.face}`}
            {feature.nominal_mm != null && <span className="num">, {figure(feature.nominal_mm, 4)} mm</span>}
            {feature.place && `: ${feature.place}`}
          </>
        )}
      </figcaption>
    </figure>
  )
}

/** An arrow of both ends along an axis of the view. */
function Mark({ feature }: { feature: Schemas['Feature'] }) {
  const flat = feature.axis === 'x'
  return (
    <svg viewBox="0 0 100 100" className="absolute inset-0 size-full" aria-hidden="true">
      <g className="fill-none stroke-act" strokeWidth="2" transform={flat ? undefined : 'rotate(-90 50 50)'}>
        <path d="M4 94H96M4 90V98M96 90V98M4 94l5-3M4 94l5 3M96 94l-5-3M96 94l-5 3" />
      </g>
      <text x="50" y="90" textAnchor="middle" fontSize="9" className="fill-act font-bold">
        {feature.axis}
      </text>
    </svg>
  )
}
