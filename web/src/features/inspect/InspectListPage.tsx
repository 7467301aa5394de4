import { Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { moment } from '../../lib/format'
import { useRuns } from '../../lib/queries'

export default function InspectListPage() {
  const runs = useRuns({ most: 60 })
  return (
    <Page
      title="Inspect"
      about="Choose the plate in your hands: sizes, ladders and checkpoints are read specimen by specimen."
    >
      <Ready of={runs}>
        {(list) =>
          list.lines.length === 0 ? (
            <Empty title="Nothing to inspect yet">
              <Link to="/runs/new">Record a print first</Link>
            </Empty>
          ) : (
            <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3">
              {list.lines.map((r) => (
                <li key={r.id}>
                  <Link to={`/inspect/${r.id}`} className="sheet block min-h-(--tap) hover:border-act">
                    <span className="num font-bold">{r.code}</span> {r.printed}
                    <span className="block text-sm text-soft">{moment(r.started_ms)}</span>
                  </Link>
                </li>
              ))}
            </ul>
          )
        }
      </Ready>
    </Page>
  )
}
