import { Link } from 'react-router'
import { Bead } from '../../components/Bead'
import { Plot } from '../../components/Plot'
import type { Comparison } from '../../lib/api'
import { counted, day } from '../../lib/format'

const left = 48
const width = 800
const rowHeight = 48

/** The judged prints of each side on its cord, in the order of time, each with how many of its copies show a fault. */
export function FaultLine({ c }: { c: Comparison }) {
  const prints = c.in_time
  if (prints.length < 2) return null
  const first = prints[0]!.at_ms
  const span = Math.max(1, prints.at(-1)!.at_ms - first)
  const x = (ms: number) => left + 16 + ((ms - first) / span) * (width - left - 48)
  const height = c.sides.length * rowHeight + 24
  const faulty = prints.filter((p) => p.symptoms !== '')
  return (
    <>
      <Plot
        title="Faults in the order of time"
        label={`${counted(prints.length, 'judged print')} of ${counted(c.sides.length, 'side')} from ${day(first)} to ${day(first + span)}; ${counted(faulty.length, 'print')} with a fault; listed below.`}
        width={width}
        height={height}
      >
        {c.sides.map((s, i) => (
          <g key={s.letter} transform={`translate(0 ${i * rowHeight + 20})`}>
            <text x="8" y="5" fontSize="15" fontWeight="700" fill="var(--ink)">
              {s.letter}
            </text>
            <path d={`M${left} 0H${width - 4}`} stroke="var(--line)" strokeWidth="3" />
            {prints
              .filter((p) => p.side === i)
              .map((p) => (
                <g key={p.run_id} transform={`translate(${x(p.at_ms)} 0)`}>
                  <Bead shape={p.shape} colour="var(--ink)" r={8} />
                  {p.specimens > 0 && (
                    <text y="24" fontSize="13" textAnchor="middle" fill="var(--ink)">
                      {p.specimens} of {p.of}
                    </text>
                  )}
                </g>
              ))}
          </g>
        ))}
        <g fontSize="13" fill="var(--soft)">
          <text x={left} y={height - 4}>
            {day(first)}
          </text>
          <text x={width - 4} y={height - 4} textAnchor="end">
            {day(first + span)}
          </text>
        </g>
      </Plot>
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
          {counted(faulty.length, 'print')} with faults, in the order of time
        </summary>
        <table className="rows w-full">
          <caption className="sr-only">Prints with faults, the first printed first</caption>
          <thead>
            <tr>
              <th scope="col">Day</th>
              <th scope="col">Side</th>
              <th scope="col">Print</th>
              <th scope="col">Seen</th>
            </tr>
          </thead>
          <tbody>
            {faulty.map((p) => (
              <tr key={p.run_id}>
                <td className="num whitespace-nowrap">{day(p.at_ms)}</td>
                <td>{c.sides[p.side]?.letter}</td>
                <th scope="row">
                  <Link to={`/runs/${p.run_id}`}>{p.run}</Link>
                </th>
                <td>
                  {p.symptoms}, of {p.of}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </details>
    </>
  )
}
