import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear, scaleLog } from '@visx/scale'
import { counted, figure, percent, inUnit } from '../lib/format'
import { Plot } from './Plot'

/** How many of a side held at each rung of a ladder, and where half do, with its interval at 95 %. */
export interface Holding {
  letter: string
  rungs: { at: number; held: number; of: number }[]
  half: number | null
  ci: number[] | null
  /** What stands behind where half hold, such as its size in pixels. */
  more?: string
}

const [w, h, left, bottom, right] = [760, 300, 66, 44, 30]
const dashes = ['', '9 5', '2 4', '12 4 2 4', '5 2']

/** The share that holds over the rungs of a ladder, side by side, with its table. */
export function HoldingPlot({
  title,
  axis,
  unit,
  sides,
}: {
  title: string
  axis: string
  unit: string
  sides: Holding[]
}) {
  const rungs = [...new Set(sides.flatMap((s) => s.rungs.map((r) => r.at)))].sort((a, b) => a - b)
  if (rungs.length < 2) return null
  const x = scaleLog({ domain: [rungs[0]! * 0.9, rungs.at(-1)! * 1.1], range: [left, w - right] })
  const y = scaleLinear({ domain: [0, 1], range: [h - bottom, 14] })
  const shift = (side: number) => Math.min(15, 70 / sides.length) * (side - (sides.length - 1) / 2)
  const inside = (v: number) => Math.max(left, Math.min(w - right, x(v)))
  return (
    <section className="grid gap-2">
      <h3>{title} ●</h3>
      <Plot
        title={title}
        label={`Share of copies that held at each of ${counted(rungs.length, 'step')}, from 0 to 100 %, by side; the bars at 50 % are where half hold, with intervals at 95 %`}
        width={w}
        height={h}
      >
        <line x1={left} x2={w - right} y1={y(0.5)} y2={y(0.5)} className="stroke-line" />
        {sides.map((s, side) => (
          <g key={s.letter}>
            <path
              d={s.rungs.map((r, i) => `${i === 0 ? 'M' : 'L'}${x(r.at) + shift(side)} ${y(r.held / r.of)}`).join('')}
              className="fill-none stroke-soft"
              strokeDasharray={dashes[side % dashes.length]}
            />
            {s.ci && (
              <g transform={`translate(0 ${y(0.5) + shift(side)})`}>
                <line x1={inside(s.ci[0]!)} x2={inside(s.ci[1]!)} className="stroke-ink" strokeWidth="3" />
                <text x={inside(s.ci[0]!) - 12} y="4" fontSize="11" className="fill-ink font-bold">
                  {s.letter}
                </text>
              </g>
            )}
            {s.rungs.map((r) => (
              <g key={r.at} transform={`translate(${x(r.at) + shift(side)} ${y(r.held / r.of)})`}>
                <circle r="8" className="fill-sheet stroke-ink" />
                <text y="4" textAnchor="middle" fontSize="11" className="fill-ink font-bold">
                  {s.letter}
                </text>
              </g>
            ))}
          </g>
        ))}
        <AxisLeft
          scale={y}
          left={left}
          numTicks={5}
          tickFormat={(v) => percent(Number(v))}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, dx: -4, dy: 4, textAnchor: 'end' }}
        />
        <AxisBottom
          scale={x}
          top={h - bottom}
          tickValues={rungs}
          tickFormat={(v) => figure(Number(v))}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, textAnchor: 'middle' }}
        />
        <text x={(left + w - right) / 2} y={h - 6} textAnchor="middle" fontSize="13" className="fill-ink">
          {axis}, {unit}
        </text>
      </Plot>
      <div className="relative overflow-x-auto">
        <table className="rows">
          <caption className="sr-only">{title}</caption>
          <thead>
            <tr>
              <th scope="col">Side</th>
              {rungs.map((v) => (
                <th key={v} scope="col" className="num">
                  {inUnit(figure(v), unit)}
                </th>
              ))}
              <th scope="col">Half hold at</th>
            </tr>
          </thead>
          <tbody>
            {sides.map((s) => (
              <tr key={s.letter}>
                <th scope="row">{s.letter}</th>
                {rungs.map((v) => {
                  const r = s.rungs.find((rung) => rung.at === v)
                  return (
                    <td key={v} className="num whitespace-nowrap">
                      {r ? `${r.held} of ${r.of}` : '–'}
                    </td>
                  )
                })}
                <td className="num whitespace-nowrap">
                  {s.half === null ? 'not known' : inUnit(figure(s.half), unit)}
                  {s.ci && ` (${figure(s.ci[0])} to ${inUnit(figure(s.ci[1]), unit)})`}
                  {s.more}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
