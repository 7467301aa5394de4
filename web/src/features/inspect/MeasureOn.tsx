import { useMutation } from '@tanstack/react-query'
import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, ProblemError, type Schemas } from '../../lib/api'
import { n } from '../../lib/input'
import { photoFile } from '../../lib/viewing'

type Kind = Schemas['PhotoMeasure']['kind']
interface At {
  x: number
  y: number
}

const tools: { kind: Kind; label: string; how: string }[] = [
  { kind: 'scale', label: 'Known length', how: 'Click both ends of something whose length you know.' },
  { kind: 'length', label: 'Length', how: 'Click both ends of what you measure.' },
  {
    kind: 'edge',
    label: 'Edge',
    how: 'Click on the plain ground on one side of the edge, then on the other: the line crosses the edge at a right angle.',
  },
  {
    kind: 'period',
    label: 'Period of lines',
    how: 'Click before the first and after the last of several lines, square to them.',
  },
]

const zooms = [1, 2, 4, 8]

/** A photograph to measure on: two places by pointer, or by arrow keys and Enter. Places are in pixels of the original. */
export function MeasureOn({ p }: { p: Schemas['Beside'] }) {
  const [kind, setKind] = useState<Kind>(p.mm_per_px == null ? 'scale' : 'edge')
  const [zoom, setZoom] = useState(1)
  const [places, setPlaces] = useState<At[]>([])
  const [cross, setCross] = useState<At>({ x: p.width_px / 2, y: p.height_px / 2 })
  const [known, setKnown] = useState('')
  const [knownU, setKnownU] = useState('')
  const picture = useRef<HTMLDivElement>(null)
  const measure = useMutation({
    mutationFn: ([from, to]: [At, At]) =>
      answer(
        api.POST('/api/v1/photographs/{id}/measures', {
          params: { path: { id: p.id ?? '' } },
          body: {
            kind,
            from_x_px: from.x,
            from_y_px: from.y,
            to_x_px: to.x,
            to_y_px: to.y,
            known_mm: kind === 'scale' ? n(known) : null,
            known_u_mm: kind === 'scale' ? n(knownU) : null,
          },
        }),
      ),
    onSuccess: () => setPlaces([]),
  })
  const put = (at: At) => {
    measure.reset()
    const first = places.length === 1 ? places[0] : undefined
    setPlaces(first ? [first, at] : [at])
    if (first && kind !== 'scale') measure.mutate([first, at])
  }
  const point = (e: PointerEvent<HTMLDivElement>): At => {
    const box = e.currentTarget.getBoundingClientRect()
    return {
      x: ((e.clientX - box.left) / box.width) * p.width_px,
      y: ((e.clientY - box.top) / box.height) * p.height_px,
    }
  }
  const press = (e: KeyboardEvent<HTMLDivElement>) => {
    const step = (e.shiftKey ? 10 : 1) * Math.max(1, Math.round(p.width_px / 1000))
    const move: Record<string, [number, number]> = {
      ArrowLeft: [-step, 0],
      ArrowRight: [step, 0],
      ArrowUp: [0, -step],
      ArrowDown: [0, step],
    }
    const by = move[e.key]
    if (by) {
      setCross({
        x: Math.min(p.width_px, Math.max(0, cross.x + by[0])),
        y: Math.min(p.height_px, Math.max(0, cross.y + by[1])),
      })
    } else if (e.key === 'Enter' || e.key === ' ') put(cross)
    else if (e.key === 'Escape') setPlaces([])
    else return
    e.preventDefault()
  }
  const tool = tools.find((t) => t.kind === kind)!
  const stroke = p.width_px / 400 / zoom
  return (
    <section className="sheet grid gap-3" aria-labelledby="measure-on">
      <h2 id="measure-on">Measure on it</h2>
      <div className="flex flex-wrap items-end gap-3">
        <fieldset className="flex flex-wrap gap-2">
          <legend className="sr-only">What is measured</legend>
          {tools.map((t) => (
            <button
              key={t.kind}
              type="button"
              className={`button ${t.kind === kind ? 'button-main' : ''}`}
              aria-pressed={t.kind === kind}
              onClick={() => {
                setKind(t.kind)
                setPlaces([])
                measure.reset()
              }}
            >
              {t.label}
            </button>
          ))}
        </fieldset>
        <label className="text-sm font-semibold">
          Zoom
          <select className="input font-normal" value={zoom} onChange={(e) => setZoom(Number(e.target.value))}>
            {zooms.map((z) => (
              <option key={z} value={z}>
                {z} ×
              </option>
            ))}
          </select>
        </label>
      </div>
      <p className="text-sm text-soft">
        {tool.how} With the keyboard: arrows move the cross (Shift for ten), Enter sets a place, Esc begins again.
        {p.mm_per_px == null && kind !== 'scale' && ' Without a known length, sizes stand in pixels.'}
      </p>
      <div className="max-h-[34rem] overflow-auto border border-line bg-plate" tabIndex={-1}>
        <div
          ref={picture}
          role="application"
          aria-label={`Photograph ${p.code}: ${tool.label}`}
          aria-describedby="cross-at"
          tabIndex={0}
          className="relative cursor-crosshair"
          style={{ width: `calc(${zoom} * min(100%, 34rem * ${p.width_px / p.height_px}))` }}
          onPointerDown={(e) => {
            if (e.button !== 0) return
            const at = point(e)
            setCross(at)
            put(at)
          }}
          onKeyDown={press}
        >
          <img
            src={photoFile(p.id, zoom > 2 ? 'original' : 'large')}
            onError={(e) => {
              e.currentTarget.src = photoFile(p.id, 'large')
            }}
            alt=""
            draggable={false}
            width={p.width_px}
            height={p.height_px}
            className="block h-auto w-full select-none"
          />
          <svg
            viewBox={`0 0 ${p.width_px} ${p.height_px}`}
            className="pointer-events-none absolute inset-0 h-full w-full"
            aria-hidden="true"
          >
            {p.measures.map((m) => (
              <Drawn
                key={m.id}
                from={{ x: m.from_x_px, y: m.from_y_px }}
                to={{ x: m.to_x_px, y: m.to_y_px }}
                w={stroke}
              />
            ))}
            {places.length === 2 && <Drawn from={places[0]!} to={places[1]!} w={1.5 * stroke} />}
            {places.length === 1 && <Drawn from={places[0]!} to={cross} w={1.5 * stroke} />}
            <g stroke="#fff" strokeWidth={3 * stroke}>
              <path
                d={`M${cross.x - 14 * stroke} ${cross.y}h${28 * stroke}M${cross.x} ${cross.y - 14 * stroke}v${28 * stroke}`}
              />
            </g>
            <g stroke="#000" strokeWidth={stroke}>
              <path
                d={`M${cross.x - 14 * stroke} ${cross.y}h${28 * stroke}M${cross.x} ${cross.y - 14 * stroke}v${28 * stroke}`}
              />
            </g>
          </svg>
        </div>
      </div>
      <p id="cross-at" className="text-sm text-soft" aria-live="polite">
        {places.length === 0 && 'No place is set. '}
        {places.length === 1 && 'One place is set; set the other. '}
        {measure.isPending && 'Measuring…'}
        <span className="num">
          Cross at {Math.round(cross.x)}, {Math.round(cross.y)} of {p.width_px} × {p.height_px} pixels.
        </span>
      </p>
      {kind === 'scale' && (
        <form
          className="flex flex-wrap items-end gap-3"
          aria-label="The known length"
          onSubmit={(e) => {
            e.preventDefault()
            if (places.length === 2) measure.mutate([places[0]!, places[1]!])
          }}
        >
          <Known label="It is known to be" value={known} change={setKnown} />
          <Known label="give or take, one standard deviation" value={knownU} change={setKnownU} />
          <button className="button button-main" disabled={places.length < 2 || measure.isPending}>
            {places.length < 2 ? 'Set both ends first' : 'Keep this scale'}
          </button>
        </form>
      )}
      {measure.isError && (
        <Complaint>
          {measure.error instanceof ProblemError ? measure.error.message : `Not measured: ${measure.error.message}`}
        </Complaint>
      )}
    </section>
  )
}

function Known({ label, value, change }: { label: string; value: string; change: (v: string) => void }) {
  return (
    <label className="text-sm font-semibold">
      {label} <span className="num font-normal text-soft">mm</span>
      <input
        className="input num font-normal"
        inputMode="decimal"
        required
        value={value}
        onChange={(e) => change(e.target.value)}
      />
    </label>
  )
}

/** A line with a light border, so that it is seen on any ground. */
function Drawn({ from, to, w }: { from: At; to: At; w: number }) {
  const d = `M${from.x} ${from.y}L${to.x} ${to.y}`
  return (
    <>
      <path d={d} stroke="#fff" strokeWidth={3 * w} strokeLinecap="round" />
      <path d={d} stroke="#a34400" strokeWidth={1.4 * w} strokeLinecap="round" />
    </>
  )
}
