import { Link } from 'react-router'
import { moment, words } from '../../lib/format'
import { useBench } from '../../lib/queries'

/** What changed a machine, the newest first. */
export function Knots({ machineID }: { machineID: string }) {
  const bench = useBench()
  const knots = (bench.data?.cords.find((c) => c.machine_id === machineID)?.knots ?? []).toReversed()
  return (
    <section className="sheet grid gap-2">
      <h2>Knots</h2>
      {knots.length === 0 && (
        <p className="text-soft">Nothing that changed it is on record. Tie a knot on the bench when something does.</p>
      )}
      <ul className="grid gap-1">
        {knots.map((k) => (
          <li key={k.id}>
            <span className="num text-soft">{moment(k.at_ms)}</span> <Link to={`/knots/${k.id}`}>{words(k.kind)}</Link>{' '}
            {k.note}
            {k.changes > 0 && <span className="text-soft"> ({k.changes} changes)</span>}
          </li>
        ))}
      </ul>
    </section>
  )
}
