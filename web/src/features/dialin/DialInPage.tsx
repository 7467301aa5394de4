import { Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { figure } from '../../lib/format'
import { useSeriesList } from '../../lib/queries'

export default function DialInPage() {
  const series = useSeriesList()
  return (
    <Page
      title="Dial-in"
      about="One coupon at several exposures, read, and one setting chosen for machine, resin and layer height."
      actions={
        <Link to="/dial-in/new" className="button button-main">
          Plan a series
        </Link>
      }
    >
      <Ready of={series}>
        {(list) =>
          list.length === 0 ? (
            <Empty title="No series yet">
              Plan one: a start, a step and a number of cells. Each cell gets its number and its exposure.
            </Empty>
          ) : (
            <div className="sheet overflow-x-auto">
              <table className="rows">
                <thead>
                  <tr>
                    <th>Series</th>
                    <th>Layer, µm</th>
                    <th>Tested, s</th>
                    <th>Cells read</th>
                    <th>Says</th>
                    <th>Accepted, s</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map((s) => (
                    <tr key={s.series.id}>
                      <td>
                        <span className="num text-soft">{s.series.code}</span>{' '}
                        <Link to={`/dial-in/${s.series.id}`}>
                          {s.machine}, {s.resin}
                        </Link>
                      </td>
                      <td className="num">{s.series.layer_um}</td>
                      <td className="num">
                        {figure(s.cells[0]?.cell.exposure_s)} to {figure(s.cells.at(-1)?.cell.exposure_s)}
                      </td>
                      <td className="num">
                        {s.cells.filter((c) => c.reading).length} of {s.cells.length}
                      </td>
                      <td>
                        {s.result?.recommended
                          ? `${figure(s.result.recommended.dial_s)} s by ${s.result.recommended.school}`
                          : 'nothing yet'}
                      </td>
                      <td className="num">
                        {s.profile ? `${figure(s.profile.exposure_s)} (${s.profile.code})` : 'open'}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )
        }
      </Ready>
    </Page>
  )
}
