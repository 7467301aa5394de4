import type { Schemas } from '../lib/api'
import { duration, moment, percent } from '../lib/format'

/** What each version of a program comes to: its times step by step, and how often a step failed. */
export function SoftwareTable({ programs }: { programs: Schemas['SaidProgram'][] }) {
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="By program and version">
      <table className="rows">
        <caption className="text-left font-semibold">
          By program and version{' '}
          <span className="font-normal text-soft">● the median of n, the least and the most</span>
        </caption>
        <thead>
          <tr>
            <th scope="col">Program</th>
            <th scope="col">Steps done and timed</th>
            <th scope="col">Failed</th>
          </tr>
        </thead>
        <tbody>
          {programs.map((p) => (
            <tr key={`${p.program} ${p.version}`}>
              <th scope="row" className="whitespace-nowrap">
                {p.program} {p.version}
              </th>
              <td>
                {p.stages.length === 0 && 'none was timed'}
                {p.stages.map((s) => (
                  <span key={s.stage} className="mr-4 inline-block">
                    {s.stage} <span className="num whitespace-nowrap">{duration(s.median_s)}</span>{' '}
                    <span className="text-soft">
                      n = {s.n}
                      {s.n > 1 && (
                        <>
                          , {duration(s.least_s)} to {duration(s.most_s)}
                        </>
                      )}
                    </span>
                  </span>
                ))}
              </td>
              <td>
                <span className="num whitespace-nowrap">
                  {p.failed} of {p.steps}
                </span>
                {p.ci && (
                  <span className="block text-sm text-soft">
                    95 %: {percent(p.ci[0] ?? 0)} to {percent(p.ci[1] ?? 1)}
                  </span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** A step in a line, with what became of it where it failed. */
export function stepWords(s: Schemas['SaidStep']) {
  return [
    `${moment(s.at_ms ?? 0)}: ${s.stage} with ${[s.software, s.software_version].filter(Boolean).join(' ')}`,
    s.took_s == null ? 'not timed' : duration(s.took_s),
    s.ended === 'done' ? '' : s.ended === 'crash' ? 'it crashed' : 'it ended in an error',
    s.note ?? '',
    s.computer ?? '',
    s.person ?? '',
  ]
    .filter(Boolean)
    .join('; ')
}
