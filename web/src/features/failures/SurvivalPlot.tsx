import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear } from '@visx/scale'
import type { Schemas } from '../../lib/api'
import { figure, percent } from '../../lib/format'

const [width, height] = [420, 200]
const pad = { left: 46, right: 10, top: 8, bottom: 42 }

/** Share of films or panels on which no print has failed yet, by age; the band is the interval. */
export function SurvivalPlot({ w }: { w: Schemas['WearFailures'] }) {
  const { steps, lives, events, median } = w.survival
  const last = steps.at(-1)?.age ?? 1
  const x = scaleLinear({ domain: [0, last * 1.08], range: [pad.left, width - pad.right], nice: true })
  const y = scaleLinear({ domain: [0, 1], range: [height - pad.bottom, pad.top] })
  let line = `M${x(0)} ${y(1)}`
  for (const s of steps) line += ` H${x(s.age)} V${y(s.share)}`
  line += ` H${width - pad.right}`
  const bands = steps.map((s, i) => ({ ...s, until: steps[i + 1]?.age ?? x.domain()[1] ?? last }))
  return (
    <figure>
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="w-full"
        role="img"
        aria-label={`Share of ${w.of}s without a failure, by age: ${steps.map((s) => `after ${figure(s.age)} ${w.unit} ${percent(s.share)}`).join('; ')}`}
      >
        {bands.map(
          (s) =>
            s.ci && (
              <rect
                key={s.age}
                x={x(s.age)}
                y={y(s.ci[1] ?? 1)}
                width={Math.max(0, x(s.until) - x(s.age))}
                height={y(s.ci[0] ?? 0) - y(s.ci[1] ?? 1)}
                className="fill-ink/10"
              />
            ),
        )}
        <path d={line} className="fill-none stroke-ink" strokeWidth={2} />
        <AxisBottom
          scale={x}
          top={height - pad.bottom}
          numTicks={5}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ className: 'num fill-soft', fontSize: 11 }}
          label={`age of the ${w.of}, ${w.unit}`}
          labelProps={{ className: 'fill-soft', fontSize: 12, textAnchor: 'middle' }}
        />
        <AxisLeft
          scale={y}
          left={pad.left}
          numTicks={4}
          tickFormat={(v) => `${100 * Number(v)} %`}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ className: 'num fill-soft', fontSize: 11, textAnchor: 'end', dx: -4, dy: 4 }}
        />
      </svg>
      <figcaption className="text-sm text-soft">
        Share of {w.of}s on which no print has lost anything attributed to the machine, n = {lives}, of which {events}{' '}
        had one.
        {median != null && events >= 3 && ` Half had one by ${figure(median)} ${w.unit}.`} Band: 95 % (Kaplan and Meier,
        Greenwood).
      </figcaption>
    </figure>
  )
}
