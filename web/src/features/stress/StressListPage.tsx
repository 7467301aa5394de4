import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, day } from '../../lib/format'

/** All series of stress tests, the newest first. */
export default function StressListPage() {
  const all = useQuery({ queryKey: ['stress', 'all'], queryFn: () => answer(api.GET('/api/v1/stress-series')) })
  return (
    <Page
      title="Stress"
      about="Falls, bends, fits, warmth and light on named specimens, in an order that chance decides. What breaks here is no failure of a print."
      actions={
        <>
          <Link className="button" to="/inspect">
            Back to inspection
          </Link>
          <Link className="button button-main" to="/inspect/stress/new">
            Plan a series
          </Link>
        </>
      }
    >
      <Ready of={all}>
        {(list) =>
          list.length === 0 ? (
            <Empty title="Nothing was stressed yet">
              <p>
                Whether one resin bears more than another is told by several prints of each, dropped or bent under the
                same conditions. Print a few copies more than you measure.
              </p>
              <Link to="/inspect/stress/new">Plan a series</Link>
            </Empty>
          ) : (
            <section className="sheet relative overflow-x-auto" aria-label="Series">
              <table className="rows w-full">
                <thead>
                  <tr>
                    <th scope="col">Series</th>
                    <th scope="col">Kind</th>
                    <th scope="col">Specimens</th>
                    <th scope="col">Tested</th>
                    <th scope="col">Failed</th>
                    <th scope="col">Begun</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map((l) => (
                    <Row key={l.series.id} l={l} />
                  ))}
                </tbody>
              </table>
            </section>
          )
        }
      </Ready>
    </Page>
  )
}

const Row = ({ l }: { l: Schemas['Listed'] }) => (
  <tr>
    <th scope="row" className="font-normal">
      <Link className="inline-block min-h-(--tap) content-center" to={`/inspect/stress/${l.series.id}`}>
        <span className="num whitespace-nowrap">{l.series.code}</span> {l.series.name}
      </Link>
      <span className="block text-sm text-soft">
        {l.series.under}, {l.series.stage}
      </span>
    </th>
    <td>
      {l.kind}
      <span className="block text-sm text-soft">{l.mode}</span>
    </td>
    <td className="num">{l.specimens}</td>
    <td>
      {l.tests === l.steps ? (
        <span className="num">all {l.steps}</span>
      ) : (
        <span className="num font-semibold">
          {l.tests} of {l.steps}
        </span>
      )}
      {l.series.ended_ms != null && <span className="block text-sm text-soft">ended early: {l.series.ended_why}</span>}
    </td>
    <td className="num">{l.series.kind === 'stiffness' ? '–' : counted(l.failed, 'test')}</td>
    <td className="num whitespace-nowrap">{day(l.series.created_ms ?? 0)}</td>
  </tr>
)
