import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear } from '@visx/scale'
import type { Schemas } from '../lib/api'
import { counted, duration, figure, hours } from '../lib/format'
import { Plot as Drawing } from './Plot'

/** Lines are told apart by dash and by the name at their end. */
const dashes = ['', '9 5', '2 4', '12 4 2 4', '5 2']

/**
 * Time per piece against copies, as picture and table, with where lines cross. Names stand for the sides where they
 * have names of their own, as in a comparison.
 */
export function FillPlot({ f, names }: { f: Schemas['FillPlot']; names?: string[] }) {
  const nameOf = (i: number) => names?.[i] ?? f.sides[i]?.machine ?? ''
  const [w, h, left, bottom, right] = [760, 340, 62, 44, 150]
  const crossings = [
    ...new Set(f.pairs.map((p) => p.result.crossover).filter((c): c is number => c != null && c <= f.copies)),
  ]
  const known = f.sides.map((s, i) => ({ ...s, name: nameOf(i), at: i })).filter((s) => s.per_piece_s.length > 0)
  const most = Math.max(1, ...known.flatMap((s) => s.per_piece_s)) / 60
  const x = scaleLinear({ domain: [1, Math.max(2, f.copies)], range: [left, w - right] })
  const y = scaleLinear({ domain: [0, most * 1.05], range: [h - bottom, 12], nice: true })
  const ends = known
    .map((s, i) => ({ s, i, at: y((s.per_piece_s.at(-1) ?? 0) / 60) }))
    .sort((a, b) => a.at - b.at)
    .reduce<{ s: (typeof known)[number]; i: number; at: number }[]>((out, e) => {
      const above = out.at(-1)
      return [...out, { ...e, at: above ? Math.max(e.at, above.at + 16) : e.at }]
    }, [])
  const below = Math.max(0, (ends.at(-1)?.at ?? 0) - (h - bottom))
  return (
    <section className="grid gap-3" aria-label="Time per piece against copies">
      <Drawing
        title={`Time per piece against copies of ${f.piece}`}
        label={`Minutes per piece for 1 to ${f.copies} copies of ${f.piece}`}
        width={w}
        height={h}
      >
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
          copies
        </text>
        <text
          transform={`translate(14 ${h / 2 - 20}) rotate(-90)`}
          textAnchor="middle"
          fontSize="13"
          className="fill-ink"
        >
          minutes a piece
        </text>
        {crossings.map((c) => (
          <g key={c}>
            <line x1={x(c)} x2={x(c)} y1={12} y2={h - bottom} className="stroke-soft" strokeDasharray="3 3" />
            <text x={x(c) + 3} y={22} fontSize="12" className="num fill-ink">
              {c}
            </text>
          </g>
        ))}
        {known.map((s, i) => (
          <polyline
            key={s.at}
            fill="none"
            className="stroke-ink"
            strokeWidth="2.2"
            strokeDasharray={dashes[i % dashes.length]}
            points={s.per_piece_s.map((v, k) => `${x(k + 1)},${y(v / 60)}`).join(' ')}
          />
        ))}
        {ends.map((e) => (
          <text key={e.s.at} x={w - right + 8} y={e.at - below + 4} fontSize="12" className="fill-ink">
            {e.s.name}
          </text>
        ))}
      </Drawing>
      <div className="overflow-x-auto" role="region" aria-label={`Times of ${f.piece} by fill`} tabIndex={0}>
        <table className="rows">
          <thead>
            <tr>
              <th>{names ? 'Side' : 'Machine and settings'}</th>
              <th>One piece ◇</th>
              {f.equal > 1 && <th>a piece, {counted(f.equal, 'copy', 'copies')} a plate ◇</th>}
              <th>A full plate ◇</th>
              <th>a piece on it</th>
              <th>A week of yours ◇</th>
            </tr>
          </thead>
          <tbody>
            {f.sides.map((s, i) => (
              <tr key={i}>
                <td className="min-w-44">
                  {names && <strong>{names[i]}: </strong>}
                  {s.label}
                  {s.factor != null && (
                    <span className="block text-sm text-soft">
                      {figure(s.factor)} times the model
                      {s.factor_ci && ` (${figure(s.factor_ci[0])} to ${figure(s.factor_ci[1])})`}, by{' '}
                      {counted(s.factor_n, 'print')} {s.factor_from}
                    </span>
                  )}
                </td>
                {s.reason ? (
                  <td colSpan={f.equal > 1 ? 5 : 4}>{s.reason}</td>
                ) : (
                  <>
                    <td className="num whitespace-nowrap">
                      {duration(s.one_s)}
                      {s.one_pi_s && (
                        <span className="block text-sm text-soft">
                          {duration(s.one_pi_s[0])} to {duration(s.one_pi_s[1])}
                        </span>
                      )}
                    </td>
                    {f.equal > 1 && <td className="num whitespace-nowrap">{duration(s.equal_per_piece_s)}</td>}
                    <td className="num whitespace-nowrap">{counted(s.load.capacity, 'copy', 'copies')}</td>
                    <td className="num whitespace-nowrap">{duration(s.full_per_piece_s)}</td>
                    <td className="min-w-52">{s.week && <Week week={s.week} />}</td>
                  </>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ul className="grid gap-1">
        {f.pairs.map((p) => (
          <li key={`${p.a}-${p.b}`} className="border-l-4 border-line pl-2">
            <span className="font-semibold">
              {nameOf(p.a)} and {nameOf(p.b)}:
            </span>{' '}
            {p.words}
          </li>
        ))}
      </ul>
      <p className="text-sm text-soft">
        Dashed uprights: the copies from which the slower one for one piece becomes the faster. By the timing models
        with 95 % prediction intervals, for {f.piece}; plates spaced by <span className="num">{figure(2)}</span> mm. A
        plate more starts where a full one ends. {f.corrected}
      </p>
    </section>
  )
}

function Week({ week }: { week: Schemas['FillWeek'] }) {
  return (
    <>
      {week.says}
      <span className="block text-sm text-soft">
        {hours(week.run_h)} of printing, {hours(week.attended_h)} of yours;{' '}
        {counted(week.overnight, 'plate ends', 'plates end')} while nobody is there.
        <details>
          <summary>{duration(week.after.s)} after a print</summary>
          {week.after.says}
        </details>
      </span>
    </>
  )
}
