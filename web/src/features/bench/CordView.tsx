import { scaleUtc } from '@visx/scale'
import { useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent } from 'react'
import { Link, useNavigate } from 'react-router'
import type { Schemas } from '../../lib/api'
import { counted, day, duration } from '../../lib/format'
import { CordPlaces } from './CordPlaces'
import { CordTools, spans } from './CordTools'
import { beadRoom, layCord, passes, type BeadFilter, type BeadRow, type Place } from './cordLayout'
import { useBeads, useByMachine } from './useBeads'

const rowHeight = 112
const top = 40
const dayMs = 86_400_000
/** How much is drawn to either side of what is in sight, in widths of the frame. */
const margin = 0.35
/** Up to how many widths of the frame are drawn at once. */
const wholeFrames = 4

interface Props {
  data: Schemas['Bench']
  chosen: BeadRow[]
  select: (b: BeadRow) => void
}

/** Every machine as a cord through time. Only what is in sight, and a little beside it, is read and drawn. */
export function CordView({ data, chosen, select }: Props) {
  const [span, setSpan] = useState(62)
  const [choosing, setChoosing] = useState(false)
  const [filter, setFilter] = useState<BeadFilter>({ piece: '', resin: '', shape: '' })
  const [frame, setFrame] = useState(700)
  const [step, setStep] = useState(Number.MAX_SAFE_INTEGER)
  const [focus, setFocus] = useState<{ cord: string; key: string; move: boolean }>()
  const box = useRef<HTMLDivElement>(null)
  const navigate = useNavigate()

  const planned = Math.max(0, ...data.cords.map((c) => c.planned.length + (c.planned_more > 0 ? 1 : 0)))
  const ahead = 90 + 34 * planned
  // An older record may hold an instant that no calendar has; it must not stretch every cord.
  const knots = data.cords.flatMap((c) => c.knots.map((k) => k.at_ms)).filter((ms) => ms > 0)
  const first = Math.min(data.now_ms - span * dayMs, data.first_ms > 0 ? data.first_ms : data.now_ms, ...knots)
  const perMs = Math.max(200, frame - 114) / (span * dayMs)
  const width = Math.max(frame, (data.now_ms - first) * perMs + 24 + ahead)
  const height = top + rowHeight * data.cords.length
  const x = useMemo(
    () => scaleUtc({ domain: [first, data.now_ms], range: [24, width - ahead] }),
    [first, data.now_ms, width, ahead],
  )

  // What is drawn moves on in steps of half a frame: between two steps the browser only scrolls.
  const half = frame / 2
  const at = Math.min(step, Math.floor((width - frame) / half))
  // A few frames are drawn whole: nothing is left to do while one scrolls.
  const whole = width <= wholeFrames * frame
  const from = whole ? 0 : Math.max(0, at * half - margin * frame)
  const to = whole ? width : Math.min(width, (at + 1) * half + (1 + margin) * frame)
  const { rows } = useBeads(x.invert(from).getTime(), Math.min(data.now_ms, x.invert(to).getTime()))
  const byMachine = useByMachine(rows)
  const laid = useMemo(
    () =>
      new Map(
        data.cords.map((c) => [
          c.machine_id,
          layCord(
            (byMachine.get(c.machine_id) ?? []).filter(passes(filter)),
            c.knots.filter((k) => k.at_ms > 0 && k.at_ms <= data.now_ms),
            x,
            x(data.now_ms) - 12,
          ),
        ]),
      ),
    [data.cords, data.now_ms, byMachine, filter, x],
  )
  const seen = useMemo(
    () =>
      new Map(
        [...laid].map(([id, places]) => [id, places.filter((p) => p.x >= from - beadRoom && p.x <= to + beadRoom)]),
      ),
    [laid, from, to],
  )
  const colours = useMemo(() => new Map(data.threads.map((t) => [t.resin_id, t])), [data.threads])
  const chosenIDs = useMemo(() => chosen.map((b) => b.run_id), [chosen])

  useEffect(() => {
    const element = box.current
    if (!element) return
    const observer = new ResizeObserver(() => setFrame(Math.max(320, element.clientWidth)))
    observer.observe(element)
    return () => observer.disconnect()
  }, [])

  // Zooming keeps the middle of the picture; the first look is at now.
  const middle = useRef<number>(undefined)
  useLayoutEffect(() => {
    if (box.current) box.current.scrollLeft = middle.current === undefined ? width : x(middle.current) - frame / 2
  }, [width, x, frame])
  const zoom = useCallback(
    (to: number, around?: number) => {
      const b = box.current
      if (b) middle.current = around ?? x.invert(b.scrollLeft + b.clientWidth / 2).getTime()
      // At the right end it stays at now.
      if (b && around === undefined && b.scrollLeft + b.clientWidth > b.scrollWidth - 4) middle.current = undefined
      setSpan(Math.min(366, Math.max(1, to)))
    },
    [x],
  )

  useEffect(() => {
    if (!focus?.move) return
    const place = laid.get(focus.cord)?.find((p) => p.key === focus.key)
    const b = box.current
    if (!place || !b) return
    if (place.x < b.scrollLeft + 60 || place.x > b.scrollLeft + frame - 60) b.scrollLeft = place.x - frame / 2
    b.querySelector<SVGGElement>(`[data-place="${focus.key}"]`)?.focus({ preventScroll: true })
  }, [focus, laid, seen, frame])

  const go = (cord: Schemas['Cord'], p: Place | undefined) => {
    if (p) setFocus({ cord: cord.machine_id, key: p.key, move: true })
  }
  const pick = (p: Place, compare: boolean) => {
    const only = p.beads.length === 1 ? p.beads[0] : undefined
    if (!only) zoom(closer(span, p), p.beads[Math.floor(p.beads.length / 2)]?.started_ms)
    else if (choosing || compare) select(only)
    else void navigate(`/runs/${only.run_id}`)
  }
  const key = (e: KeyboardEvent<SVGGElement>, p: Place, row: number) => {
    const cord = data.cords[row]
    if (!cord) return
    const string = (laid.get(cord.machine_id) ?? []).filter((q) => q.beads.length > 0)
    const at = string.findIndex((q) => q.key === p.key)
    const other = (by: number) => {
      const to = data.cords[row + by]
      const near = (to ? (laid.get(to.machine_id) ?? []) : []).filter((q) => q.beads.length > 0)
      if (to)
        go(
          to,
          near.reduce<Place | undefined>(
            (best, q) => (!best || Math.abs(q.x - p.x) < Math.abs(best.x - p.x) ? q : best),
            undefined,
          ),
        )
    }
    const only = p.beads.length === 1 ? p.beads[0] : undefined
    if (e.key === 'ArrowRight') go(cord, string[at + 1])
    else if (e.key === 'ArrowLeft') go(cord, string[at - 1])
    else if (e.key === 'ArrowDown') other(1)
    else if (e.key === 'ArrowUp') other(-1)
    else if (e.key === '+') zoom(span / 2, p.beads[0]?.started_ms)
    else if (e.key === '-') zoom(span * 2, p.beads[0]?.started_ms)
    else if (e.key === 'Enter') pick(p, false)
    else if ((e.key === 's' || e.key === ' ') && only) select(only)
    else return
    e.preventDefault()
  }

  // The places hold on to these two, so that nothing is drawn anew while one scrolls.
  const handlers = useRef({ key, pick })
  useEffect(() => {
    handlers.current = { key, pick }
  })
  const onKey = useCallback(
    (e: KeyboardEvent<SVGGElement>, p: Place, row: number) => handlers.current.key(e, p, row),
    [],
  )
  const onPick = useCallback((p: Place, shift: boolean) => handlers.current.pick(p, shift), [])

  return (
    <section className="min-w-0" aria-label="Cords">
      <CordTools
        data={data}
        span={span}
        zoom={zoom}
        filter={filter}
        setFilter={setFilter}
        choosing={choosing}
        setChoosing={setChoosing}
      />
      <div className="relative">
        <div
          ref={box}
          className="overflow-x-auto border-y border-line bg-plate will-change-scroll"
          tabIndex={0}
          role="group"
          aria-label="Prints through time; scrolls sideways, plus and minus zoom"
          onScroll={(e) => setStep(Math.floor(e.currentTarget.scrollLeft / half))}
          onKeyDown={(e) => {
            if (e.target !== e.currentTarget) return
            if (e.key === '+') zoom(span / 2)
            if (e.key === '-') zoom(span * 2)
          }}
        >
          <div style={{ width, height }} className="relative">
            <svg
              width={to - from}
              height={height}
              viewBox={`${from} 0 ${to - from} ${height}`}
              className="absolute top-0 block select-none"
              style={{ left: from }}
            >
              {scaleUtc({ domain: [x.invert(from), x.invert(to)], range: [from, to] })
                .ticks(Math.max(3, Math.round((to - from) / 120)))
                .filter((tick) => tick.getTime() <= data.now_ms)
                .map((tick) => (
                  <g key={tick.getTime()}>
                    <line x1={x(tick)} x2={x(tick)} y1={22} y2={height} stroke="var(--line)" />
                    <text x={x(tick)} y={15} textAnchor="middle" className="num fill-soft text-xs">
                      {span < 4 ? clockOf(tick) : day(tick.getTime())}
                    </text>
                  </g>
                ))}
              <line x1={x(data.now_ms)} x2={x(data.now_ms)} y1={18} y2={height} stroke="var(--ink)" strokeWidth="2" />
              <text x={x(data.now_ms) + 6} y={15} className="fill-ink text-xs font-bold">
                now
              </text>
              {data.cords.map((cord, row) => {
                const y = top + rowHeight * row + 58
                const places = laid.get(cord.machine_id) ?? []
                const inSight = seen.get(cord.machine_id) ?? []
                const beaded = inSight.filter((p) => p.beads.length > 0)
                const now = x(data.now_ms)
                return (
                  <g key={cord.machine_id}>
                    <line
                      x1={Math.max(from, places[0]?.x ?? 24)}
                      x2={now}
                      y1={y}
                      y2={y}
                      stroke="var(--soft)"
                      strokeWidth="1.5"
                    />
                    <line
                      x1={now}
                      x2={width}
                      y1={y}
                      y2={y}
                      stroke="var(--soft)"
                      strokeWidth="1.5"
                      strokeDasharray="1 6"
                      strokeLinecap="round"
                    />
                    <CordPlaces
                      places={inSight}
                      y={y}
                      until={Math.min(now, to)}
                      cord={cord}
                      colours={colours}
                      chosen={chosenIDs}
                      tabbable={
                        focus?.cord === cord.machine_id && beaded.some((p) => p.key === focus.key)
                          ? focus.key
                          : beaded.at(-1)?.key
                      }
                      row={row}
                      onKey={onKey}
                      onPick={onPick}
                    />
                    {cord.planned.map((p, i) => (
                      <PlannedBead key={p.link} p={p} x={now + 40 + 34 * i} y={y} lower={i % 2 === 1} />
                    ))}
                    {cord.planned_more > 0 && (
                      <Link
                        to="/plan"
                        aria-label={`${counted(cord.planned_more, 'print')} more planned on ${cord.name}`}
                      >
                        <text x={now + 40 + 34 * cord.planned.length - 12} y={y + 4} className="num fill-soft text-sm">
                          +{cord.planned_more}
                        </text>
                      </Link>
                    )}
                  </g>
                )
              })}
            </svg>
          </div>
        </div>
        {data.cords.map((cord, row) => (
          <p
            key={cord.machine_id}
            className="pointer-events-none absolute left-2 bg-plate/85 px-1 text-sm"
            style={{ top: top + rowHeight * row - 8 }}
          >
            <span className="num text-soft">{cord.code}</span> <strong>{cord.name}</strong>{' '}
            <span className="text-soft">{cord.about}</span>
            {data.first_ms === 0 && <span className="text-soft">: no print yet</span>}
          </p>
        ))}
      </div>
    </section>
  )
}

