import { Link } from 'react-router'
import { Bead, shapeWords, type Shape } from '../../components/Bead'
import { Empty, Page, Ready } from '../../components/Page'
import { useAddress } from '../../lib/address'
import type { Schemas } from '../../lib/api'
import { duration, moment } from '../../lib/format'
import { useMachines, usePieces, useResins, useRuns, type RunFilter } from '../../lib/queries'

const page = 100

const judged = (r: Schemas['RunLine']) => r.counts.specimens - r.counts.pending

/** All runs, a page at a time; what narrows the list stands in the address. */
export default function RunsPage() {
  const [params, change] = useAddress()
  const get = (key: string) => params.get(key) ?? ''
  const skip = Number(get('skip')) || 0
  const filter = { machine_id: get('machine'), resin_id: get('resin'), piece_id: get('piece'), code: get('code') }
  const runs = useRuns({ ...filter, shape: get('shape') as RunFilter['shape'], skip, most: page })
  const machines = useMachines()
  const resins = useResins()
  const pieces = usePieces()
  const set = (key: string, value: string) =>
    change((next) => {
      next.delete('skip')
      if (value) next.set(key, value)
      else next.delete(key)
    })
  const turn = (to: number) => change((next) => next.set('skip', String(Math.max(0, to))), true)
  const choice = (key: string, label: string, options: { value: string; label: string }[]) => (
    <label className="text-sm font-semibold">
      {label}
      <select className="input font-normal" value={get(key)} onChange={(e) => set(key, e.target.value)}>
        <option value="">any</option>
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
    </label>
  )
  const narrowed = [...params.keys()].some((k) => k !== 'skip')
  return (
    <Page
      title="Runs"
      about="One print job each, with the conditions it was made under."
      actions={
        <>
          <Link to="/failures" className="button">
            Failures
          </Link>
          <Link to="/runs/new" className="button">
            Record a print
          </Link>
          <Link to="/tables/prints" className="button">
            Record several
          </Link>
          <Link to="/runs/prepare" className="button button-main">
            Prepare a print
          </Link>
        </>
      }
    >
      <Ready of={runs}>
        {(list) =>
          list.lines.length === 0 && !narrowed && skip === 0 ? (
            <Empty title="No print yet">
              Record the first one; from then on, its conditions carry over and you type only what changed.
            </Empty>
          ) : (
            <>
              <form
                className="grid gap-3 sm:grid-cols-3 lg:grid-cols-5"
                aria-label="Narrow the list"
                onSubmit={(e) => e.preventDefault()}
              >
                {choice(
                  'machine',
                  'Machine',
                  (machines.data ?? []).map((m) => ({ value: m.machine.id ?? '', label: m.machine.name })),
                )}
                {choice(
                  'resin',
                  'Resin',
                  (resins.data ?? []).map((r) => ({ value: r.resin.id ?? '', label: r.resin.name })),
                )}
                {choice(
                  'piece',
                  'Piece',
                  (pieces.data ?? []).map((p) => ({ value: p.piece.id ?? '', label: p.piece.name })),
                )}
                {choice(
                  'shape',
                  'Outcome',
                  Object.entries(shapeWords).map(([value, label]) => ({ value, label })),
                )}
                <label className="text-sm font-semibold">
                  Code
                  <input
                    className="input num font-normal"
                    value={get('code')}
                    onChange={(e) => set('code', e.target.value)}
                  />
                </label>
              </form>
              <div className="sheet overflow-x-auto">
                <table className="rows">
                  <thead>
                    <tr>
                      <th>Run</th>
                      <th>Outcome</th>
                      <th>Printed</th>
                      <th>Machine</th>
                      <th>Resin</th>
                      <th>Settings</th>
                      <th>Started</th>
                      <th>Took ●</th>
                      <th>Our estimate ◇</th>
                      <th>Software's ❝</th>
                    </tr>
                  </thead>
                  <tbody>
                    {list.lines.map((r) => (
                      <tr key={r.id}>
                        <td>
                          <Link className="whitespace-nowrap" to={`/runs/${r.id}`}>
                            {r.code}
                          </Link>
                        </td>
                        <td className="whitespace-nowrap">
                          <svg viewBox="-16 -14 32 28" className="mr-1 inline h-5 w-6" aria-hidden="true">
                            <Bead shape={r.shape as Shape} colour="var(--ink)" />
                          </svg>
                          {judged(r) === 0 ? (
                            'not judged'
                          ) : (
                            <span className="num">{`${r.counts.whole} of ${judged(r)} whole`}</span>
                          )}
                        </td>
                        <td>{r.printed}</td>
                        <td>{r.machine}</td>
                        <td>{r.resin}</td>
                        <td>{r.settings}</td>
                        <td className="num whitespace-nowrap">{moment(r.started_ms)}</td>
                        <td className="num whitespace-nowrap">
                          {r.took_s != null ? duration(r.took_s) : r.stopped ? 'stopped' : 'not known'}
                        </td>
                        <td className="num whitespace-nowrap">{duration(r.our_estimate_s)}</td>
                        <td className="num whitespace-nowrap">{duration(r.software_estimate_s)}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
                {list.lines.length === 0 && <p className="text-soft">No run is like that.</p>}
              </div>
              {(skip > 0 || list.more) && (
                <nav className="flex items-center gap-3" aria-label="Pages">
                  <button className="button" disabled={skip === 0} onClick={() => turn(skip - page)}>
                    Newer
                  </button>
                  <span className="num">
                    {skip + 1} to {skip + list.lines.length}
                  </span>
                  <button className="button" disabled={!list.more} onClick={() => turn(skip + page)}>
                    Older
                  </button>
                </nav>
              )}
            </>
          )
        }
      </Ready>
    </Page>
  )
}
