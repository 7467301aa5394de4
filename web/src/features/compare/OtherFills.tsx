import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { FillPlot } from '../../components/FillPlot'
import { Ready } from '../../components/Page'
import { answer, api, type Comparison, type ComparisonQuery } from '../../lib/api'

/** The time of a piece on plates that were not printed, by the timing model, corrected by the prints compared. */
export function OtherFills({ c, query }: { c: Comparison; query: ComparisonQuery }) {
  const varied = c.sides.filter((s) => !s.profile_id && !s.reference_id)
  const fills = useQuery({
    queryKey: ['fill', 'compared', query],
    placeholderData: keepPreviousData,
    queryFn: () => answer(api.GET('/api/v1/comparison/fill', { params: { query } })),
  })
  if (fills.data?.length === 0) return null
  return (
    <section className="grid gap-2" aria-label="Time of a piece at other fills">
      <h3>Time of a piece at other fills ◇</h3>
      <Ready of={fills}>
        {(list) =>
          list.map((f, i) => (
            <details key={f.piece_id} open={i === 0}>
              <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">{f.piece}</summary>
              <ul className="grid gap-1">
                {f.says.map((s) => (
                  <li key={s}>{s}</li>
                ))}
              </ul>
              {f.sides.length > 0 && <FillPlot f={f} names={f.letters} />}
            </details>
          ))
        }
      </Ready>
      {varied.length > 0 && (
        <p className="text-sm text-soft">
          Without {varied.map((s) => s.letter).join(', ')}: its prints had several settings.
        </p>
      )}
    </section>
  )
}
