import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { lazy, Suspense, useDeferredValue, useState } from 'react'
import { How } from '../../components/How'
import { Figure } from '../../components/Figure'
import { Complaint } from '../../components/Page'
import { Prediction } from '../../components/Prediction'
import { answer, api, type Schemas } from '../../lib/api'
import { figure, grouped } from '../../lib/format'
import { n } from '../../lib/input'
import { useMachines } from '../../lib/queries'

const SolidView = lazy(() => import('./SolidView'))

/** The piece by its layers: a slider, the outline with the machine's grid over it, the solid cut open there. */
export function SlicePanel({ piece }: { piece: Schemas['Piece'] }) {
  const machines = useMachines()
  const [layerUM, setLayerUM] = useState('50')
  const [layer, setLayer] = useState(0)
  const [machineID, setMachine] = useState('')
  const [across, setAcross] = useState(0)
  const [solid, setSolid] = useState(false)
  const [predict, setPredict] = useState(false)
  const shown = useDeferredValue(layer)
  const query = { layer_um: n(layerUM), layer: shown }
  const slice = useQuery({
    queryKey: ['slice', piece.id, query],
    enabled: typeof query.layer_um === 'number',
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => answer(api.GET('/api/v1/pieces/{id}/slice', { params: { path: { id: piece.id ?? '' }, query } })),
  })
  const machine = machines.data?.find((m) => m.machine.id === machineID) ?? machines.data?.[0]
  const s = slice.data
  const picture = (
    <img
      className="w-full max-w-96"
      src={`/api/v1/pieces/${piece.id}/picture.png`}
      alt={`${piece.name} as it stands on the plate`}
    />
  )
  return (
    <section className="sheet grid gap-3" aria-label="Layer by layer">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Layer by layer</h2>
        <How figure="detail" of="Layer by layer" />
      </div>
      <div className="grid items-end gap-3 sm:grid-cols-[8rem_minmax(0,1fr)_10rem_12rem]">
        <label className="text-sm font-semibold">
          Layer height <span className="num font-normal text-soft">µm</span>
          <input
            className="input num font-normal"
            inputMode="decimal"
            value={layerUM}
            onChange={(e) => setLayerUM(e.target.value)}
          />
        </label>
        <label className="text-sm font-semibold">
          Layer{' '}
          <span className="num font-normal text-soft">
            {grouped(Math.min(layer, (s?.layers ?? 1) - 1) + 1)} of {grouped(s?.layers ?? 0)}
            {s && `, cut at ${figure(s.layer_mm, 4)} mm`}
          </span>
          <input
            type="range"
            className="mt-1 block min-h-(--tap) w-full accent-(--act)"
            min={0}
            max={Math.max(0, (s?.layers ?? 1) - 1)}
            value={layer}
            onChange={(e) => setLayer(Number(e.target.value))}
          />
        </label>
        <label className="text-sm font-semibold">
          Seen
          <select className="input font-normal" value={across} onChange={(e) => setAcross(Number(e.target.value))}>
            <option value={0}>whole</option>
            <option value={10}>10 mm across</option>
            <option value={3}>3 mm across</option>
            <option value={1}>1 mm across</option>
          </select>
        </label>
        <label className="text-sm font-semibold">
          With the grid of
          <select
            className="input font-normal"
            value={machine?.machine.id ?? ''}
            onChange={(e) => setMachine(e.target.value)}
          >
            {(machines.data ?? []).map((m) => (
              <option key={m.machine.id} value={m.machine.id}>
                {m.machine.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {slice.isError && <Complaint>{slice.error.message}</Complaint>}
      <div className="grid items-start gap-4 md:grid-cols-2">
        {s && <Outline s={s} machine={machine} across={across} />}
        <div className="grid gap-2">
          {solid ? (
            <Suspense fallback={<p className="text-soft">Loading the 3D view…</p>}>
              <SolidView
                pieceID={piece.id ?? ''}
                name={piece.name}
                cutMM={s?.layer_mm && layer > 0 ? s.layer_mm : piece.size_z_mm + 1}
                fallback={picture}
              />
            </Suspense>
          ) : (
            picture
          )}
          <div className="flex flex-wrap gap-2">
            <button type="button" className="button" aria-pressed={solid} onClick={() => setSolid(!solid)}>
              {solid ? 'Still view' : 'Turn it in 3D'}
            </button>
            <button type="button" className="button" aria-pressed={predict} onClick={() => setPredict(!predict)}>
              {predict ? 'Without the prediction' : 'Predict how this layer is drawn'}
            </button>
          </div>
        </div>
      </div>
      {predict && s && (
        <Prediction
          machines={(machines.data ?? []).map((m) => ({ id: m.machine.id ?? '', name: m.machine.name }))}
          slice={{
            ...focus(s),
            shape: 'slice',
            piece_id: piece.id,
            layer_um: query.layer_um,
            layer: shown,
            scale_pct: 100,
            width_mm: across || 3,
          }}
        />
      )}
    </section>
  )
}

/** What is looked at when zoomed in: round the first corner of the first outline. */
function focus(s: Schemas['Slice']) {
  const [x, y] = s.loops[0]?.[0] ?? [s.min_mm[0]! + s.size_mm[0]! / 2, s.min_mm[1]! + s.size_mm[1]! / 2]
  return { view_x_mm: (x ?? 0) - s.min_mm[0]!, view_y_mm: (y ?? 0) - s.min_mm[1]! }
}

function Outline({ s, machine, across }: { s: Schemas['Slice']; machine?: Schemas['MachineCard']; across: number }) {
  const [w, d] = [s.size_mm[0] ?? 1, s.size_mm[1] ?? 1]
  const at = focus(s)
  const edge = Math.max(w, d) * 0.04
  const box = across
    ? { x: at.view_x_mm - across / 2, y: d - at.view_y_mm - across / 2, w: across, h: across }
    : { x: -edge, y: -edge, w: w + 2 * edge, h: d + 2 * edge }
  const path = s.loops
    .map((l) => `M${l.map(([x, y]) => `${(x ?? 0) - s.min_mm[0]!} ${d - ((y ?? 0) - s.min_mm[1]!)}`).join('L')}Z`)
    .join('')
  const pitch = machine?.pitch ? machine.pitch.pitch_um / 1000 : undefined
  const spot = machine && !machine.pitch ? (machine.machine.spot_um ?? 0) / 1000 : 0
  const lines = pitch && box.w / pitch < 160
  return (
    <div className="grid gap-2">
      <svg
        viewBox={`${box.x} ${box.y} ${box.w} ${box.h}`}
        className="max-h-96 w-full border border-line bg-plate"
        role="img"
        aria-label={`Outline of layer ${s.layer + 1}`}
      >
        {lines && (
          <defs>
            <pattern id="pixels" width={pitch} height={pitch} patternUnits="userSpaceOnUse">
              <path d={`M0 0H${pitch}M0 0V${pitch}`} className="stroke-soft" strokeWidth={box.w / 900} fill="none" />
            </pattern>
          </defs>
        )}
        <path d={path} fillRule="nonzero" className="fill-act/35 stroke-act" strokeWidth={box.w / 320} />
        {lines && <rect x={box.x} y={box.y} width={box.w} height={box.h} fill="url(#pixels)" />}
        {spot > 0 && across > 0 && (
          <circle
            cx={box.x + spot}
            cy={box.y + spot}
            r={spot / 2}
            className="fill-ink/40 stroke-ink"
            strokeWidth={box.w / 500}
          />
        )}
      </svg>
      <p className="text-sm text-soft">
        {pitch
          ? lines
            ? `Squares are the pixels of ${machine?.machine.name}, ${figure(pitch * 1000)} µm, to scale.`
            : `Zoom in to see the pixels of ${machine?.machine.name} (${figure(pitch * 1000)} µm).`
          : spot > 0 &&
            `The disc is the spot of ${machine?.machine.name}, ${figure(spot * 1000)} µm, to scale when zoomed in.`}
      </p>
      <dl className="grid grid-cols-2 gap-3">
        <Figure label="Solid area" value={figure(s.facts.area_mm2, 4)} unit="mm²" source="computed" />
        <Figure label="Outline" value={figure(s.facts.perimeter_mm, 4)} unit="mm" source="computed" />
      </dl>
    </div>
  )
}
