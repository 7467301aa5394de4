import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type Schemas } from '../lib/api'
import { figure } from '../lib/format'
import { n } from '../lib/input'
import { Figure } from './Figure'
import { Complaint } from './Page'

type Ask = Schemas['PredictAsk']
type Drawn = Pick<Ask, 'shape'> & Partial<Ask>

const shapes = [
  { value: 'walls', label: 'walls' },
  { value: 'posts', label: 'posts' },
  { value: 'slots', label: 'slots' },
  { value: 'holes', label: 'holes' },
] as const

/** A ladder or a slice as the pixels or the spot of a machine would draw it: a prediction, with its assumptions. */
export function Prediction({ machines, slice }: { machines: { id: string; name: string }[]; slice?: Drawn }) {
  const [machine, setMachine] = useState('')
  const [shape, setShape] = useState<(typeof shapes)[number]['value']>('walls')
  const [v, setV] = useState({
    sizes: '0.06 0.1 0.15 0.2 0.3',
    at: '0',
    levels: '2',
    blur: '0',
    spread: '15',
    threshold: '50',
  })
  const drawn: Drawn = slice ?? {
    shape,
    sizes_mm: v.sizes
      .split(/[;\s]+/)
      .filter(Boolean)
      .map(n),
  }
  const threshold = n(v.threshold)
  const body: Ask = {
    ...drawn,
    machine_id: machine || (machines[0]?.id ?? ''),
    at_x_mm: (n(v.at) ?? 0) / 1000,
    grey_levels: n(v.levels),
    blur_px: n(v.blur),
    spread_um: n(v.spread),
    threshold: typeof threshold === 'number' ? threshold / 100 : threshold,
  }
  const prediction = useQuery({
    queryKey: ['prediction', body],
    enabled: body.machine_id !== '',
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => answer(api.POST('/api/v1/predictions', { body })),
  })
  const box = (key: keyof typeof v, label: string, unit: string) => (
    <label className="text-sm font-semibold">
      {label} <span className="num font-normal text-soft">{unit}</span>
      <input
        className="input num font-normal"
        inputMode="decimal"
        value={v[key]}
        onChange={(e) => setV({ ...v, [key]: e.target.value })}
      />
    </label>
  )
  const p = prediction.data
  return (
    <section className="sheet grid gap-3" aria-label="Prediction">
      <h2>How it would be drawn (a prediction)</h2>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <label className="text-sm font-semibold">
          Machine
          <select className="input font-normal" value={body.machine_id} onChange={(e) => setMachine(e.target.value)}>
            {machines.map((m) => (
              <option key={m.id} value={m.id}>
                {m.name}
              </option>
            ))}
          </select>
        </label>
        {!slice && (
          <label className="text-sm font-semibold">
            A ladder of
            <select
              className="input font-normal"
              value={shape}
              onChange={(e) => setShape(e.target.value as typeof shape)}
            >
              {shapes.map((s) => (
                <option key={s.value} value={s.value}>
                  {s.label}
                </option>
              ))}
            </select>
          </label>
        )}
        {!slice && box('sizes', 'Sizes', 'mm')}
        {box('at', 'Moved on the grid by', 'µm')}
        {box('levels', 'Grey levels', '2 is none')}
        {box('blur', 'Blur', 'pixels')}
        {box('spread', 'Light spreads by', 'µm')}
        {box('threshold', 'Resin sets at', '% of the dose')}
      </div>
      {prediction.isError && <Complaint>{prediction.error.message}</Complaint>}
      {p && (
        <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_20rem]">
          <figure className="grid gap-1">
            <img
              className="w-full border border-line"
              src={`data:image/png;base64,${p.picture_png}`}
              alt={`Pixels of ${p.machine} with the drawn outline and the edge where resin sets`}
            />
            <figcaption className="text-sm text-soft">
              Bright is lit. <span className="font-semibold">Blue</span>: the outline as drawn;{' '}
              <span className="font-semibold">orange</span>: where resin would set.{' '}
              <span className="num">{figure(p.view.width_mm)}</span> mm across.
            </figcaption>
          </figure>
          <div className="grid gap-3">
            <dl className="grid gap-3">
              <Figure
                label="Outline off by, on average"
                value={figure(p.prediction.offset_um, 2)}
                unit="µm"
                n={p.prediction.n}
                source="estimated"
                note="points along the outline; above 0 is bloated"
              />
              <Figure
                label="Ripple along it"
                value={figure(p.prediction.ripple_um, 2)}
                unit="µm"
                source="estimated"
                note="standard deviation"
              />
              <Figure label="Edges lost" value={figure(p.prediction.lost_pct, 2)} unit="%" source="estimated" />
            </dl>
            {p.prediction.warnings.map((w) => (
              <p key={w.code} className="border-l-4 border-act pl-2">
                {w.message}
              </p>
            ))}
            <ul className="list-disc pl-5 text-sm text-soft">
              {p.prediction.assumptions.map((a) => (
                <li key={a}>{a}</li>
              ))}
            </ul>
          </div>
        </div>
      )}
      {p && p.rungs.length > 0 && (
        <div className="overflow-x-auto">
          <table className="rows">
            <caption className="text-left text-sm text-soft">
              Each size wherever it may fall on the grid, in mm (16 places across a pixel, long straight edges)
            </caption>
            <thead>
              <tr>
                <th>Size</th>
                <th>Least</th>
                <th>Mean</th>
                <th>Most</th>
                <th>Vanishes, %</th>
              </tr>
            </thead>
            <tbody>
              {p.rungs.map((r) => (
                <tr key={r.size_mm} className="num">
                  <td>{figure(r.size_mm)}</td>
                  <td>{figure(r.least_mm)}</td>
                  <td>{figure(r.mean_mm)}</td>
                  <td>{figure(r.most_mm)}</td>
                  <td>{figure(r.vanish_pct)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  )
}
