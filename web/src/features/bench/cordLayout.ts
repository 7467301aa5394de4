import type { Schemas } from '../../lib/api'

export type BeadRow = Schemas['Bead']
export type KnotRow = Schemas['Knot']

/** What stands at one place of a cord: a bead, a knot, or several that lie too close to tell apart. */
export interface Place {
  key: string
  x: number
  beads: BeadRow[]
  knots: KnotRow[]
}

/** Room that a bead takes on its cord, in px. */
export const beadRoom = 27

/** How far, in px, a bead may be pushed from its time before it joins its neighbour. */
const furthest = 30

/** Strings beads and knots in the order of time, up to last; those too close share a place. */
export function layCord(beads: BeadRow[], knots: KnotRow[], x: (ms: number) => number, last: number): Place[] {
  const string = [
    ...beads.map((bead) => ({ at: bead.started_ms, bead, knot: undefined })),
    ...knots.map((knot) => ({ at: knot.at_ms, bead: undefined, knot })),
  ].sort((a, b) => a.at - b.at)
  const places: Place[] = []
  for (const { at, bead, knot } of string) {
    const wanted = x(at)
    const before = places.at(-1)
    const free = before ? before.x + beadRoom : wanted
    if (before && free - wanted > furthest) {
      if (bead) before.beads.push(bead)
      if (knot) before.knots.push(knot)
      continue
    }
    places.push({
      key: bead?.run_id ?? knot?.id ?? '',
      x: Math.max(wanted, free),
      beads: bead ? [bead] : [],
      knots: knot ? [knot] : [],
    })
  }
  // What was pushed beyond the end moves back, and its neighbours with it.
  let limit = last
  for (const place of places.toReversed()) {
    if (place.x <= limit) break
    place.x = limit
    limit -= beadRoom
  }
  return places
}

const worse = ['open', 'whole', 'nicked', 'split', 'ring'] as const

/** What the worst of several beads looks like. */
export const worst = (beads: BeadRow[]) =>
  beads.map((b) => b.shape).sort((a, b) => worse.indexOf(b) - worse.indexOf(a))[0] ?? 'open'

export interface BeadFilter {
  piece: string
  resin: string
  shape: string
}

export const passes = (f: BeadFilter) => (b: BeadRow) =>
  (!f.piece || b.piece_ids.includes(f.piece)) &&
  (!f.resin || b.resin_id === f.resin) &&
  (!f.shape || b.shape === f.shape)

/** About how wide a letter of a knot's name is, in px, and how much air is between two names. */
const letter = 6.3
const air = 6

/** The places whose knots can be named without running into the name before or off the edge; the others tell on asking. */
export function nameable(places: Place[], nameOf: (p: Place) => string): Set<string> {
  const out = new Set<string>()
  let free = 0
  for (const p of places) {
    if (p.beads.length > 0 || p.knots.length === 0) continue
    const half = (nameOf(p).length * letter) / 2
    if (p.x - half < free) continue
    out.add(p.key)
    free = p.x + half + air
  }
  return out
}
