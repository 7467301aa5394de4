import { AxisBottom } from '@visx/axis'
import { scaleLinear } from '@visx/scale'
import { Plot } from '../../components/Plot'
import type { Schemas } from '../../lib/api'
import { figure, percent } from '../../lib/format'

type Result = Schemas['VerdictRankResult']

/** Scores from 0 to 1 with twice their error: filled with money, open without; the odds of being the best beside. */
export function ScorePlot({ title, whole, quality }: { title: string; whole: Result; quality: Result | null }) {
  const [width, left, right, row] = [760, 230, 150, 40]
  const height = 20 + row * whole.scores.length + 54
  const x = scaleLinear({ domain: [0, 1], range: [left, width - right] })
  const label = whole.scores
    .map(
      (s) => `${s.option} ${s.score == null ? 'not ranked' : `${figure(s.score, 2)}, the best: ${percent(s.p_best)}`}`,
    )
    .join('; ')
  return (
    <Plot title={title} label={`${title}: ${label}`} width={width} height={height}>
      {whole.scores.map((s, i) => {
        const y = 24 + row * i
        const apart = quality?.scores[i]
        return (
          <g key={s.option}>
            <text x={left - 12} y={y + 5} textAnchor="end" fontSize="13" className="fill-ink">
              {s.option.length > 34 ? `${s.option.slice(0, 33)}…` : s.option}
            </text>
            <line x1={left} x2={width - right} y1={y} y2={y} className="stroke-line" />
            <Mark s={s} x={x} y={y} fill="var(--ink)" />
            {apart && <Mark s={apart} x={x} y={y + 12} fill="var(--sheet)" />}
            <text x={width - right + 10} y={y + 5} fontSize="13" className="num fill-ink">
              {s.score == null ? 'not ranked' : `the best: ${percent(s.p_best)}`}
            </text>
          </g>
        )
      })}
      <AxisBottom
        scale={x}
        top={height - 46}
        numTicks={5}
        stroke="var(--soft)"
        tickStroke="var(--soft)"
        tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, textAnchor: 'middle' }}
      />
      <text x={(left + width - right) / 2} y={height - 4} textAnchor="middle" fontSize="13" className="fill-ink">
        score ± twice its error; filled with money{quality ? ', open without' : ''}
      </text>
    </Plot>
  )
}

function Mark({ s, x, y, fill }: { s: Result['scores'][number]; x: (v: number) => number; y: number; fill: string }) {
  if (s.score == null) return null
  const reach = 2 * (s.sd ?? 0)
  return (
    <g>
      <line
        x1={x(Math.max(0, s.score - reach))}
        x2={x(Math.min(1, s.score + reach))}
        y1={y}
        y2={y}
        className="stroke-ink"
        strokeWidth="2"
      />
      <circle cx={x(s.score)} cy={y} r="5" fill={fill} stroke="var(--ink)" strokeWidth="2" />
    </g>
  )
}
