import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear } from '@visx/scale'
import { Plot } from '../../components/Plot'
import type { Comparison } from '../../lib/api'
import { counted, figure, micrometres } from '../../lib/format'

/** Errors of sizes over their nominal, each point with its side and axis; the lines are offset and scale of an axis. */
export function ErrorsPlot({ c }: { c: Comparison }) {
  const points = c.sides.flatMap((s, side) =>
    (s.dimensions?.features ?? []).map((f) => ({ ...f, side, letter: s.letter })),
  )
  if (points.length < 2) return null
  const lines = c.sides.flatMap((s, side) => (s.dimensions?.fits ?? []).map((f) => ({ ...f, side, letter: s.letter })))
  const [w, h, left, bottom, right] = [760, 360, 66, 44, 76]
  const ends = points.flatMap((p) => [1000 * (p.error_mm - p.expanded_mm), 1000 * (p.error_mm + p.expanded_mm), 0])
  const most = Math.max(...points.map((p) => p.nominal_mm)) * 1.08
  const x = scaleLinear({ domain: [0, most], range: [left, w - right] })
  const y = scaleLinear({ domain: [Math.min(...ends), Math.max(...ends)], range: [h - bottom, 14], nice: true })
  const shift = (side: number) => Math.min(17, 120 / c.sides.length) * (side - (c.sides.length - 1) / 2)
  // Names of lines that end near each other are pushed apart.
  const names = lines
    .map((l) => ({
      name: `${l.letter} ${l.axis} ${l.kind}`,
      at: y(1000 * (l.offset_mm + (l.scale_pct / 100) * most)),
    }))
    .sort((a, b) => a.at - b.at)
    .reduce<{ name: string; at: number }[]>(
      (out, l) => [...out, { ...l, at: Math.max(l.at, (out.at(-1)?.at ?? -13) + 13) }],
      [],
    )
  const title = 'Errors of sizes over nominal'
  return (
    <section className="grid gap-2">
      <h3>{title} ●</h3>
      <Plot
        title={title}
        label={`Errors of ${counted(points.length, 'size')} in micrometres over their nominal in millimetres`}
        width={w}
        height={h}
      >
        <line x1={left} x2={w - right} y1={y(0)} y2={y(0)} className="stroke-soft" strokeDasharray="2 4" />
        {lines.map((l) => (
          <line
            key={`${l.letter}${l.axis}${l.kind}`}
            x1={x(0)}
            x2={x(most)}
            y1={y(1000 * l.offset_mm)}
            y2={y(1000 * (l.offset_mm + (l.scale_pct / 100) * most))}
            className="stroke-soft"
            strokeDasharray={['', '9 5', '2 4', '12 4 2 4', '5 2'][l.side % 5]}
          />
        ))}
        {names.map((l) => (
          <text key={l.name} x={w - right + 6} y={l.at + 4} fontSize="11" className="fill-soft">
            {l.name}
          </text>
        ))}
        {points.map((p) => (
          <g key={`${p.letter}${p.feature}`} transform={`translate(${x(p.nominal_mm) + shift(p.side)} 0)`}>
            <line
              y1={y(1000 * (p.error_mm - p.expanded_mm))}
              y2={y(1000 * (p.error_mm + p.expanded_mm))}
              className="stroke-ink"
              strokeWidth="1.5"
            />
            <circle cy={y(1000 * p.error_mm)} r="8" className="fill-sheet stroke-ink" />
            <text y={y(1000 * p.error_mm) + 4} textAnchor="middle" fontSize="11" className="fill-ink font-bold">
              {p.letter}
            </text>
          </g>
        ))}
        <AxisLeft
          scale={y}
          left={left}
          numTicks={6}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, dx: -4, dy: 4, textAnchor: 'end' }}
        />
        <AxisBottom
          scale={x}
          top={h - bottom}
          numTicks={8}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, textAnchor: 'middle' }}
        />
        <text x={(left + w - right) / 2} y={h - 6} textAnchor="middle" fontSize="13" className="fill-ink">
          nominal, mm
        </text>
        <text
          transform={`translate(14 ${h / 2 - 20}) rotate(-90)`}
          textAnchor="middle"
          fontSize="13"
          className="fill-ink"
        >
          error, µm
        </text>
      </Plot>
      <p className="text-sm text-soft">
        Bars are the expanded uncertainty (k = 2) of these specimens; lines are offset and scale of an axis.
      </p>
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center">Its numbers</summary>
        <div className="overflow-x-auto">
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">Side</th>
                <th scope="col">Size</th>
                <th scope="col">Axis</th>
                <th scope="col">Nominal</th>
                <th scope="col">Error</th>
                <th scope="col">n</th>
              </tr>
            </thead>
            <tbody>
              {points.map((p) => (
                <tr key={`${p.letter}${p.feature}`}>
                  <th scope="row">{p.letter}</th>
                  <td>{p.feature}</td>
                  <td>
                    {p.axis}, {p.kind}
                  </td>
                  <td className="num">{figure(p.nominal_mm, 4)} mm</td>
                  <td className="num">
                    {micrometres(p.error_mm)} ± {Math.round(1000 * p.expanded_mm)} µm, {figure(p.error_pct, 2)} %
                  </td>
                  <td className="num">{p.n}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </details>
    </section>
  )
}
