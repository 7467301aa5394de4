import type { Schemas } from '../../lib/api'
import { day, moment } from '../../lib/format'

const hourMS = 3_600_000
const [lane, top, left] = [64, 40, 110]

/**
 * The cords go on: a thick thread in the resin's colour where a machine prints, a notch where someone makes it ready,
 * pale ground where nobody is there. The table below says the same in words.
 */
export function CalendarCords({ c }: { c: Schemas['Calendar'] }) {
  const ends = c.machines.flatMap((m) => [m.now?.ends_ms ?? 0, ...m.prints.map((p) => p.end_ms ?? 0)])
  const from = Math.floor(c.now_ms / hourMS) * hourMS
  const until = Math.max(from + 12 * hourMS, ...ends) + 2 * hourMS
  const spanH = (until - from) / hourMS
  const perHour = Math.min(64, Math.max(20, 940 / spanH))
  const x = (ms: number) => left + (Math.min(Math.max(ms, from), until) - from) * (perHour / hourMS)
  const [width, height] = [left + spanH * perHour + 8, top + c.machines.length * lane + 8]
  const days = c.days.filter((d) => d.start_ms < until && d.end_ms > from)
  const everyH = perHour >= 40 ? 2 : 6
  const ticks = days.flatMap((d) =>
    Array.from({ length: 24 / everyH }, (_, i) => ({ h: i * everyH, ms: d.start_ms + i * everyH * hourMS })),
  )
  return (
    <div className="overflow-x-auto" role="region" aria-label="The cords ahead, drawn" tabIndex={0}>
      <svg
        width={width}
        height={height}
        role="img"
        aria-label={`What prints until ${moment(until)}; the table says the same`}
      >
        <rect
          x={left}
          y={top}
          width={width - left - 8}
          height={height - top - 8}
          className="fill-line"
          opacity="0.45"
        />
        {days.map(
          (d) =>
            d.from_ms != null &&
            d.to_ms != null &&
            d.to_ms > from && (
              <rect
                key={d.start_ms}
                x={x(d.from_ms)}
                y={top}
                width={x(d.to_ms) - x(d.from_ms)}
                height={height - top - 8}
                className="fill-sheet"
              />
            ),
        )}
        {days.map((d) => (
          <text key={d.start_ms} x={x(d.start_ms) + 3} y={14} fontSize="13" className="fill-ink font-semibold">
            {new Date(d.start_ms).toLocaleDateString('en-GB', { weekday: 'short' })} {day(d.start_ms)}
          </text>
        ))}
        {ticks
          .filter((t) => t.ms >= from && t.ms <= until)
          .map((t) => (
            <g key={t.ms}>
              <line x1={x(t.ms)} x2={x(t.ms)} y1={top - 6} y2={top} className="stroke-soft" />
              <text x={x(t.ms)} y={top - 9} fontSize="12" textAnchor="middle" className="num fill-soft">
                {t.h}
              </text>
            </g>
          ))}
        {c.machines.map((m, i) => (
          <Cord key={m.machine_id} m={m} y={top + (i + 0.6) * lane} x={x} width={width - 8} />
        ))}
        <line x1={x(c.now_ms)} x2={x(c.now_ms)} y1={top - 4} y2={height - 8} className="stroke-act" strokeWidth="2" />
        {c.ready_by_ms != null && c.ready_by_ms < until && (
          <line
            x1={x(c.ready_by_ms)}
            x2={x(c.ready_by_ms)}
            y1={top - 4}
            y2={height - 8}
            className="stroke-bad"
            strokeWidth="2"
            strokeDasharray="4 3"
          />
        )}
      </svg>
    </div>
  )
}

function Cord({ m, y, x, width }: { m: Schemas['Lane']; y: number; x: (ms: number) => number; width: number }) {
  return (
    <g>
      <text x={4} y={y + 4} fontSize="13" className="fill-ink font-semibold">
        {m.machine.length > 14 ? `${m.machine.slice(0, 13)}…` : m.machine}
      </text>
      <line x1={left} x2={width} y1={y} y2={y} className="stroke-soft" strokeWidth="2" />
      {m.now?.ends_ms != null && (
        <Thread from={x(m.now.started_ms)} to={x(m.now.ends_ms)} y={y} colour={m.now.colour} code={m.now.code} solid />
      )}
      {m.prints.map(
        (p, i) =>
          p.start_ms != null && (
            <g key={p.code}>
              <rect
                x={x(p.turn_ms!)}
                y={y - 4}
                width={Math.max(2, x(p.start_ms) - x(p.turn_ms!))}
                height={8}
                className="fill-ink"
              />
              <Thread
                from={x(p.start_ms)}
                to={x(p.end_ms!)}
                y={y}
                colour={p.colour}
                code={p.code}
                below={i % 2 === 1}
              />
              {p.top_up_ms != null && (
                <path d={`M${x(p.top_up_ms)} ${y - 12}l5 -9h-10z`} className="fill-warn stroke-ink">
                  <title>{`the vat runs dry ${moment(p.top_up_ms)}`}</title>
                </path>
              )}
            </g>
          ),
      )}
    </g>
  )
}

/** One print on its cord: dashed while it is only planned, as a planned bead is dotted. */
function Thread({
  from,
  to,
  y,
  colour,
  code,
  below = false,
  solid = false,
}: {
  from: number
  to: number
  y: number
  colour: string
  code: string
  below?: boolean
  solid?: boolean
}) {
  return (
    <>
      <rect
        x={from}
        y={y - 8}
        width={Math.max(3, to - from)}
        height={16}
        rx={8}
        fill={colour || 'var(--soft)'}
        className="stroke-ink"
        strokeWidth="1.5"
        strokeDasharray={solid ? undefined : '4 3'}
      />
      <text x={from} y={below ? y + 22 : y - 13} fontSize="12" className="num fill-ink">
        {code}
      </text>
    </>
  )
}
