import { Link } from 'react-router'
import { How } from '../../components/How'
import type { Comparison } from '../../lib/api'
import { figure, percent } from '../../lib/format'

/** What blind judges said of the sides: rows of their own, whose p is not adjusted with the table. */
export function BlindRows({ c }: { c: Comparison }) {
  if (c.panels.length === 0) return null
  const letter = (i: number) => c.sides[i]?.letter ?? ''
  return (
    <section className="sheet grid gap-2" aria-label="What blind judges said">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>What blind judges said</h2>
        <How figure="panels" of="What blind judges said" />
      </div>
      <div className="overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th scope="col">Asked</th>
              <th scope="col">Sides</th>
              <th scope="col">Share, 95 % ●</th>
              <th scope="col">p</th>
              <th scope="col">n</th>
              <th scope="col">In words</th>
            </tr>
          </thead>
          <tbody>
            {c.panels.map((r, i) => (
              <tr key={`${r.panel_id} ${i}`}>
                <th scope="row" className="min-w-40">
                  <Link to={`/verdict/panels/${r.panel_id}`}>{r.question}</Link>
                  {r.looks_at && <span className="block text-sm font-normal text-soft">{r.looks_at}</span>}
                </th>
                <td className="num whitespace-nowrap">{r.a < 0 ? 'all' : `${letter(r.a)}, ${letter(r.b)}`}</td>
                <td className="num whitespace-nowrap">
                  {r.share != null && r.ci && (
                    <>
                      {r.chance == null ? `${letter(r.a)} ` : 'right '}
                      {percent(r.share)}{' '}
                      <span className="block text-soft">
                        {figure(100 * r.ci[0]!)} to {percent(r.ci[1])}
                      </span>
                      {r.chance != null && <span className="block text-soft">by chance {percent(r.chance)}</span>}
                    </>
                  )}
                </td>
                <td className="num">{r.p != null && figure(r.p, 2)}</td>
                <td>
                  <span className="num">{r.judges}</span> judges, <span className="num">{r.votes}</span> answers
                </td>
                <td className="min-w-64 wrap-anywhere">
                  {r.says} <span className="text-soft">How blind: {r.grade}.</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p className="text-sm text-soft">The judge is the unit. Each p stands by itself.</p>
    </section>
  )
}
