import type { Schemas } from '../lib/api'
import { counted, figure } from '../lib/format'
import { useFeatureMarks } from '../lib/queries'

type Mark = Schemas['FeatureMark']
type View = Schemas['MarkLine']['view']

const views: Record<View, string> = { plan: 'from above', front: 'from the front' }

/** The piece from above and from the front; the size in turn is drawn where it stands. */
export function PieceDrawing({ piece, feature }: { piece: Schemas['Piece']; feature?: Schemas['Feature'] }) {
  const marks = useFeatureMarks(piece.id ?? '')
  const mark = marks.data?.find((m) => m.feature_id === feature?.id)
  return (
    <figure className="grid gap-1" aria-label={`Drawing of ${piece.name}`}>
      <Views piece={piece} marks={mark ? [mark] : []} />
      <figcaption className="min-h-6 text-sm text-soft">
        {feature && (
          <>
            <span className="font-semibold text-ink">{feature.name}</span>
            {feature.axis && `, along ${feature.axis}`}
            {feature.face && `, ${feature.face}`}
            {feature.nominal_mm != null && `, ${figure(feature.nominal_mm, 4)} mm`}
            {feature.place && `: ${feature.place}`}
            {mark && mark.places > 1 && ` (${mark.places} places have this size)`}
            {mark && mark.places === 0 && ' (the mesh shows no such size)'}
          </>
        )}
      </figcaption>
    </figure>
  )
}

/** Where all sizes of a piece stand, and which the mesh does not show. */
export function SizesDrawn({ piece, features }: { piece: Schemas['Piece']; features: Schemas['Feature'][] }) {
  const marks = useFeatureMarks(piece.id ?? '').data ?? []
  if (marks.length === 0) return null
  const absent = marks.flatMap((m) => (m.places > 0 ? [] : features.filter((f) => f.id === m.feature_id)))
  return (
    <figure className="grid gap-1" aria-label={`Where the sizes of ${piece.name} stand`}>
      <Views piece={piece} marks={marks} />
      <figcaption className="text-sm text-soft">
        {counted(marks.length - absent.length, 'size')} of {marks.length} found on the mesh, as they were saved.
        {absent.length > 0 && (
          <span className="block border-l-4 border-act pl-2 text-ink">
            The mesh shows no{' '}
            {absent.map((f) => `${f.name} of ${figure(f.nominal_mm ?? 0, 4)} mm along ${f.axis}`).join(', no ')}. Are
            its nominal, axis and face right?
          </span>
        )}
      </figcaption>
    </figure>
  )
}

function Views({ piece, marks }: { piece: Schemas['Piece']; marks: Mark[] }) {
  return (
    <div className="flex flex-wrap gap-3">
      {(Object.keys(views) as View[]).map((view) => (
        <span key={view} className="grid">
          <span className="text-xs text-soft">{views[view]}</span>
          <span className="relative block size-36 sm:size-44">
            <img
              src={`/api/v1/pieces/${piece.id}/picture.png?size=260&view=${view}`}
              className="size-full"
              alt={`${piece.name} ${views[view]}`}
            />
            <svg viewBox="0 0 1 1" className="absolute inset-0 size-full overflow-visible" aria-hidden="true">
              {marks.flatMap((m) =>
                m.lines.flatMap((l, i) => (l.view === view ? [<Line key={`${m.feature_id} ${i}`} line={l} />] : [])),
              )}
            </svg>
          </span>
        </span>
      ))}
    </div>
  )
}

/** A size between two short strokes across its ends, light under dark so that it stands out on any grey. */
function Line({ line }: { line: Schemas['MarkLine'] }) {
  const flat = line.from_y === line.to_y
  const stroke = 0.025
  const across = (x: number, y: number) =>
    flat ? `M${x} ${y - stroke}V${y + stroke}` : `M${x - stroke} ${y}H${x + stroke}`
  const d = `M${line.from_x} ${line.from_y}L${line.to_x} ${line.to_y}${across(line.from_x, line.from_y)}${across(line.to_x, line.to_y)}`
  return (
    <>
      <path d={d} className="fill-none stroke-sheet" strokeWidth={0.026} />
      <path d={d} className="fill-none stroke-act" strokeWidth={0.012} data-mark={line.view} />
    </>
  )
}
