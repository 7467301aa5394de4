import type { KeyboardEvent, PointerEvent } from 'react'
import type { Schemas } from '../lib/api'

export interface Standing {
  key: string
  label: string
  name: string
  outline: number[][]
  x: number
  y: number
  bad?: boolean
}

interface Props {
  machine: Pick<Schemas['Machine'], 'width_mm' | 'depth_mm'>
  margin: number
  /** What was found usable of the plate: its dead strips and spots are drawn. */
  usable?: Schemas['Usable']
  items: Standing[]
  title: string
  selected?: number
  onSelect?: (i: number) => void
  onKey?: (e: KeyboardEvent, i: number) => void
  onDrag?: (i: number, dx: number, dy: number, end: boolean) => void
}

/** The plate as it lies before you: the front is at the bottom. */
export function PlateMap({ machine, margin, usable, items, title, selected, onSelect, onKey, onDrag }: Props) {
  const { width_mm: w, depth_mm: d } = machine
  const dead = usable?.verified
  const [left, right] = [dead?.left_mm ?? 0, dead?.right_mm ?? 0]
  const [front, back] = [dead?.front_mm ?? 0, dead?.back_mm ?? 0]
  const edge = Math.max(w, d) * 0.05
  const flip = (y: number) => d - y
  const points = (outline: number[][]) => outline.map(([x, y]) => `${x},${flip(y ?? 0)}`).join(' ')
  const text = Math.max(w, d) / 34
  /** As large as the label fits its piece: a character is 0.62 of its height wide. */
  const fitting = (item: Standing) => {
    const across = item.outline.map(([x]) => x ?? 0)
    return Math.min(text, (Math.max(...across) - Math.min(...across)) / (0.66 * item.label.length))
  }
  const drag = (i: number) => (e: PointerEvent<SVGGElement>) => {
    if (!onDrag) return
    onSelect?.(i)
    const svg = e.currentTarget.ownerSVGElement
    const scale = svg?.getScreenCTM()?.a ?? 1
    const [x0, y0] = [e.clientX, e.clientY]
    const target = e.currentTarget
    target.setPointerCapture(e.pointerId)
    const move = (m: globalThis.PointerEvent) =>
      onDrag(i, (m.clientX - x0) / scale, -(m.clientY - y0) / scale, m.type !== 'pointermove')
    const end = (m: globalThis.PointerEvent) => {
      target.removeEventListener('pointermove', move)
      target.removeEventListener('pointerup', end)
      target.removeEventListener('pointercancel', end)
      move(m)
    }
    target.addEventListener('pointermove', move)
    target.addEventListener('pointerup', end)
    target.addEventListener('pointercancel', end)
  }
  return (
    <svg
      viewBox={`${-edge} ${-edge} ${w + 2 * edge} ${d + 2.4 * edge}`}
      className="max-h-[70vh] w-full"
      role={onSelect ? 'group' : 'img'}
      aria-label={title}
    >
      <rect width={w} height={d} rx={Math.min(w, d) / 40} className="fill-plate stroke-ink" strokeWidth={w / 300} />
      <rect
        x={left + margin}
        y={back + margin}
        width={Math.max(0, w - left - right - 2 * margin)}
        height={Math.max(0, d - front - back - 2 * margin)}
        className="fill-none stroke-soft"
        strokeDasharray={`${w / 80} ${w / 80}`}
        strokeWidth={w / 500}
      />
      {[
        [0, 0, left, d],
        [w - right, 0, right, d],
        [left, 0, w - left - right, back],
        [left, d - front, w - left - right, front],
      ].map(
        ([x, y, across, deep], i) =>
          across! > 0 &&
          deep! > 0 && <rect key={i} x={x} y={y} width={across} height={deep} className="fill-soft/50 stroke-none" />,
      )}
      {(usable?.spots ?? []).map((s, i) => {
        const r = Math.max(s.radius_mm, w / 120)
        return (
          <g key={i} className="stroke-bad" strokeWidth={w / 300}>
            <title>
              {s.what || 'dead spot'} at {s.x_mm}, {s.y_mm} mm
            </title>
            <circle cx={s.x_mm} cy={flip(s.y_mm)} r={r} className="fill-none" />
            <path
              d={`M${s.x_mm - 1.6 * r},${flip(s.y_mm) - 1.6 * r} l${3.2 * r},${3.2 * r} M${s.x_mm - 1.6 * r},${flip(s.y_mm) + 1.6 * r} l${3.2 * r},${-3.2 * r}`}
            />
          </g>
        )
      })}
      <text x={w / 2} y={d + edge * 0.95} textAnchor="middle" fontSize={text} className="fill-soft">
        front, as it lies before you
      </text>
      {items.map((item, i) => (
        <g
          key={item.key}
          tabIndex={onSelect ? 0 : undefined}
          role={onSelect ? 'button' : undefined}
          aria-pressed={onSelect ? i === selected : undefined}
          aria-label={onSelect ? item.name : undefined}
          className={onSelect ? 'cursor-move touch-none outline-none' : ''}
          onFocus={() => onSelect?.(i)}
          onKeyDown={(e) => onKey?.(e, i)}
          onPointerDown={drag(i)}
        >
          <polygon
            points={points(item.outline)}
            className={item.bad ? 'fill-bad/25 stroke-bad' : 'fill-sheet stroke-ink'}
            strokeWidth={i === selected ? w / 110 : w / 320}
            strokeDasharray={item.bad ? `${w / 60} ${w / 120}` : undefined}
          />
          {i === selected && (
            <polygon points={points(item.outline)} className="fill-none stroke-act" strokeWidth={w / 220} />
          )}
          <text
            x={item.x}
            y={flip(item.y) + fitting(item) / 3}
            textAnchor="middle"
            fontSize={fitting(item)}
            className="num fill-ink font-semibold"
          >
            {item.label}
          </text>
        </g>
      ))}
    </svg>
  )
}
