import { useQuery } from '@tanstack/react-query'
import { Warnings } from '../../components/Figure'
import { Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { figure, grouped, percent } from '../../lib/format'
import { SurvivalPlot } from './SurvivalPlot'

/** Where on the plate, and at what age of film and panel, prints of a machine fail. */
export function MachineFailures({ id }: { id: string }) {
  const failures = useQuery({
    queryKey: ['machines', id, 'failures'],
    queryFn: () => answer(api.GET('/api/v1/machines/{id}/failures', { params: { path: { id } } })),
  })
  return (
    <Ready of={failures}>
      {(f) => (
        <>
          <Places f={f} />
          <div className="grid items-start gap-4 lg:grid-cols-2">
            {f.wear.map((w) => (
              <Wear key={w.of} w={w} />
            ))}
          </div>
        </>
      )}
    </Ready>
  )
}

function Places({ f }: { f: Schemas['MachineFailures'] }) {
  const p = f.places
  return (
    <section className="sheet grid gap-4 md:grid-cols-[minmax(0,24rem)_minmax(0,1fr)]">
      {p.failed > 0 ? (
        <PlateOfFailures f={f} />
      ) : (
        <p className="text-soft">
          No failure with a place on the plate is on record. Plates laid under Plan give places.
        </p>
      )}
      <div className="grid content-start gap-2">
        <h2>Where on the plate of {f.machine}</h2>
        {p.plates > 0 && <Warnings list={p.warnings} />}
        {p.patterns.map((x) => (
          <p
            key={x.pattern}
            className={`border-l-4 pl-2 ${x.verdict === 'not_shown' ? 'border-line' : 'border-act font-semibold'}`}
          >
            {x.sentence}
          </p>
        ))}
        <p className="text-sm text-soft">
          {p.plates > 0 && (
            <>
              <span className="num">{p.failed}</span> failures of <span className="num">{p.stood}</span> specimens on{' '}
              <span className="num">{p.plates}</span> plates that lost something.{' '}
            </>
          )}
          {f.unplaced}
          {p.draws > 0 && (
            <>
              {' '}
              The plate is the unit, since what lets go takes its neighbours with it. p: share of up to{' '}
              <span className="num">{grouped(p.draws)}</span> deals, in which plates are turned about as wholes, or
              count once at a spot, that look at least as uneven; corrected for asking three times.
            </>
          )}
        </p>
      </div>
    </section>
  )
}

/** More failures than an even spread puts there: a fuller mark; the figures stand in each part. */
function PlateOfFailures({ f }: { f: Schemas['MachineFailures'] }) {
  const { columns, rows, cells } = f.places
  const [w, d] = [f.width_mm / columns, f.depth_mm / rows]
  const most = Math.max(...cells.map((c) => (c.stood > 0 ? c.failed / c.stood : 0)), 1e-9)
  const text = Math.min(w, d) / 4.2
  return (
    <svg
      viewBox={`-1 -1 ${f.width_mm + 2} ${f.depth_mm + text * 2}`}
      className="w-full"
      role="img"
      aria-label={`Failures on the plate, as it lies before you: ${cells
        .filter((c) => c.failed > 0)
        .map((c) => `column ${c.column + 1}, row ${c.row + 1} from the front: ${c.failed} of ${c.stood}`)
        .join('; ')}`}
    >
      {cells.map((c) => {
        const x = c.column * w
        const y = f.depth_mm - (c.row + 1) * d
        const share = c.stood > 0 ? c.failed / c.stood / most : 0
        return (
          <g key={`${c.column}-${c.row}`}>
            <rect x={x} y={y} width={w} height={d} className="fill-plate stroke-line" strokeWidth={0.3} />
            {c.failed > 0 && (
              <circle
                cx={x + w / 2}
                cy={y + d * 0.4}
                r={Math.sqrt(share) * Math.min(w, d) * 0.34}
                className="fill-bad/40 stroke-bad"
                strokeWidth={0.4}
              />
            )}
            {c.stood > 0 && (
              <text x={x + w / 2} y={y + d - text * 0.35} textAnchor="middle" fontSize={text} className="num fill-ink">
                {c.failed}/{c.stood}
              </text>
            )}
          </g>
        )
      })}
      <text x={f.width_mm / 2} y={f.depth_mm + text * 1.3} textAnchor="middle" fontSize={text} className="fill-soft">
        front, as it lies before you
      </text>
    </svg>
  )
}

function Wear({ w }: { w: Schemas['WearFailures'] }) {
  return (
    <section className="sheet grid gap-3">
      <h2>With the age of the {w.of}</h2>
      <p className="border-l-4 border-act pl-2">{w.sentence}</p>
      {w.bins.length > 0 && (
        <div className="overflow-x-auto">
          <table className="rows">
            <thead>
              <tr>
                <th>
                  {w.of} had <span className="num font-normal text-soft">{w.unit}</span>
                </th>
                <th>Prints on which something failed</th>
              </tr>
            </thead>
            <tbody>
              {w.bins.map((b) => (
                <tr key={b.from}>
                  <td className="num">
                    {figure(b.from, 3)} to {figure(b.to, 3)}
                  </td>
                  <td className="num">
                    <strong>
                      {b.rate.upper_if_none != null
                        ? `none; up to ${percent(b.rate.upper_if_none)}`
                        : percent(b.rate.rate)}
                    </strong>{' '}
                    <span className="text-sm text-soft">
                      {b.failed} of {b.runs}
                      {b.rate.ci &&
                        b.rate.upper_if_none == null &&
                        `, ${percent(b.rate.ci[0])} to ${percent(b.rate.ci[1])}`}
                    </span>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {w.unknown > 0 && (
        <p className="text-sm text-soft">
          Of <span className="num">{w.unknown}</span> prints the age of the {w.of} is not known; they are not in it.
        </p>
      )}
      {w.survival.steps.length > 0 && <SurvivalPlot w={w} />}
      {w.survival.lives > 0 && <Warnings list={w.survival.warnings} />}
    </section>
  )
}
