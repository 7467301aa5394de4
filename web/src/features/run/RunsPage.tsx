import { Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { duration, moment } from '../../lib/format'
import { useMachines, usePieces, useResins, useRuns } from '../../lib/queries'

const shown = 200

export default function RunsPage() {
  const runs = useRuns()
  const machines = useMachines()
  const resins = useResins()
  const pieces = usePieces()
  return (
    <Page
      title="Runs"
      about="One print job each, with the conditions it was made under."
      actions={
        <>
          <Link to="/runs/new" className="button">
            Record a print
          </Link>
          <Link to="/runs/prepare" className="button button-main">
            Prepare a print
          </Link>
        </>
      }
    >
      <Ready of={runs}>
        {(list) =>
          list.length === 0 ? (
            <Empty title="No print yet">
              Record the first one; from then on, its conditions carry over and you type only what changed.
            </Empty>
          ) : (
            <div className="sheet overflow-x-auto">
              <table className="rows">
                <thead>
                  <tr>
                    <th>Run</th>
                    <th>Piece</th>
                    <th>Machine</th>
                    <th>Resin</th>
                    <th>Started</th>
                    <th>Took ●</th>
                    <th>Our estimate ◇</th>
                    <th>Software's ❝</th>
                  </tr>
                </thead>
                <tbody>
                  {list.slice(0, shown).map((r) => (
                    <tr key={r.id}>
                      <td>
                        <Link to={`/runs/${r.id}`}>{r.code}</Link>
                      </td>
                      <td>
                        {r.copies} × {pieces.data?.find((p) => p.piece.id === r.piece_id)?.piece.name}
                      </td>
                      <td>{machines.data?.find((m) => m.machine.id === r.machine_id)?.machine.name}</td>
                      <td>{resins.data?.find((m) => m.resin.id === r.resin_id)?.resin.name}</td>
                      <td className="num">{moment(r.started_ms)}</td>
                      <td className="num">{r.ended_ms ? duration((r.ended_ms - r.started_ms) / 1000) : 'not known'}</td>
                      <td className="num">{duration(r.our_estimate_s)}</td>
                      <td className="num">{duration(r.software_estimate_s)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              {list.length > shown && (
                <p className="text-soft">
                  The newest {shown} of {list.length}; older ones open from their bead or by name with /.
                </p>
              )}
            </div>
          )
        }
      </Ready>
    </Page>
  )
}