/** The span, in days, at which the prints of a place can be told apart. */
function closer(span: number, p: Place): number {
  const lasts = ((p.beads.at(-1)?.started_ms ?? 0) - (p.beads[0]?.started_ms ?? 0)) / dayMs
  return Math.min(span / 3, Math.max(1, lasts * 3), spans.findLast((s) => s.days < span)?.days ?? 1)
}

const clockOf = (d: Date) =>
  d.toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' })

/** A print ahead of now: the order is planned, the hour is not. Every other code stands lower, so that long ones do not touch. */
function PlannedBead({ p, x, y, lower }: { p: Schemas['Planned']; x: number; y: number; lower: boolean }) {
  const label = `Planned: ${p.code} ${p.name}, ${p.state === 'prepared' ? 'prepared' : 'laid on a plate'}${p.take_s == null ? '' : `, about ${duration(p.take_s)}`}`
  return (
    <Link to={p.link} aria-label={label}>
      <title>{label}</title>
      <rect x={x - 13} y={y - 20} width={26} height={40} fill="transparent" />
      <circle
        cx={x}
        cy={y}
        r={9}
        fill="var(--plate)"
        stroke="var(--ink)"
        strokeWidth="2"
        strokeDasharray="1.5 3.2"
        strokeLinecap="round"
      />
      <text x={x} y={y + (lower ? 38 : 26)} textAnchor="middle" className="num fill-soft text-xs">
        {p.code}
      </text>
    </Link>
  )
}
