import { scaleUtc } from '@visx/scale'
import { useEffect, useRef, useState, type KeyboardEvent } from 'react'
import { useNavigate } from 'react-router'
import { Bead, KnotGlyph, shapeWords, type Shape } from '../../components/Bead'
import type { Schemas } from '../../lib/api'
import { day, moment, words } from '../../lib/format'

const rowHeight = 112
const top = 40
const ahead = 90
const dayMs = 86_400_000
const spans = [
  { days: 14, label: 'Two weeks' },
  { days: 62, label: 'Two months' },
  { days: 366, label: 'A year' },
]

/** Beads nearer than a bead's width are pushed on, so that each can be hit; their order stays. */
function spread(xs: number[], last: number, gap: number): number[] {
  const out = [...xs]
  for (let i = 1; i < out.length; i++) out[i] = Math.max(out[i] ?? 0, (out[i - 1] ?? 0) + gap)
  let limit = last
  for (let i = out.length - 1; i >= 0; i--) {
    out[i] = Math.min(out[i] ?? 0, limit)
    limit = (out[i] ?? 0) - gap
  }
  return out
}

export function CordView({
  data,
  chosen,
  select,
}: {
  data: Schemas['Bench']
  chosen: string[]
  select: (id: string) => void
}) {
  const [span, setSpan] = useState(62)
  const [choosing, setChoosing] = useState(false)
  const [frame, setFrame] = useState(700)
  const box = useRef<HTMLDivElement>(null)
  const navigate = useNavigate()
  const starts = data.cords.flatMap((c) => [...c.beads.map((b) => b.started_ms), ...c.knots.map((k) => k.at_ms)])
  const first = Math.min(data.now_ms - span * dayMs, ...starts)
  const width = Math.max(frame, ((data.now_ms - first) / (span * dayMs)) * (frame - ahead) + ahead)
  const x = scaleUtc({ domain: [first, data.now_ms], range: [24, width - ahead] })
  const height = top + rowHeight * data.cords.length

  useEffect(() => {
    const element = box.current
    if (!element) return
    const observer = new ResizeObserver(() => setFrame(Math.max(320, element.clientWidth)))
    observer.observe(element)
    return () => observer.disconnect()
  }, [])
  useEffect(() => {
    if (box.current) box.current.scrollLeft = width
  }, [width])

  const walk = (e: KeyboardEvent<SVGGElement>, id: string) => {
    const all = [...(e.currentTarget.parentElement?.querySelectorAll<SVGGElement>('[data-bead]') ?? [])]
    const at = all.indexOf(e.currentTarget)
    if (e.key === 'ArrowRight') all[at + 1]?.focus()
    else if (e.key === 'ArrowLeft') all[at - 1]?.focus()
    else if (e.key === 'Enter') void navigate(`/runs/${id}`)
    else if (e.key === 's' || e.key === ' ') select(id)
    else return
    e.preventDefault()
  }

  return (
    <section className="min-w-0" aria-label="Cords">
      <div className="no-print mb-2 flex flex-wrap gap-2">
        {spans.map((s) => (
          <button
            key={s.days}
            className={`button ${span === s.days ? 'button-main' : ''}`}
            aria-pressed={span === s.days}
            onClick={() => setSpan(s.days)}
          >
            {s.label}
          </button>
        ))}
        <button
          className={`button ${choosing ? 'button-main' : ''}`}
          aria-pressed={choosing}
          onClick={() => setChoosing(!choosing)}
        >
          {choosing ? 'Choose two beads' : 'Compare two prints'}
        </button>
      </div>
      <div className="relative">
        <div
          ref={box}
          className="overflow-x-auto border-y border-line"
          tabIndex={0}
          role="group"
          aria-label="Prints through time; scrolls sideways"
        >
          <svg width={width} height={height} className="block select-none">
            {x.ticks(Math.max(3, Math.round(width / 110))).map((tick) => (
              <g key={tick.getTime()}>
                <line x1={x(tick)} x2={x(tick)} y1={22} y2={height} stroke="var(--line)" />
                <text x={x(tick)} y={15} textAnchor="middle" className="num fill-soft text-xs">
                  {day(tick.getTime())}
                </text>
              </g>
            ))}
            <line x1={x(data.now_ms)} x2={x(data.now_ms)} y1={18} y2={height} stroke="var(--ink)" strokeWidth="2" />
            <text x={x(data.now_ms) + 6} y={15} className="fill-ink text-xs font-bold">
              now
            </text>
            {data.cords.map((cord, row) => {
              const y = top + rowHeight * row + 58
              const last = x(data.now_ms)
              // Beads and knots share the cord: each gets its room, in the order of time.
              const knots = cord.knots.filter((k) => k.at_ms <= data.now_ms)
              const string = [...cord.beads.map((b) => b.started_ms), ...knots.map((k) => k.at_ms)]
              const order = string.map((_, i) => i).sort((p, q) => (string[p] ?? 0) - (string[q] ?? 0))
              const placed = spread(
                order.map((i) => x(string[i] ?? 0)),
                last - 12,
                27,
              )
              const at = string.map((_, i) => placed[order.indexOf(i)] ?? 0)
              const beads = at.slice(0, cord.beads.length)
              const knotted = at.slice(cord.beads.length)
              return (
                <g key={cord.machine_id}>
                  <line x1={beads[0] ?? 24} x2={last} y1={y} y2={y} stroke="var(--soft)" strokeWidth="1.5" />
                  <line
                    x1={last}
                    x2={width}
                    y1={y}
                    y2={y}
                    stroke="var(--soft)"
                    strokeWidth="1.5"
                    strokeDasharray="1 6"
                    strokeLinecap="round"
                  />
                  {cord.beads.map((b, i) => (
                    <line
                      key={b.run_id}
                      x1={beads[i]}
                      x2={beads[i + 1] ?? last}
                      y1={y}
                      y2={y}
                      stroke={b.colour}
                      strokeWidth="4"
                    />
                  ))}
                  {knots.map((k, i) => (
                    <g key={`${k.at_ms}${k.kind}`} transform={`translate(${knotted[i]} ${y})`}>
                      <title>{`${moment(k.at_ms)}: ${words(k.kind)}, ${k.note}`}</title>
                      <KnotGlyph />
                      <text y={32} textAnchor="middle" className="fill-soft text-xs">
                        {words(k.kind)}
                      </text>
                    </g>
                  ))}
                  <g>
                    {cord.beads.map((b, i) => {
                      const letter = chosen.indexOf(b.run_id) === 0 ? 'A' : chosen.indexOf(b.run_id) === 1 ? 'B' : ''
                      return (
                        <g
                          key={b.run_id}
                          data-bead={b.run_id}
                          tabIndex={0}
                          role="link"
                          aria-label={`${b.code} on ${cord.name}, ${moment(b.started_ms)}: ${b.piece}, ${b.resin}, ${shapeWords[b.shape as Shape]}, ${b.whole} of ${b.copies} whole${letter && `, side ${letter}`}`}
                          className="cursor-pointer"
                          transform={`translate(${beads[i]} ${y})`}
                          onKeyDown={(e) => walk(e, b.run_id)}
                          onClick={(e) =>
                            choosing || e.shiftKey ? select(b.run_id) : void navigate(`/runs/${b.run_id}`)
                          }
                        >
                          <title>{`${b.code}, ${moment(b.started_ms)}: ${b.piece}, ${b.resin}, ${shapeWords[b.shape as Shape]} (${b.whole} of ${b.copies} whole)`}</title>
                          <rect x={-13} y={-24} width={26} height={48} fill="transparent" />
                          <Bead shape={b.shape as Shape} colour={b.colour} />
                          {letter && (
                            <>
                              <circle r={16} fill="none" stroke="var(--ink)" strokeWidth="2" />
                              <text y={-21} textAnchor="middle" className="fill-ink text-sm font-bold">
                                {letter}
                              </text>
                            </>
                          )}
                        </g>
                      )
                    })}
                  </g>
                </g>
              )
            })}
          </svg>
        </div>
        {data.cords.map((cord, row) => (
          <p
            key={cord.machine_id}
            className="pointer-events-none absolute left-2 bg-plate/85 px-1 text-sm"
            style={{ top: top + rowHeight * row - 8 }}
          >
            <span className="num text-soft">{cord.code}</span> <strong>{cord.name}</strong>{' '}
            <span className="text-soft">{cord.about}</span>
            {cord.beads.length === 0 && <span className="text-soft">: no print yet</span>}
          </p>
        ))}
      </div>
    </section>
  )
}
