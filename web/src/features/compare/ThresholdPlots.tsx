import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear, scaleLog } from '@visx/scale'
import { Plot } from '../../components/Plot'
import type { Comparison } from '../../lib/api'
import { counted, figure, percent } from '../../lib/format'

type Threshold = Comparison['thresholds'][number]

/** How many of each size of a ladder held, over all copies of each side, and where half of them do. */
export function ThresholdPlots({ c }: { c: Comparison }) {
  if (c.thresholds.length === 0) return null
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {counted(c.thresholds.length, 'ladder')} size by size, and where half hold
      </summary>
      <div className="mt-2 grid gap-5">
        {c.thresholds.map((t) => (
          <ThresholdPlot key={t.feature} t={t} letters={c.sides.map((s) => s.letter)} />
        ))}
      </div>
    </details>
  )
}

const [w, h, left, bottom, right] = [760, 300, 66, 44, 30]
const dashes = ['', '9 5', '2 4', '12 4 2 4', '5 2']

function ThresholdPlot({ t, letters }: { t: Threshold; letters: string[] }) {
  const sizes = [...new Set(t.sides.flatMap((s) => s.rungs.map((r) => r.size_mm)))].sort((a, b) => a - b)
  if (sizes.length < 2) return null
  const x = scaleLog({ domain: [sizes[0]! * 0.9, sizes.at(-1)! * 1.1], range: [left, w - right] })
  const y = scaleLinear({ domain: [0, 1], range: [h - bottom, 14] })
  const shift = (side: number) => Math.min(15, 70 / letters.length) * (side - (letters.length - 1) / 2)
  const title = `${t.feature}: share that holds, by size`
  const inside = (mm: number) => Math.max(left, Math.min(w - right, x(mm)))
  return (
    <section className="grid gap-2">
      <h3>{title} ●</h3>
      <Plot
        title={title}
        label={`Share of copies in which each of ${counted(sizes.length, 'size')} held, from 0 to 100 %, by side; the bars at 50 % are where half hold, with intervals at 95 %`}
        width={w}
        height={h}
      >
        <line x1={left} x2={w - right} y1={y(0.5)} y2={y(0.5)} className="stroke-line" />
        {t.sides.map((s, side) => (
          <g key={letters[side]}>
            <path
              d={s.rungs
                .map((r, i) => `${i === 0 ? 'M' : 'L'}${x(r.size_mm) + shift(side)} ${y(r.intact / r.of)}`)
                .join('')}
              className="fill-none stroke-soft"
              strokeDasharray={dashes[side % dashes.length]}
            />
            {s.d50_ci_mm && (
              <g transform={`translate(0 ${y(0.5) + shift(side)})`}>
                <line
                  x1={inside(s.d50_ci_mm[0]!)}
                  x2={inside(s.d50_ci_mm[1]!)}
                  className="stroke-ink"
                  strokeWidth="3"
                />
                <text x={inside(s.d50_ci_mm[0]!) - 12} y="4" fontSize="11" className="fill-ink font-bold">
                  {letters[side]}
                </text>
              </g>
            )}
            {s.rungs.map((r) => (
              <g key={r.size_mm} transform={`translate(${x(r.size_mm) + shift(side)} ${y(r.intact / r.of)})`}>
                <circle r="8" className="fill-sheet stroke-ink" />
                <text y="4" textAnchor="middle" fontSize="11" className="fill-ink font-bold">
                  {letters[side]}
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
          tickValues={sizes}
          tickFormat={(v) => figure(Number(v))}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, textAnchor: 'middle' }}
        />
        <text x={(left + w - right) / 2} y={h - 6} textAnchor="middle" fontSize="13" className="fill-ink">
          size, mm
        </text>
      </Plot>
      <div className="overflow-x-auto">
        <table className="rows">
          <caption className="sr-only">{title}</caption>
          <thead>
            <tr>
              <th scope="col">Side</th>
              {sizes.map((mm) => (
                <th key={mm} scope="col" className="num">
                  {figure(mm)} mm
                </th>
              ))}
              <th scope="col">Half hold at</th>
            </tr>
          </thead>
          <tbody>
            {t.sides.map((s, side) => (
              <tr key={letters[side]}>
                <th scope="row">{letters[side]}</th>
                {sizes.map((mm) => {
                  const r = s.rungs.find((rung) => rung.size_mm === mm)
                  return (
                    <td key={mm} className="num whitespace-nowrap">
                      {r ? `${r.intact} of ${r.of}` : '–'}
                    </td>
                  )
                })}
                <td className="num whitespace-nowrap">
                  {s.d50_mm === null ? 'not known' : `${figure(s.d50_mm)} mm`}
                  {s.d50_ci_mm && ` (${figure(s.d50_ci_mm[0])} to ${figure(s.d50_ci_mm[1])} mm)`}
                  {s.d50_pixels !== null && `, ${figure(s.d50_pixels)} pixels`}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  )
}
