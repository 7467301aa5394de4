import { expect, test } from './clock'
import {
  beadRoom,
  layCord,
  nameable,
  passes,
  worst,
  type BeadRow,
  type KnotRow,
} from '../web/src/features/bench/cordLayout'
import { counted, duration, figure, grouped, micrometres, percent, reading } from '../web/src/lib/format'
import { nextCopy, nextSize } from '../web/src/features/inspect/advance'
import { fits, transform, whole, zoomed } from '../web/src/features/compare/sideBySide'
import shared from '../internal/say/testdata/cases.json' with { type: 'json' }
import { answered, commandID, newTurn, signatureOf } from '../web/src/lib/command'
import { seconds, spelled, understood } from '../web/src/lib/duration'
import { newID } from '../web/src/lib/id'
import { n, orNull, t } from '../web/src/lib/input'

// What the pages do to numbers and places by themselves, without a browser.
test.describe.configure({ mode: 'parallel' })

const bead = (at: number, more: Partial<BeadRow> = {}): BeadRow => ({
  run_id: `r${at}`,
  machine_id: 'm',
  resin_id: 'l',
  piece_ids: ['p'],
  printed: '1 × Turret',
  code: `R-${at}`,
  started_ms: at,
  ended_ms: null,
  shape: 'whole',
  whole: 1,
  copies: 1,
  ...more,
})
const knot = (at: number): KnotRow => ({ id: `k${at}`, at_ms: at, kinds: ['film'], note: '', changes: 0 })
const straight = (ms: number) => ms

test('beads far apart lie at their time; near ones are pushed on in order', () => {
  const places = layCord([bead(300), bead(100), bead(110)], [knot(112)], straight, 1000)
  expect(places.map((p) => p.key)).toEqual(['r100', 'r110', 'r300'])
  expect(places.map((p) => p.x)).toEqual([100, 100 + beadRoom, 300])
  expect(places[1]?.knots.map((k) => k.id)).toEqual(['k112'])
})

test('nothing is lost, however dense, and no two places overlap', () => {
  const beads = Array.from({ length: 500 }, (_, i) => bead(i * 3))
  const knots = Array.from({ length: 20 }, (_, i) => knot(i * 70))
  const places = layCord(beads, knots, straight, 1500)
  expect(places.flatMap((p) => p.beads)).toHaveLength(500)
  expect(places.flatMap((p) => p.knots)).toHaveLength(20)
  for (const [i, p] of places.entries()) {
    if (i > 0) expect(p.x - (places[i - 1]?.x ?? 0)).toBeGreaterThanOrEqual(beadRoom - 1e-9)
    expect(p.beads.length + p.knots.length).toBeGreaterThan(0)
  }
})

test('what was pushed beyond now moves back before it', () => {
  const places = layCord([bead(980), bead(990), bead(995)], [], straight, 990)
  expect(places.at(-1)?.x).toBeLessThanOrEqual(990)
  expect(places.flatMap((p) => p.beads)).toHaveLength(3)
})

test('several prints in one place show the worst of them', () => {
  const shapes = ['whole', 'ring', 'nicked', 'split', 'open'] as const
  expect(worst(shapes.map((shape, i) => bead(i, { shape })))).toBe('ring')
  expect(worst([bead(1, { shape: 'open' }), bead(2, { shape: 'whole' })])).toBe('whole')
})

test('knots are named where no name runs into another or off the edge', () => {
  const at = (x: number) => ({ key: `k${x}`, x, beads: [], knots: [knot(x)] })
  const names = (xs: number[], name = 'relevel') => [...nameable(xs.map(at), () => name)]
  expect(names([100, 200])).toEqual(['k100', 'k200'])
  expect(names([100, 120, 200])).toEqual(['k100', 'k200'])
  expect(names([5, 60])).toEqual(['k60'])
  expect(names([100, 150], 'upgrade, firmware and film')).toEqual(['k100'])
  expect([...nameable([{ key: 'b', x: 100, beads: [bead(1)], knots: [knot(1)] }], () => 'film')]).toEqual([])
})

