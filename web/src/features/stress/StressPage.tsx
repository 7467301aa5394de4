import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, figure, reading } from '../../lib/format'
import { Ended, EndEarly } from './Ending'
import { NextTest } from './NextTest'
import { Shown } from './Shown'
import { Weighing } from './Weighing'

export type StressSheet = Schemas['StressSheet']

/** A series of stress tests: whose turn it is, what was seen, and what it shows. */
export default function StressPage() {
  const { id = '' } = useParams()
  const sheet = useQuery({
    queryKey: ['stress', id],
    queryFn: () => answer(api.GET('/api/v1/stress-series/{id}', { params: { path: { id } } })),
  })
  return (
    <Ready of={sheet}>
      {(s) => (
        <Page
          title={`${s.series.code}: ${s.series.name}`}
          about={`${s.kind.name} ${s.series.under}, ${s.series.stage}; ${
            s.measured
              ? `span ${figure(s.series.span_mm)} mm`
              : s.series.mode === 'fresh'
                ? 'each specimen once'
                : 'one specimen through all levels'
          }; ${counted(s.members.length, 'specimen')}, order drawn from seed ${s.series.seed}`}
          actions={
            <Link className="button" to="/inspect/stress">
              All series
            </Link>
          }
        >
          {s.next !== null && <NextTest key={s.next} s={s} at={s.next} />}
          {s.series.ended_ms != null && <Ended s={s} />}
          {(s.series.kind === 'drop' || s.measured) && <Weighing s={s} />}
          <Shown s={s} />
          <Taken s={s} />
          {s.next !== null && <EndEarly s={s} />}
        </Page>
      )}
    </Ready>
  )
}

/** What was seen, in the order in which it was. */
function Taken({ s }: { s: StressSheet }) {
  const taken = s.steps.filter((t) => t.test)
  if (taken.length === 0) return null
  return (
    <details className="sheet">
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {counted(taken.length, 'test')} in their order
      </summary>
      <div className="relative overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Specimen</th>
              <th scope="col" className="first-letter:uppercase">
                {s.kind.level}
              </th>
              <th scope="col">Seen ●</th>
              <th scope="col">Part, note</th>
            </tr>
          </thead>
          <tbody>
            {taken.map((t) => (
              <tr key={t.test!.id}>
                <td className="num whitespace-nowrap">{t.code}</td>
                <td className="num whitespace-nowrap">{t.says}</td>
                <td>
                  {t.test!.damage === null
                    ? `${reading(t.test!.deflection_mm)} mm`
                    : `${t.test!.damage}: ${s.series.anchors?.[t.test!.damage]}`}
                </td>
                <td>{[t.test!.part, t.test!.note].filter(Boolean).join('; ')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  )
}
