import { Link } from 'react-router'
import type { Schemas } from '../../lib/api'
import { day, duration, moment } from '../../lib/format'

type Waiting = Schemas['WaitingPrint']

/** What is to be done in the order in which it comes, one row a print. */
export function CalendarTable({ c }: { c: Schemas['Calendar'] }) {
  const rows = c.machines
    .flatMap((m) => m.prints.map((p) => ({ p, machine: m.machine })))
    .sort((a, b) => (a.p.turn_ms ?? Infinity) - (b.p.turn_ms ?? Infinity))
  const running = c.machines.flatMap((m) => (m.now ? [{ now: m.now, machine: m.machine }] : []))
  const asked = c.ready_by_ms != null
  return (
    <section className="sheet overflow-x-auto" aria-label="In the order of the work" tabIndex={0}>
      <table className="rows w-full">
        <thead>
          <tr>
            <th scope="col">Print</th>
            <th scope="col">Machine</th>
            <th scope="col">Make it ready</th>
            <th scope="col">Prints ◇</th>
            <th scope="col">Ready ◇</th>
            {asked && <th scope="col">Begin at the latest</th>}
            <th scope="col">Mind</th>
          </tr>
        </thead>
        <tbody>
          {running.map(({ now, machine }) => (
            <tr key={now.code}>
              <td>
                <Link className="num whitespace-nowrap" to={`/runs/${now.run_id}`}>
                  {now.code}
                </Link>
              </td>
              <td>{machine}</td>
              <td>{now.state === 'paused' ? 'it is paused' : 'it prints'}</td>
              <td className="num">
                {now.ends_ms == null ? now.reason : `to ${moment(now.ends_ms)}`}
                {now.ends_pi_ms && (
                  <span className="block text-sm text-soft">{span(now.ends_pi_ms[0]!, now.ends_pi_ms[1]!)}</span>
                )}
              </td>
              <td className="num">{now.ready_ms == null ? '' : moment(now.ready_ms)}</td>
              {asked && <td />}
              <td className="min-w-36">
                <Mind
                  says={[
                    now.late && 'late',
                    now.alone && 'ends while nobody is there',
                    now.top_up_ms != null && `vat runs dry ${moment(now.top_up_ms)}`,
                    now.ends_ms != null && now.reason,
                  ]}
                />
              </td>
            </tr>
          ))}
          {rows.map(({ p, machine }) => (
            <tr key={p.code}>
              <td className="min-w-40">
                <Link className="num whitespace-nowrap" to={p.link}>
                  {p.code}
                </Link>{' '}
                <span className="wrap-anywhere">{p.name}</span>
                <span className="block text-sm text-soft">{p.resin}</span>
              </td>
              <td>{machine}</td>
              {p.start_ms == null ? <td colSpan={asked ? 4 : 3}>{p.reason}</td> : <Hours p={p} asked={asked} />}
              <td className="min-w-36">
                <Mind
                  says={[
                    p.vat_change && 'another resin in the vat',
                    p.alone && 'ends while nobody is there',
                    p.top_up_ms != null && `vat runs dry ${moment(p.top_up_ms)}`,
                  ]}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-sm text-soft">
        ◇ computed from the plate and what prints took, with 95 % prediction intervals where prints taught them. Ready:
        taken off when you are there, then washed, dry and cured. Plates of one machine that no plan ordered come in the
        order of the fewest vat cleanings, pale before dark.
      </p>
    </section>
  )
}

function Hours({ p, asked }: { p: Waiting; asked: boolean }) {
  return (
    <>
      <td className="num whitespace-nowrap">{moment(p.turn_ms!)}</td>
      <td className="num whitespace-nowrap">
        {span(p.start_ms!, p.end_ms!)}
        <span className="block text-sm text-soft">
          {duration(p.takes_s)}
          {p.takes_pi_s && `, ${duration(p.takes_pi_s[0])} to ${duration(p.takes_pi_s[1])}`}
        </span>
      </td>
      <td className="num whitespace-nowrap">
        {moment(p.ready_ms!)}
        <span className="block text-sm whitespace-normal text-soft">
          <details>
            <summary>{duration(p.after_s)} after it is taken off</summary>
            {p.after_says}
          </details>
        </span>
      </td>
      {asked && (
        <td className={p.in_time ? 'min-w-28' : 'min-w-28 font-semibold text-bad'}>
          {p.latest_ms != null ? (
            <span className="num whitespace-nowrap">{moment(p.latest_ms)}</span>
          ) : p.in_time ? (
            'in time itself; what follows is not'
          ) : (
            'too late'
          )}
        </td>
      )}
    </>
  )
}

/** Two instants; the day of the second only where it is another. */
const span = (from: number, to: number) =>
  `${moment(from)} to ${day(from) === day(to) ? new Date(to).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }) : moment(to)}`

function Mind({ says }: { says: (string | false)[] }) {
  return <>{says.filter(Boolean).join('; ')}</>
}