test('a filter passes what it names', () => {
  const all = [bead(1), bead(2, { piece_ids: ['q'] }), bead(3, { resin_id: 'x' }), bead(4, { shape: 'ring' })]
  const passing = (f: Parameters<typeof passes>[0]) => all.filter(passes(f)).map((b) => b.started_ms)
  expect(passing({ piece: '', resin: '', shape: '' })).toEqual([1, 2, 3, 4])
  expect(passing({ piece: 'p', resin: 'l', shape: '' })).toEqual([1, 4])
  expect(passing({ piece: '', resin: '', shape: 'ring' })).toEqual([4])
})

test('numbers are typed as people type them', () => {
  for (const [typed, sent] of [
    ['12,03', 12.03],
    [' 12.5 ', 12.5],
    ['', null],
    ['-3', -3],
    ['twelve', 'twelve'],
    [undefined, null],
  ] as const)
    expect(n(typed), String(typed)).toBe(sent)
  expect([orNull('  '), orNull(' a '), orNull(undefined)]).toEqual([null, 'a', null])
  expect([t(null), t(0), t('x'), t(undefined)]).toEqual(['', '0', 'x', ''])
})

test('times are typed as people type them, and come back as they were', () => {
  for (const [typed, s] of [
    ['1h50', 6600],
    ['1 h 50', 6600],
    ['1:50', 6600],
    ['1:50:30', 6630],
    ['110 min', 6600],
    ['110', 6600],
    ['110m', 6600],
    ['95 s', 95],
    ['2,5', 150],
    ['3 min 20', 200],
    ['1d 2h', 93600],
    ['', null],
    ['soon', 'soon'],
    ['1:75', '1:75'],
    ['5 min 2 h', '5 min 2 h'],
    ['95 s 3', '95 s 3'],
  ] as const)
    expect(seconds(typed), typed).toBe(s)
  for (const s of [0, 1, 59.999, 60, 61, 3600, 3601.5, 6600, 7384.25, 90000])
    expect(seconds(spelled(s)), String(s)).toBe(s)
  expect([spelled(null), spelled(0), spelled(45), spelled(600), spelled(6600), spelled(3605)]).toEqual([
    '',
    '0 s',
    '45 s',
    '10 min',
    '1 h 50 min',
    '1 h 0 min 5 s',
  ])
  expect([understood('1h50'), understood('soon')]).toEqual(['reads as 1 h 50 min', 'write it as 1h50, 3 min or 180 s'])
})

test('numbers are shown with as many figures as they carry', () => {
  expect(figure(31.0049)).toBe('31')
  expect(figure(0.30000000000000004)).toBe('0.3')
  expect(figure(1e-12)).toBe('0')
  expect(figure(-2.5)).toBe('−2.5')
  expect(figure(null)).toBe('–')
  expect(figure(12345678, 3)).toBe('12 300 000')
  expect([figure(0.0000123, 2), figure(-0.00001234), figure(999999)]).toEqual(['0.000012', '−0.0000123', '1 000 000'])
  expect(grouped(1234567)).toBe('1 234 567')
  expect(percent(0.0123)).toBe('1.23 %')
  expect([micrometres(0.012), micrometres(-0.0004), micrometres(-0.02)]).toEqual(['+12 µm', '0 µm', '−20 µm'])
  expect([duration(null), duration(12.34), duration(3599), duration(3725)]).toEqual([
    '–',
    '12.3 s',
    '1 h 00 min',
    '1 h 02 min',
  ])
  expect([reading(12), reading(12.034), reading(undefined)]).toEqual(['12.00', '12.034', '–'])
})

test('numbers, times and counts read as the program says them', () => {
  for (const [v, digits, text] of shared.figure) expect(figure(v as number, digits as number)).toBe(text)
  for (const [v, text] of shared.duration) expect(duration(v as number)).toBe(text)
  for (const [v, text] of shared.percent) expect(percent(v as number)).toBe(text)
  for (const [v, text] of shared.micrometres) expect(micrometres(v as number)).toBe(text)
  for (const [n, one, many, text] of shared.counted)
    expect(counted(n as number, one as string, many as string)).toBe(text)
})

