import { useCallback, useEffect, useLayoutEffect, useRef, useState, type PointerEvent } from 'react'
import { Link } from 'react-router'
import type { Schemas } from '../../lib/api'
import { photoFile } from '../../lib/viewing'
import { fits, transform, whole, zoomed, type Pane, type View } from './sideBySide'

export type Mode = 'beside' | 'wipe' | 'blink' | 'loupe'
type Photo = Schemas['Beside']

interface Props {
  photographs: Photo[]
  names: string[]
  mode: Mode
  matched: boolean
  bright: number
  drop: (at: number) => void
}

/** How much a loupe enlarges what lies under it. */
const loupe = 4
const loupeRadius = 90

/** The photographs, moved by drag or arrow keys and enlarged by wheel or plus and minus, all of them alike. */
export function Panes({ photographs, names, mode, matched, bright, drop }: Props) {
  const stacked = mode === 'wipe' || mode === 'blink'
  const box = useRef<HTMLDivElement>(null)
  const pictures = useRef<(HTMLImageElement | null)[]>([])
  const loupes = useRef<(HTMLDivElement | null)[]>([])
  const view = useRef<View>(whole)
  const frame = useRef(0)
  const [pane, setPane] = useState<Pane>()
  const [wipe, setWipe] = useState(50)
  const [shown, setShown] = useState(0)
  const [blinking, setBlinking] = useState(false)

  const draw = useCallback(() => {
    if (!pane) return
    const fit = fits(photographs, pane, matched)
    photographs.forEach((p, i) => {
      const img = pictures.current[i]
      if (!img) return
      img.style.transform = transform(p, fit[i]!, pane, view.current)
      // Shown whole, a thumb on a picture moves the page.
      const area = img.closest<HTMLElement>('[data-pane]')
      if (area) area.style.touchAction = view.current.zoom > 1 ? 'none' : 'pan-y'
    })
  }, [photographs, pane, matched])
  /** Draws before the next frame, however often the pointer moves until then. */
  const move = useCallback(
    (to: View) => {
      view.current = to
      if (frame.current) return
      frame.current = requestAnimationFrame(() => {
        frame.current = 0
        draw()
      })
    },
    [draw],
  )
  useLayoutEffect(() => {
    const first = box.current?.querySelector<HTMLElement>('[data-pane]')
    if (!first) return
    const measure = () => setPane({ width: first.clientWidth, height: first.clientHeight })
    measure()
    const watch = new ResizeObserver(measure)
    watch.observe(first)
    return () => watch.disconnect()
  }, [mode])
  useLayoutEffect(draw, [draw, mode])
  useEffect(() => {
    if (!blinking) return
    const turn = setInterval(() => setShown((s) => (s + 1) % photographs.length), 700)
    return () => clearInterval(turn)
  }, [blinking, photographs.length])
  useEffect(() => {
    const area = box.current
    const wheel = (e: WheelEvent) => {
      const over = (e.target as Element).closest('[data-pane]')
      if (!over || !pane || !(e.ctrlKey || e.shiftKey)) return
      e.preventDefault()
      const at = over.getBoundingClientRect()
      const by = Math.exp(-(e.deltaY || e.deltaX) / 400)
      move(zoomed(view.current, by, { x: e.clientX - at.left, y: e.clientY - at.top }, pane))
    }
    area?.addEventListener('wheel', wheel, { passive: false })
    return () => area?.removeEventListener('wheel', wheel)
  }, [move, pane])

  const drag = (e: PointerEvent<HTMLDivElement>) => {
    if (mode === 'loupe') look(e)
    if (e.buttons !== 1 || e.type !== 'pointermove') return
    const v = view.current
    move({ ...v, x: v.x + e.movementX / v.zoom, y: v.y + e.movementY / v.zoom })
  }
  /** Puts the loupe of every pane over the place that the pointer is over in its own. */
  const look = (e: PointerEvent<HTMLDivElement>) => {
    if (!pane) return
    const at = e.currentTarget.getBoundingClientRect()
    placeLoupes({ x: e.clientX - at.left, y: e.clientY - at.top })
  }
  const placeLoupes = (place: { x: number; y: number }) => {
    if (!pane) return
    const fit = fits(photographs, pane, matched)
    photographs.forEach((p, i) => {
      const glass = loupes.current[i]
      if (!glass) return
      const k = fit[i]! * view.current.zoom
      const left = pane.width / 2 - (p.copy_width_px * k) / 2 + view.current.x * view.current.zoom
      const top = pane.height / 2 - (p.copy_height_px * k) / 2 + view.current.y * view.current.zoom
      glass.style.transform = `translate(${place.x - loupeRadius}px, ${place.y - loupeRadius}px)`
      glass.style.backgroundSize = `${p.copy_width_px * k * loupe}px ${p.copy_height_px * k * loupe}px`
      glass.style.backgroundPosition = `${loupeRadius - (place.x - left) * loupe}px ${loupeRadius - (place.y - top) * loupe}px`
      glass.style.visibility = 'visible'
    })
  }
  const enlarge = (by: number) => {
    if (pane) move(zoomed(view.current, by, { x: pane.width / 2, y: pane.height / 2 }, pane))
  }
  const press = (e: React.KeyboardEvent) => {
    if (!pane) return
    const v = view.current
    const middle = { x: pane.width / 2, y: pane.height / 2 }
    const step = 40 / v.zoom
    const to: Record<string, View> = {
      ArrowLeft: { ...v, x: v.x + step },
      ArrowRight: { ...v, x: v.x - step },
      ArrowUp: { ...v, y: v.y + step },
      ArrowDown: { ...v, y: v.y - step },
      '+': zoomed(v, 1.25, middle, pane),
      '=': zoomed(v, 1.25, middle, pane),
      '-': zoomed(v, 0.8, middle, pane),
      '0': whole,
    }
    const next = to[e.key]
    if (next) {
      move(next)
      if (mode === 'loupe') placeLoupes(middle)
    } else if (e.key === ' ' && mode === 'blink') setShown((shown + 1) % photographs.length)
    else return
    e.preventDefault()
  }
  const pictureOf = (p: Photo, i: number) => (
    <img
      ref={(el) => {
        pictures.current[i] = el
      }}
      src={photoFile(p.id, 'large')}
      alt={`${names[i]}, ${p.code}`}
      draggable={false}
      width={p.copy_width_px}
      height={p.copy_height_px}
      className="absolute left-0 top-0 max-w-none origin-top-left select-none will-change-transform"
    />
  )
  const columns =
    photographs.length < 2
      ? ''
      : photographs.length === 2 || photographs.length === 4
        ? 'sm:grid-cols-2'
        : 'sm:grid-cols-2 lg:grid-cols-3'
  return (
    <div
      ref={box}
      role="group"
      aria-label="The photographs: arrows move them, plus and minus enlarge them, 0 shows them whole"
      tabIndex={0}
      onKeyDown={press}
      className={`grid gap-3 ${stacked ? '' : columns}`}
    >
      <div className="no-print col-span-full flex flex-wrap items-center gap-2">
        <button className="button" aria-label="Enlarge all" onClick={() => enlarge(1.5)}>
          +
        </button>
        <button className="button" aria-label="Reduce all" onClick={() => enlarge(1 / 1.5)}>
          −
        </button>
        <button className="button" onClick={() => move(whole)}>
          Show whole
        </button>
        <span className="text-sm text-soft">
          Drag to move all of them; Ctrl and the wheel, or + and −, enlarge them.
        </span>
      </div>
      {stacked ? (
        <figure className="min-w-0">
          <div
            data-pane
            className="relative h-[32rem] overflow-hidden border border-line bg-plate"
            style={{ filter: bright === 1 ? undefined : `brightness(${bright})` }}
            onPointerMove={drag}
            onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
          >
            {(mode === 'wipe' ? photographs.slice(0, 2) : photographs).map((p, i) => (
              <div
                key={p.id}
                className="absolute inset-0"
                style={
                  mode === 'wipe'
                    ? { clipPath: i === 1 ? `inset(0 0 0 ${wipe}%)` : undefined }
                    : { visibility: i === shown ? 'visible' : 'hidden' }
                }
              >
                {pictureOf(p, i)}
              </div>
            ))}
            {mode === 'wipe' && (
              <div className="absolute inset-y-0 w-0.5 bg-act" style={{ left: `${wipe}%` }} aria-hidden="true" />
            )}
          </div>
          {mode === 'wipe' ? (
            <figcaption className="grid gap-1">
              <label>
                <span className="font-semibold">
                  Left {names[0]}, right {names[1]}
                </span>
                <input
                  type="range"
                  className="block min-h-(--tap) w-full accent-(--act)"
                  aria-label="Where the wipe stands, in %"
                  min={0}
                  max={100}
                  value={wipe}
                  onChange={(e) => setWipe(Number(e.target.value))}
                />
              </label>
            </figcaption>
          ) : (
            <figcaption className="flex flex-wrap items-center gap-2">
              {photographs.map((p, i) => (
                <button
                  key={p.id}
                  className={`button ${i === shown ? 'button-main' : ''}`}
                  aria-pressed={i === shown}
                  onClick={() => setShown(i)}
                >
                  {names[i]}
                </button>
              ))}
              <button className="button" aria-pressed={blinking} onClick={() => setBlinking(!blinking)}>
                {blinking ? 'Stop blinking' : 'Blink by itself'}
              </button>
              <span className="text-sm text-soft">Space shows the next.</span>
            </figcaption>
          )}
        </figure>
      ) : (
        photographs.map((p, i) => (
          <figure key={p.id} className="min-w-0">
            <div
              data-pane
              className={`relative overflow-hidden border border-line bg-plate ${photographs.length < 3 ? 'h-[28rem]' : 'h-80'} ${mode === 'loupe' ? 'cursor-none' : 'cursor-grab'}`}
              style={{ filter: bright === 1 ? undefined : `brightness(${bright})` }}
              onPointerMove={drag}
              onPointerDown={(e) => {
                e.currentTarget.setPointerCapture(e.pointerId)
                drag(e)
              }}
            >
              {pictureOf(p, i)}
              {mode === 'loupe' && (
                <div
                  ref={(el) => {
                    loupes.current[i] = el
                  }}
                  aria-hidden="true"
                  className="invisible absolute left-0 top-0 rounded-full border-2 border-act bg-no-repeat"
                  style={{
                    width: 2 * loupeRadius,
                    height: 2 * loupeRadius,
                    backgroundImage: `url(${photoFile(p.id, 'large')})`,
                  }}
                />
              )}
            </div>
            <Caption p={p} name={names[i] ?? ''} drop={photographs.length > 1 ? () => drop(i) : undefined} />
          </figure>
        ))
      )}
    </div>
  )
}

/** What tells a photograph from the others. */
function Caption({ p, name, drop }: { p: Photo; name: string; drop?: () => void }) {
  return (
    <figcaption className="text-sm">
      <span className="mt-1 flex flex-wrap items-center gap-x-3">
        <strong className="text-base">{name}</strong>
        <Link to={`/photographs/${p.id}`}>{p.code}</Link>
        {drop && (
          <button className="button no-print ml-auto" aria-label={`Leave ${p.code} out`} onClick={drop}>
            Leave out
          </button>
        )}
      </span>
      {p.differs.map((f) => (
        <span key={f.name} className="block">
          <span className="text-soft">{f.name}:</span> {f.value}
        </span>
      ))}
      {p.blurred && <span className="block font-semibold text-bad">Blurred</span>}
      {p.taken_back_ms != null && <span className="block font-semibold text-bad">Taken back: {p.taken_back_why}</span>}
    </figcaption>
  )
}
