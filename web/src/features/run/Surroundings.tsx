import type { Schemas } from '../../lib/api'
import { duration, figure } from '../../lib/format'
import { unitOf } from '../../lib/reading'

/** For how long a feed may be silent before it is said, in s. */
const silent = 30

/** What the machine and the instruments in the room say, and when they fell silent. */
export function Surroundings({ l }: { l: Schemas['LiveRun'] }) {
  const on = l.state === 'printing' || l.state === 'paused'
  return (
    <>
      {l.speed_up != null && (
        <p className="border-l-4 border-act pl-2">
          A stand-in prints this at {figure(l.speed_up)} times the speed: nothing here is a measurement.
        </p>
      )}
      {on && l.feed && (l.feed_s ?? 0) > silent && (
        <p role="alert" className="border-l-4 border-bad pl-2 font-semibold text-bad">
          No word from {l.feed_by} for {duration(l.feed_s)}. It may go on printing; look at it.
        </p>
      )}
      {(l.rooms.length > 0 || l.feed?.resin_temp_c != null) && (
        <p className="text-sm">
          {l.feed?.resin_temp_c != null && (
            <>
              Resin <span className="num font-semibold">{figure(l.feed.resin_temp_c)} °C</span> ● {l.feed_by}.{' '}
            </>
          )}
          {l.rooms.map((r) => (
            <span key={r.name + r.unit}>
              {r.name} <span className="num font-semibold">{`${figure(r.value)} ${unitOf(r)}`}</span>{' '}
              {r.stand_in ? '≈ a stand-in' : '●'} {duration(r.ago_s)} ago.{' '}
            </span>
          ))}
        </p>
      )}
    </>
  )
}
