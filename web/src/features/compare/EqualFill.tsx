import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { FillPlot } from '../../components/FillPlot'
import { Ready } from '../../components/Page'
import { answer, api, type Comparison } from '../../lib/api'

/** The time of a piece at equal fill, by the model put right by what prints took: plates printed differ in their fill. */
export function EqualFill({ c }: { c: Comparison }) {
  const sides = c.sides.filter((s) => s.profile_id)
  const varied = c.sides.filter((s) => !s.profile_id && !s.reference_id)
  if (sides.length < 2) return null
  return (
    <section className="grid gap-2" aria-label="Time of a piece at equal fill">
      <h3>Time of a piece at equal fill ◇</h3>
      {c.pieces.map((p, i) => (
        <details key={p.id} open={i === 0}>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">{p.name}</summary>
          <Filled pieceID={p.id} sides={sides} />
        </details>
      ))}
      {varied.length > 0 && (
        <p className="text-sm text-soft">
          Without {varied.map((s) => s.letter).join(', ')}: its prints had several settings.
        </p>
      )}
    </section>
  )
}

function Filled({ pieceID, sides }: { pieceID: string; sides: Comparison['sides'] }) {
  const query = { piece_id: pieceID, profile_ids: sides.map((s) => s.profile_id).join(','), copies: 12 }
  const fill = useQuery({
    queryKey: ['fill', query],
    placeholderData: keepPreviousData,
    queryFn: () => answer(api.GET('/api/v1/fill', { params: { query } })),
  })
  return <Ready of={fill}>{(f) => <FillPlot f={f} names={sides.map((s) => s.letter)} />}</Ready>
}
