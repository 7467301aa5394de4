import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type Schemas } from '../lib/api'
import { figure } from '../lib/format'
import { n } from '../lib/input'
import { Complaint } from './Page'

const seen = { plain: 'plain to see', borderline: 'borderline', below: 'below sight' }

type Seen = Schemas['OpticsSightResult']
const sight = (s: Seen) => `${figure(s.angle_arcmin)}′, ${seen[s.verdict as keyof typeof seen]}`

/** What machines can draw, as the readers' eyes see it at their distance. */
export function VisibleDetail({ machines, piece }: { machines?: string[]; piece?: string }) {
  const [ask, setAsk] = useState({
    layer_um: '50',
    tilt_deg: '20',
    scale_pct: '100',
    tip_from_mm: '0.3',
    tip_to_mm: '0.4',
  })
  const query = {
    machine_ids: machines?.join(','),
    piece_id: piece,
    layer_um: n(ask.layer_um) ?? undefined,
    tilt_deg: n(ask.tilt_deg) ?? undefined,
    scale_pct: n(ask.scale_pct) ?? undefined,
    tip_from_mm: n(ask.tip_from_mm) ?? undefined,
    tip_to_mm: n(ask.tip_to_mm) ?? undefined,
  }
  const detail = useQuery({
    queryKey: ['visible detail', query],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => answer(api.GET('/api/v1/visible-detail', { params: { query } })),
  })
  const box = (key: keyof typeof ask, label: string, unit: string) => (
    <label className="text-sm font-semibold">
      {label} <span className="num font-normal text-soft">{unit}</span>
      <input
        className="input num font-normal"
        inputMode="decimal"
        value={ask[key]}
        onChange={(e) => setAsk({ ...ask, [key]: e.target.value })}
      />
    </label>
  )
  const o = detail.data
  return (
    <section className="sheet grid gap-3" aria-label="What eyes can see of it">
      <h2>What eyes can see of it</h2>
      <div className="grid gap-3 sm:grid-cols-3 lg:grid-cols-5">
        {box('layer_um', 'Layer', 'µm')}
        {box('tilt_deg', 'A face tilted', '°')}
        {piece && box('scale_pct', 'Scale', '%')}
        {box('tip_from_mm', 'Support tip from', 'mm')}
        {box('tip_to_mm', 'to', 'mm')}
      </div>
      {detail.isError && <Complaint>{detail.error.message}</Complaint>}
      {o && (
        <>
          <div className="overflow-x-auto">
            <table className="rows">
              <thead>
                <tr>
                  <th>Machine</th>
                  <th>Pitch or spot ◇</th>
                  <th>a dot of it</th>
                  <th>a step of it</th>
                  <th>a layer step</th>
                  <th>
                    on a face of <span className="num">{figure(o.tilt_deg)}°</span>
                  </th>
                  {piece && <th>Finest feature</th>}
                  <th>Support tip</th>
                </tr>
              </thead>
              <tbody>
                {o.machines.map((m) => (
                  <Row key={m.machine_id} m={m} piece={Boolean(piece)} />
                ))}
              </tbody>
            </table>
          </div>
          <p className="text-sm text-soft">
            Seen from <span className="num">{figure(o.viewing_mm)}</span> mm (yours to set under Kit, Costs), with good
            sight: 1 arc-minute for a dot that stands alone, 0.2 for steps, which are noticed finer.
            {piece && o.finest_mm !== null && (
              <>
                {' '}
                Finest feature <span className="num">{figure(o.finest_mm)}</span> mm ({o.finest_is}).
              </>
            )}
            {piece && o.finest_mm === null && <> The finest feature is {o.finest_is}.</>}
          </p>
        </>
      )}
    </section>
  )
}

function Row({ m, piece }: { m: Schemas['MachineSees']; piece: boolean }) {
  return (
    <tr>
      <td>{m.machine}</td>
      <td className="num">
        {figure(m.dot_um)} µm{m.engine === 'laser' && ' spot'}
      </td>
      <td className="num">{sight(m.dot)}</td>
      <td className="num">{sight(m.dot_step)}</td>
      <td className="num">{sight(m.layer_step)}</td>
      <td className="num">
        {m.steps ? (
          <>
            steps {figure(m.steps.layer_run_um)} µm long, {figure(m.steps.layer_cusp_um)} µm deep
            <span className="block">even at {figure(m.steps.matched_tilt_deg)}°</span>
          </>
        ) : (
          'no pixel steps'
        )}
      </td>
      {piece && (
        <td className="num">
          {m.scale ? (
            <>
              {figure(m.scale.feature_um)} µm: {m.scale.pixels === null ? '' : `${figure(m.scale.pixels)} pixels, `}
              {figure(m.scale.layers)} layers
              <span className="block">
                peel area × {figure(m.scale.area_ratio)}, resin × {figure(m.scale.volume_ratio)}
              </span>
              {m.scale.warnings.map((w) => (
                <span key={w.code} className="block max-w-60 font-sans text-sm text-bad">
                  {w.message}
                </span>
              ))}
            </>
          ) : (
            '–'
          )}
        </td>
      )}
      <td className="num">
        {m.tip && (
          <>
            hold and scar × {figure(m.tip.area_ratio)}
            {m.tip.pixels_across !== null && <span className="block">{figure(m.tip.pixels_across)} pixels across</span>}
            {m.tip.warnings.map((w) => (
              <span key={w.code} className="block max-w-60 font-sans text-sm text-bad">
                {w.message}
              </span>
            ))}
          </>
        )}
      </td>
    </tr>
  )
}
