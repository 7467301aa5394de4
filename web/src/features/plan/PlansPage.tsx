import { Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import type { PlateRow } from '../../lib/api'
import { moment } from '../../lib/format'
import { usePlates } from '../../lib/queries'

export default function PlansPage() {
  const plates = usePlates()
  return (
    <Page
      title="Plan"
      about="A plate becomes a plan: what fits, how long, how much resin, what wears, what it costs, before anything is poured."
      actions={
        <>
          <Link className="button" to="/plan/calendar">
            Calendar
          </Link>
          <Link className="button" to="/plan/fill">
            Time against copies
          </Link>
          <Link className="button button-main" to="/plan/new">
            Lay a plate
          </Link>
        </>
      }
    >
      <Ready of={plates}>
        {(list) =>
          list.length === 0 ? (
            <Empty title="No plate yet">
              Lay one for a machine and settings; the cells of a series lay themselves from its page under Dial-in.
            </Empty>
          ) : (
            <>
              <Plates list={list.filter((p) => p.plate.archived_ms == null)} />
              {list.some((p) => p.plate.archived_ms != null) && (
                <details className="sheet">
                  <summary className="min-h-(--tap) cursor-pointer font-semibold">Withdrawn plates</summary>
                  <Plates list={list.filter((p) => p.plate.archived_ms != null)} />
                </details>
              )}
            </>
          )
        }
      </Ready>
    </Page>
  )
}

function Plates({ list }: { list: PlateRow[] }) {
  return (
    <div className="sheet overflow-x-auto">
      <table className="rows w-full">
        <thead>
          <tr>
            <th scope="col">Plate</th>
            <th scope="col">Machine</th>
            <th scope="col">Copies</th>
            <th scope="col">Laid on</th>
            <th scope="col">Printed as</th>
          </tr>
        </thead>
        <tbody>
          {list.map((p) => (
            <tr key={p.plate.id}>
              <td>
                <span className="num text-soft">{p.plate.code}</span>{' '}
                <Link to={`/plan/${p.plate.id}`}>{p.plate.name}</Link>
              </td>
              <td>{p.machine}</td>
              <td className="num">{p.copies}</td>
              <td>{moment(p.plate.created_ms)}</td>
              <td className="num">
                {p.runs.map((r, i) => (
                  <Link key={r} className="mr-2 text-act underline" to={`/runs/${p.run_ids[i]}`}>
                    {r}
                  </Link>
                ))}
                {p.runs.length === 0 && (p.plate.archived_ms == null ? 'not yet' : p.plate.archived_why)}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
