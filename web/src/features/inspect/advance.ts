/** How a copy is read: each size once or several times in rounds or in a row, then the next copy; or on and on. */
export interface Way {
  /** How often each size of a copy is read before the next is taken; 0 goes on and on. */
  times: number
  /** Whether a size is read as often as it is to be before the next one is. */
  inARow: boolean
}

export const usualWay: Way = { times: 1, inARow: false }

/**
 * Which size is read next after one that was just kept, by how often each was read: in rounds the one that was read
 * least, from here on and round; in a row the same until it was read as often as it is to be. Undefined where all were.
 */
export function nextSize(read: number[], at: number, way: Way): number | undefined {
  const count = read.length
  if (way.times === 0) return way.inARow ? at : (at + 1) % count
  if (way.inARow && read[at]! < way.times) return at
  const least = Math.min(...read)
  if (least >= way.times) return undefined
  for (let step = 1; step <= count; step++) {
    const i = (at + step) % count
    if (way.inARow ? read[i]! < way.times : read[i] === least) return i
  }
  return undefined
}

/** The copy that is next after one: the first from there on and round that still has a size to be read; undefined where none has. */
export function nextCopy(copies: { id: string; read: number[] }[], after: string, way: Way): string | undefined {
  if (way.times === 0) return undefined
  const at = copies.findIndex((c) => c.id === after)
  for (let step = 1; step < copies.length; step++) {
    const copy = copies[(at + step) % copies.length]!
    if (copy.read.some((n) => n < way.times)) return copy.id
  }
  return undefined
}

const key = 'reading-way'

export const keptWay = (): Way => {
  try {
    return { ...usualWay, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Way>) }
  } catch {
    return usualWay
  }
}

export const keepWay = (way: Way) => localStorage.setItem(key, JSON.stringify(way))
