import { Link } from 'react-router'
import { counted, listed, moment, words } from '../../lib/format'
import { useBench } from '../../lib/queries'
import { KnotForm } from '../../components/KnotForm'

/** What changed a machine, the newest first. */
export function Knots({ machineID }: { machineID: string }) {
  const bench = useBench()
  const knots = (bench.data?.cords.find((c) => c.machine_id === machineID)?.knots ?? []).toReversed()
  return (
    <section className="sheet grid gap-2">
      <h2>Knots</h2>
      {bench.data && (
        <KnotForm
          here
          key={machineID}
          machines={bench.data.cords
            .filter((c) => c.machine_id === machineID)
            .map((c) => ({ id: machineID, name: c.name }))}
          nowMs={bench.data.now_ms}
        />
      )}
      {knots.length === 0 && (
        <p className="text-soft">
          Nothing that changed it is on record. Tie a knot when something does; one dated back counts from its date.
        </p>
      )}
      <ul className="grid gap-1">
        {knots.map((k) => (
          <li key={k.id}>
            <span className="num text-soft">{moment(k.at_ms)}</span>{' '}
            <Link to={`/knots/${k.id}`}>{listed(k.kinds.map(words))}</Link> {k.note}
            {k.changes > 0 && <span className="text-soft"> ({counted(k.changes, 'change')})</span>}
          </li>
        ))}
      </ul>
    </section>
  )
}
