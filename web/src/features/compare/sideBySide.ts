import type { Schemas } from '../../lib/api'

/** How the photographs are looked at together: moved by so many pixels of the screen at zoom 1, and so many times enlarged. */
export interface View {
  x: number
  y: number
  zoom: number
}

export const whole: View = { x: 0, y: 0, zoom: 1 }

export interface Pane {
  width: number
  height: number
}

type Shown = Pick<Schemas['Beside'], 'copy_width_px' | 'copy_height_px' | 'copy_mm_per_px'>

/** How much each copy is enlarged so that all of them fit: to one scale where each has one, else each by itself. */
export function fits(photographs: Shown[], pane: Pane, matched: boolean): number[] {
  const alone = photographs.map((p) => Math.min(pane.width / p.copy_width_px, pane.height / p.copy_height_px))
  if (!matched || photographs.some((p) => p.copy_mm_per_px == null)) return alone
  const mmPerPX = Math.max(...photographs.map((p, i) => p.copy_mm_per_px! / alone[i]!))
  return photographs.map((p) => p.copy_mm_per_px! / mmPerPX)
}

/** The transform of a copy whose upper left corner lies at that of its pane. */
export function transform(p: Shown, fit: number, pane: Pane, view: View): string {
  const k = fit * view.zoom
  const x = pane.width / 2 - (p.copy_width_px * k) / 2 + view.x * view.zoom
  const y = pane.height / 2 - (p.copy_height_px * k) / 2 + view.y * view.zoom
  return `translate(${x.toFixed(2)}px, ${y.toFixed(2)}px) scale(${k.toFixed(5)})`
}

const nearest = 1
const farthest = 24

/** The view enlarged about a place of the pane, which stays where it is. */
export function zoomed(view: View, by: number, at: { x: number; y: number }, pane: Pane): View {
  const zoom = Math.min(farthest, Math.max(nearest, view.zoom * by))
  const shift = (middle: number, place: number, moved: number) =>
    (place - middle) / zoom - (place - middle) / view.zoom + moved
  return { zoom, x: shift(pane.width / 2, at.x, view.x), y: shift(pane.height / 2, at.y, view.y) }
}
