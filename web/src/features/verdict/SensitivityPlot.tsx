import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear } from '@visx/scale'
import { useState } from 'react'
import { Plot } from '../../components/Plot'
import type { Schemas } from '../../lib/api'
import { figure, percent } from '../../lib/format'

const dashes = ['', '9 5', '2 4', '12 4 2 4', '5 2']

/** How the scores run as one weight is turned from nothing to all, the others keeping their proportions. */
export function SensitivityPlot({ reader, lines }: { reader: string; lines: Schemas['SensitivityLine'][] }) {
  const [chosen, setChosen] = useState(lines[0]?.criterion ?? '')
  const line = lines.find((l) => l.criterion === chosen) ?? lines[0]
  if (!line) return null
  return (
    <div className="grid gap-3">
      <label className="max-w-md text-sm font-semibold">
        Weight of
        <select className="input font-normal" value={line.criterion} onChange={(e) => setChosen(e.target.value)}>
          {lines.map((l) => (
            <option key={l.criterion}>{l.criterion}</option>
          ))}
        </select>
      </label>
      <Lines reader={reader} line={line} />
    </div>
  )
}

function Lines({ reader, line }: { reader: string; line: Schemas['SensitivityLine'] }) {
  const [w, h, left, bottom, right] = [760, 320, 62, 46, 210]
  const x = scaleLinear({ domain: [0, 1], range: [left, w - right] })
  const y = scaleLinear({ domain: [0, 1], range: [h - bottom, 14] })
  const ends = line.options
    .map((name, i) => ({ name, i, last: line.points.at(-1)?.scores[i] ?? null }))
    .filter((e): e is { name: string; i: number; last: number } => e.last !== null)
    .sort((a, b) => b.last - a.last)
    .reduce<{ name: string; i: number; at: number }[]>((out, e) => {
      const above = out.at(-1)
      return [...out, { ...e, at: above ? Math.max(y(e.last), above.at + 16) : y(e.last) }]
    }, [])
  const title = `Scores for ${reader} over the weight of ${line.criterion}`
  return (
    <>
      <Plot title={title} label={title} width={w} height={h}>
        <AxisLeft
          scale={y}
          left={left}
          numTicks={5}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, dx: -4, dy: 4, textAnchor: 'end' }}
        />
        <AxisBottom
          scale={x}
          top={h - bottom}
          numTicks={5}
          tickFormat={(v) => percent(Number(v))}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, textAnchor: 'middle' }}
        />
        <text x={(left + w - right) / 2} y={h - 6} textAnchor="middle" fontSize="13" className="fill-ink">
          weight of {line.criterion}, of all
        </text>
        <text
          transform={`translate(14 ${h / 2 - 16}) rotate(-90)`}
          textAnchor="middle"
          fontSize="13"
          className="fill-ink"
        >
          score
        </text>
        <line x1={x(line.now)} x2={x(line.now)} y1={14} y2={h - bottom} className="stroke-act" strokeWidth="2" />
        <text x={x(line.now) + 4} y={26} fontSize="12" className="fill-ink">
          now
        </text>
        {ends.map((e) => (
          <g key={e.name}>
            <polyline
              points={line.points
                .filter((p) => p.scores[e.i] != null)
                .map((p) => `${x(p.weight)},${y(p.scores[e.i] ?? 0)}`)
                .join(' ')}
              fill="none"
              className="stroke-ink"
              strokeWidth="2"
              strokeDasharray={dashes[e.i % dashes.length]}
            />
            <text x={w - right + 8} y={e.at + 4} fontSize="12" className="fill-ink">
              {e.name.length > 30 ? `${e.name.slice(0, 29)}…` : e.name}
            </text>
          </g>
        ))}
      </Plot>
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={`${title}, as a table`}>
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Weight</th>
              {line.options.map((o) => (
                <th scope="col" key={o}>
                  {o}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {line.points.map((p) => (
              <tr key={p.weight}>
                <th scope="row" className="num">
                  {percent(p.weight)}
                </th>
                {p.scores.map((s, i) => (
                  <td key={line.options[i]} className="num">
                    {s == null ? 'not ranked' : figure(s, 2)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  )
}
