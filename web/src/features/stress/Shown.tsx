import { HoldingPlot } from '../../components/HoldingPlot'
import { counted, figure, percent } from '../../lib/format'
import type { StressSheet } from './StressPage'

const letter = (i: number) => String.fromCharCode(65 + i)

/** What the series shows, set-up by set-up; folded while tests are still to be done, so that it leads nobody. */
export function Shown({ s }: { s: StressSheet }) {
  const done = s.next === null
  return (
    <details className="sheet" open={done}>
      <summary className="min-h-(--tap) cursor-pointer content-center">
        <h2 className="inline">What it shows{done ? '' : ' so far: better not looked at while you judge'}</h2>
      </summary>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-4">
        {s.advice.map((a) => (
          <p key={a}>{a}</p>
        ))}
        {!s.measured && s.series.mode === 'fresh' && (
          <HoldingPlot
            title={`${s.series.name}: share that held, by ${s.kind.level}`}
            axis={s.kind.level}
            unit={s.kind.unit}
            sides={s.set_ups.map((u, i) => ({
              letter: letter(i),
              rungs: u.rungs.map((r) => ({ at: r.level, held: r.held, of: r.of })),
              half: u.half_level,
              ci: u.half_ci,
              more: u.half_beyond ? ', beyond what was tested' : '',
            }))}
          />
        )}
        {s.measured ? <Stiffness s={s} /> : <Rungs s={s} />}
        {s.parts.length > 0 && (
          <p>
            What broke: {s.parts.map((p) => `${p.part} (${p.times})`).join(', ')}. None of it is a failure of a print.
          </p>
        )}
        {s.answers.length > 0 && (
          <ul className="grid gap-1" aria-label="Set-ups against the first">
            {s.answers.map((a) => (
              <li key={a}>{a}</li>
            ))}
          </ul>
        )}
      </div>
    </details>
  )
}

/** How many held at each level, over prints, with the energy of a fall. */
const Rungs = ({ s }: { s: StressSheet }) => (
  <div className="relative overflow-x-auto">
    <table className="rows">
      <caption className="text-left text-soft">
        Held at each level ●, with intervals at 95 % over prints: copies of one print share its fate
      </caption>
      <thead>
        <tr>
          <th scope="col">Set-up</th>
          <th scope="col" className="first-letter:uppercase">
            {s.kind.level}
          </th>
          <th scope="col">Held</th>
          <th scope="col">Share</th>
          {s.series.kind === 'drop' && <th scope="col">Energy ◇</th>}
        </tr>
      </thead>
      <tbody>
        {s.set_ups.map((u, i) =>
          u.rungs.length === 0 ? (
            <tr key={u.label}>
              <Name u={u} i={i} />
              <td colSpan={4} className="text-soft">
                not tested yet
              </td>
            </tr>
          ) : (
            u.rungs.map((r, j) => (
              <tr key={u.label + r.level}>
                {j === 0 && <Name u={u} i={i} rows={u.rungs.length} />}
                <td className="num whitespace-nowrap">{r.words}</td>
                <td className="num whitespace-nowrap">
                  {r.held} of {r.of}, {counted(r.prints, 'print')}
                </td>
                <td className="num whitespace-nowrap">
                  {percent(r.share)}
                  {r.ci && ` (${percent(r.ci[0]!)} to ${percent(r.ci[1]!)})`}
                </td>
                {s.series.kind === 'drop' && (
                  <td className="num whitespace-nowrap">
                    {r.energy_mj === null ? 'not weighed' : `${figure(r.energy_mj)} mJ`}
                  </td>
                )}
              </tr>
            ))
          ),
        )}
      </tbody>
    </table>
  </div>
)

function Name({ u, i, rows = 1 }: { u: StressSheet['set_ups'][number]; i: number; rows?: number }) {
  return (
    <th scope="row" rowSpan={rows} className="align-top font-normal">
      <span className="font-semibold">{letter(i)}</span> {u.label}
      <span className="block text-sm text-soft">
        {counted(u.specimens, 'specimen')} of {u.prints.join(', ')}; cured {u.cured}
      </span>
      {u.says.map((line) => (
        <span key={line} className="block text-sm">
          {line}
        </span>
      ))}
    </th>
  )
}

const Stiffness = ({ s }: { s: StressSheet }) => (
  <div className="relative overflow-x-auto">
    <table className="rows">
      <caption className="text-left text-soft">
        Stiffness by three-point bending ◇, means over prints with intervals at 95 %
      </caption>
      <thead>
        <tr>
          <th scope="col">Set-up</th>
          <th scope="col">Modulus</th>
        </tr>
      </thead>
      <tbody>
        {s.set_ups.map((u, i) => (
          <tr key={u.label}>
            <Name u={u} i={i} />
            <td className="num whitespace-nowrap">
              {u.modulus_mpa === null ? 'not known yet' : `${figure(u.modulus_mpa)} MPa`}
              {u.modulus_ci && ` (${figure(u.modulus_ci[0])} to ${figure(u.modulus_ci[1])} MPa)`}
              <span className="block">{counted(u.prints.length, 'print')}</span>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  </div>
)
