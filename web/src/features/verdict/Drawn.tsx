import { Link } from 'react-router'
import { How } from '../../components/How'
import type { Schemas } from '../../lib/api'
import { counted, duration, hours, weekHour } from '../../lib/format'

type Draft = Schemas['PlanDraft']
type Request = Schemas['PlanRequest']

/** A plan as it was drawn: its combinations, what is to be said of it, and the prints in their order. */
export function Drawn({
  draft: d,
  request,
  busy,
  redraw,
  keep,
}: {
  draft: Draft
  request: Request
  busy: boolean
  redraw: (request: Request) => void
  keep: () => void
}) {
  const made = d.combinations.filter((c) => c.changed.length > 0 && c.cells.some((cell) => cell.add > 0)).length
  return (
    <section className="sheet grid gap-4" aria-label="The plan as drawn">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>The plan as drawn</h2>
        <How figure="plans" of="The plan as drawn" />
      </div>
      <ul className="grid gap-1">
        {d.says.map((s) => (
          <li key={s}>{s}</li>
        ))}
      </ul>
      <Combinations d={d} request={request} redraw={redraw} />
      {d.combinations.some((c) => c.trouble !== '' && c.settings === '' && c.base === '') && (
        <p className="flex flex-wrap gap-4">
          <Link to="/dial-in/new">Dial in an exposure</Link>
          <Link to="/kit?tab=settings">Enter settings by hand</Link>
        </p>
      )}
      {d.tells.length > 0 && (
        <div>
          <h3>Once it is printed</h3>
          <ul className="grid gap-1">
            {d.tells.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </div>
      )}
      {d.prints.length > 0 && (
        <>
          <Machines d={d} />
          <Order d={d} />
          <div>
            <button className="button button-main" onClick={keep} disabled={busy}>
              Keep this plan: {counted(d.prints.length, 'plate')}
              {made > 0 && `, ${counted(made, 'new setting')}`}
            </button>
          </div>
        </>
      )}
    </section>
  )
}

const same = (a: string[], b: string[]) => a.join('\n') === b.join('\n')

function Combinations({ d, request, redraw }: { d: Draft; request: Request; redraw: (request: Request) => void }) {
  const without = request.without ?? []
  // What is the same in all stands in the settings; a column is for what differs.
  const varied = d.factors.map((f, i) => ({ f, i })).filter(({ f }) => f.levels.length > 1)
  const shown = varied.length > 0 ? varied : d.factors.map((f, i) => ({ f, i }))
  const plans = (levels: string[]) => !without.some((l) => same(l, levels))
  const toggle = (levels: string[]) =>
    redraw({ ...request, without: plans(levels) ? [...without, levels] : without.filter((l) => !same(l, levels)) })
  return (
    <div className="overflow-x-auto">
      <table className="rows w-full">
        <caption className="sr-only">Combinations with what there is of each and what is added</caption>
        <thead>
          <tr>
            <th scope="col">Plan</th>
            {shown.map(({ f }) => (
              <th key={f.key} scope="col">
                {f.name}
              </th>
            ))}
            <th scope="col">Settings</th>
            {d.pieces.map((p) => (
              <th key={p.id} scope="col">
                {p.name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {d.combinations.map((c) => (
            <tr key={c.levels.join('\n')}>
              <td>
                <input
                  type="checkbox"
                  className="size-5 accent-(--act)"
                  aria-label={`Plan ${shown.map(({ i }) => c.levels[i]).join(', ')}`}
                  checked={c.trouble === '' && plans(c.levels)}
                  disabled={c.trouble !== ''}
                  onChange={() => toggle(c.levels)}
                />
              </td>
              {shown.map(({ f, i }) => (
                <td key={f.key}>{c.levels[i]}</td>
              ))}
              {c.trouble ? (
                <td colSpan={1 + d.pieces.length} className="font-semibold text-bad">
                  {c.trouble}
                </td>
              ) : (
                <>
                  <td>
                    {c.changed.length > 0 ? (
                      <>
                        <span className="font-semibold">new</span>, from {c.base}
                      </>
                    ) : (
                      c.settings
                    )}
                    {c.notes.map((n) => (
                      <span key={n} className="block text-sm font-semibold">
                        {n}
                      </span>
                    ))}
                  </td>
                  {c.cells.map((cell, i) => (
                    <td key={d.pieces[i]?.id}>
                      <span className={cell.add > 0 ? 'font-semibold' : 'text-soft'}>
                        {cell.add > 0 ? `${cell.add} to print` : 'none to print'}
                      </span>
                      <span className="block text-sm text-soft">
                        {cell.prints} on record{cell.planned > 0 && `, ${cell.planned} planned before`}
                      </span>
                    </td>
                  ))}
                </>
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

function Machines({ d }: { d: Draft }) {
  return (
    <div>
      <h3>How long it takes</h3>
      <ul className="grid gap-1">
        {d.machines.map((m) => (
          <li key={m.machine}>
            {m.machine}: {counted(m.prints, 'print')}
            {m.run_h == null ? (
              <>. {m.reason}</>
            ) : (
              <>
                , <span className="num">{hours(m.run_h)}</span> of printing and{' '}
                <span className="num">{hours(m.attended_h)}</span> of your time; begun on a Monday it ends{' '}
                {weekHour(m.end_h)}. {m.reason}
              </>
            )}
          </li>
        ))}
      </ul>
      {d.machines.length > 1 && (
        <p className="text-sm text-soft">Each machine as if you looked after it alone, by the week in your figures.</p>
      )}
    </div>
  )
}

function Order({ d }: { d: Draft }) {
  return (
    <div className="overflow-x-auto">
      <table className="rows w-full">
        <caption className="text-left text-sm text-soft">The order on each machine</caption>
        <thead>
          <tr>
            <th scope="col">Turn</th>
            {d.machines.length > 1 && <th scope="col">Machine</th>}
            <th scope="col">Print</th>
            <th scope="col">Takes</th>
            <th scope="col">Starts</th>
          </tr>
        </thead>
        <tbody>
          {d.prints.map((p) => (
            <tr key={`${p.machine} ${p.turn}`}>
              <td className="num">{p.turn}</td>
              {d.machines.length > 1 && <td>{p.machine}</td>}
              <td>
                {p.words}
                <span className="block text-sm text-soft">
                  {p.holds}
                  {p.mirrored && ', turned by half'}
                </span>
                {p.vat_change && <span className="block text-sm font-semibold">change the resin first</span>}
              </td>
              <td className="num">{duration(p.takes_s)}</td>
              <td className="num">{weekHour(p.start_h)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