test('sizes are read in rounds or in a row, then the next copy comes into hand', () => {
  const once = { times: 1, inARow: false }
  const twice = { times: 2, inARow: false }
  expect(nextSize([1, 0, 0], 0, once)).toBe(1)
  expect(nextSize([1, 1, 1], 2, once)).toBeUndefined()
  // A size that was left out comes again before the copy is done.
  expect(nextSize([1, 0, 1], 2, once)).toBe(1)
  expect(nextSize([1, 1, 1], 2, twice)).toBe(0)
  expect(nextSize([1, 0, 0], 0, { times: 2, inARow: true })).toBe(0)
  expect(nextSize([2, 0, 0], 0, { times: 2, inARow: true })).toBe(1)
  expect(nextSize([2, 2, 2], 2, { times: 2, inARow: true })).toBeUndefined()
  expect(nextSize([5, 5, 5], 2, { times: 0, inARow: false })).toBe(0)
  expect(nextSize([5, 5, 5], 2, { times: 0, inARow: true })).toBe(2)
  const copies = [
    { id: 'a', read: [1, 1] },
    { id: 'b', read: [1, 1] },
    { id: 'c', read: [1, 0] },
  ]
  expect(nextCopy(copies, 'a', once)).toBe('c')
  expect(nextCopy(copies, 'c', once)).toBeUndefined()
  expect(nextCopy(copies, 'c', twice)).toBe('a')
  expect(nextCopy(copies, 'c', { times: 0, inARow: false })).toBeUndefined()
})

test('photographs side by side have one scale, and a place stays where it is when they are enlarged', () => {
  const pane = { width: 400, height: 300 }
  const near = { copy_width_px: 1000, copy_height_px: 1000, copy_mm_per_px: 0.01 }
  const far = { copy_width_px: 1000, copy_height_px: 500, copy_mm_per_px: 0.04 }
  const [a, b] = fits([near, far], pane, true) as [number, number]
  // Pixels of the screen a millimetre, alike, and the larger view just fits.
  expect(a / 0.01).toBeCloseTo(b / 0.04, 9)
  expect(b).toBeCloseTo(0.4, 9)
  expect(fits([near, far], pane, false)).toEqual([0.3, 0.4])
  expect(fits([near, { ...far, copy_mm_per_px: null }], pane, true)).toEqual([0.3, 0.4])
  const at = { x: 100, y: 250 }
  const placeOf = (view: typeof whole) => {
    const [x, y, k] = transform(near, a, pane, view)
      .match(/-?[\d.]+/g)!
      .map(Number) as [number, number, number]
    return { x: (at.x - x) / k, y: (at.y - y) / k }
  }
  const before = placeOf(whole)
  const after = placeOf(zoomed(whole, 3, at, pane))
  expect(after.x).toBeCloseTo(before.x, 1)
  expect(after.y).toBeCloseTo(before.y, 1)
  expect(zoomed(whole, 0.1, at, pane).zoom).toBe(1)
})

test('the same words for another turn are another command, and pressed twice in one turn the same', async () => {
  const post = (headers: Record<string, string>) =>
    signatureOf(
      new Request('http://127.0.0.1/api/v1/gauge-studies/x/readings', { method: 'POST', body: '{}', headers }),
    )
  const turn = newTurn()
  expect(await post(turn)).toBe(await post(turn))
  expect(await post(turn)).not.toBe(await post(newTurn()))
  expect(await post({})).toBe(await post({}))
})

test('a command pressed twice is one, until another came between', () => {
  const first = commandID('end it')
  answered('end it')
  expect(commandID('end it')).toBe(first)
  answered('end it')
  commandID('take that back')
  answered('take that back')
  const again = commandID('end it')
  expect(again).not.toBe(first)
  // One that waits for its answer keeps its id, whatever else is said meanwhile.
  commandID('note it')
  expect(commandID('end it')).toBe(again)
})

test('ids are of 128 bits, and no two are the same', () => {
  const ids = new Set(Array.from({ length: 2000 }, newID))
  expect(ids.size).toBe(2000)
  for (const id of ids) expect(id).toMatch(/^[0-9a-f]{32}$/)
})
