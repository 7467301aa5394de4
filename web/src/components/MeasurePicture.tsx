import { AxisBottom } from '@visx/axis'
import { scaleLinear } from '@visx/scale'
import type { Schemas } from '../lib/api'
import { shown, type MeasureRow } from './Measure'
import { Plot } from './Plot'

/** A measure as a picture: all sides on one scale with their intervals, the difference that matters shaded about the side held against. */
export function MeasurePicture({ m, sides, baseline }: { m: MeasureRow; sides: Schemas['Side'][]; baseline: number }) {
  const known = m.sides
    .flatMap((e) => [e.value, ...(e.ci ?? []), e.upper_if_none])
    .filter((v): v is number => v !== null)
  if (known.length === 0) return null
  const [w, row, left, right, bottom] = [760, 40, 250, 30, 44]
  const h = m.sides.length * row + 12 + bottom
  const unit = m.kind === 'share' ? 100 : m.kind === 'time' ? 1 / 60 : m.kind === 'length' && m.signed ? 1000 : 1
  const names = {
    share: '%',
    time: 'minutes',
    length: m.signed ? 'µm' : 'mm',
    score: 'steps, 0 to 4',
    money: '',
    level: m.unit,
  }
  const [low, high] =
    m.kind === 'share' ? [0, 1] : m.kind === 'score' ? [0, 4] : [Math.min(...known), Math.max(...known)]
  const room = high > low ? (high - low) * 0.06 : Math.abs(high) * 0.1 || 1
  const x = scaleLinear({
    domain: m.kind === 'share' ? [0, 100] : m.kind === 'score' ? [0, 4] : [(low - room) * unit, (high + room) * unit],
    range: [left, w - right],
  })
  const at = (v: number) => Math.max(left, Math.min(w - right, x(v * unit)))
  const held = m.sides[baseline]?.value
  return (
    <Plot
      title={m.label}
      label={`${m.label}: ${m.sides.map((e, i) => `${sides[i]?.letter} ${shown(m, e.value)}`).join(', ')}`}
      width={w}
      height={h}
    >
      {held != null && m.matters != null && (
        <rect
          x={at(held - m.matters)}
          width={at(held + m.matters) - at(held - m.matters)}
          y={6}
          height={h - bottom - 6}
          className="fill-line/60"
        />
      )}
      {m.sides.map((e, i) => {
        const y = 12 + row * i + row / 2
        const name = `${sides[i]?.letter}  ${sides[i]?.label ?? ''}`
        return (
          <g key={i}>
            <text x={8} y={y + 4} fontSize="12" className="fill-ink">
              {name.length > 38 ? `${name.slice(0, 37)}…` : name}
            </text>
            {e.value === null ? (
              <text x={left + 4} y={y + 4} fontSize="12" className="fill-soft">
                {e.note || 'not known'}
              </text>
            ) : (
              <>
                <line
                  x1={at(e.ci?.[0] ?? e.value)}
                  x2={at(e.upper_if_none ?? e.ci?.[1] ?? e.value)}
                  y1={y}
                  y2={y}
                  className="stroke-ink"
                  strokeWidth="2.5"
                />
                <line x1={at(e.value)} x2={at(e.value)} y1={y - 9} y2={y + 9} className="stroke-ink" strokeWidth="4" />
              </>
            )}
          </g>
        )
      })}
      <AxisBottom
        scale={x}
        top={h - bottom}
        numTicks={7}
        stroke="var(--soft)"
        tickStroke="var(--soft)"
        tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, textAnchor: 'middle' }}
      />
      <text x={(left + w - right) / 2} y={h - 6} textAnchor="middle" fontSize="13" className="fill-ink">
        {names[m.kind as keyof typeof names]}
      </text>
    </Plot>
  )
}
