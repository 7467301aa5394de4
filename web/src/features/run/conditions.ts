import type { Schemas } from '../../lib/api'
import { localInput } from '../../lib/format'
import { seconds, spelled } from '../../lib/duration'
import { n, t } from '../../lib/input'

/**
 * What is seen and measured of a print, each answered: a value, or "not known". What follows from the machine's knots
 * and prints is computed, and shown beside.
 */
export interface Condition {
  key: keyof Schemas['Run'] & string
  label: string
  unit?: string
  kind: 'number' | 'time' | 'text' | 'yesno' | 'surface'
  when: 'before' | 'during' | 'after'
}

export const conditions: Condition[] = [
  { key: 'film_clouded', label: 'Film seen clouded', kind: 'yesno', when: 'before' },
  { key: 'level_off', label: 'Level seen off', kind: 'yesno', when: 'before' },
  { key: 'orientation', label: 'Orientation', kind: 'text', when: 'before' },
  { key: 'supports', label: 'Supports', kind: 'text', when: 'before' },
  { key: 'software', label: 'Software', kind: 'text', when: 'before' },
  { key: 'software_estimate_s', label: "Software's own estimate", kind: 'time', when: 'before' },
  { key: 'room_temp_c', label: 'Room temperature', unit: '°C', kind: 'number', when: 'during' },
  { key: 'humidity_pct', label: 'Humidity', unit: '%', kind: 'number', when: 'during' },
  { key: 'resin_temp_c', label: 'Resin temperature', unit: '°C', kind: 'number', when: 'during' },
  { key: 'heater_on', label: 'Heater on', kind: 'yesno', when: 'during' },
  { key: 'resin_used_g', label: 'Resin used, by weight', unit: 'g', kind: 'number', when: 'after' },
  { key: 'attended_min', label: 'Your time at it', unit: 'min', kind: 'number', when: 'after' },
  { key: 'wash_s', label: 'Wash', kind: 'time', when: 'after' },
  { key: 'cure_s', label: 'Cure', kind: 'time', when: 'after' },
  { key: 'surface', label: 'Surface when judged', kind: 'surface', when: 'after' },
]

export type RunValues = Record<string, string | boolean> & { pieces?: PieceLine[] }

/** Copies of a piece at a scale, as typed. */
export interface PieceLine {
  piece_id: string
  copies: string
  scale_pct: string
}

export const unknownKey = (key: string) => `${key}__unknown`

/**
 * A draft leaves open what nobody said; a recorded run shows "not known" where it was answered so, and so does what its
 * machine never tells.
 */
export function valuesOf(
  run: Schemas['Run'],
  pieces: Schemas['Portion'][],
  recorded: boolean,
  never: string[] = [],
): RunValues {
  const out: RunValues = {
    machine_id: run.machine_id,
    resin_id: run.resin_id ?? '',
    bottle_id: run.bottle_id ?? '',
    profile_id: run.profile_id ?? '',
    plate_id: run.plate_id ?? '',
    started: localInput(run.started_ms),
    ended: run.ended_ms ? localInput(run.ended_ms) : '',
    ended_how: run.ended_how || 'finished',
    stopped_layer: t(run.stopped_layer),
    paused: run.paused_s ? spelled(run.paused_s) : '',
    notes: run.notes ?? '',
    observed: run.observed ?? '',
  }
  out.pieces = pieces.map((p) => ({ piece_id: p.piece_id, copies: t(p.copies), scale_pct: t(p.scale_pct ?? 100) }))
  if (out.pieces.length === 0) out.pieces = [{ piece_id: '', copies: '1', scale_pct: '100' }]
  for (const c of conditions) {
    const v = run[c.key] as number | string | boolean | null | undefined
    out[c.key] = typeof v === 'boolean' ? (v ? 'yes' : 'no') : c.kind === 'time' ? spelled(v as number | null) : t(v)
    out[unknownKey(c.key)] = (v === null || v === undefined) && (recorded || never.includes(c.key))
  }
  return out
}

/** Conditions left blank without saying that they are not known. */
export const blanks = (v: RunValues) =>
  conditions.filter((c) => !v[unknownKey(c.key)] && String(v[c.key] ?? '').trim() === '')

const text = (v: RunValues, key: string) => (typeof v[key] === 'string' ? (v[key] as string) : '')
const instant = (typed: string) => (typed ? new Date(typed).getTime() : null)

/** What may be amended of a print, as it is typed now. */
function amendable(v: RunValues): Record<string, unknown> {
  const out: Record<string, unknown> = {
    profile_id: text(v, 'profile_id'),
    bottle_id: text(v, 'bottle_id') || null,
    started_ms: instant(text(v, 'started')) ?? 0,
    ended_ms: instant(text(v, 'ended')),
    ended_how: text(v, 'ended') ? text(v, 'ended_how') : '',
    stopped_layer: text(v, 'ended_how') === 'stopped' ? n(text(v, 'stopped_layer')) : null,
    paused_s: seconds(text(v, 'paused')) ?? 0,
    notes: text(v, 'notes'),
    observed: text(v, 'observed'),
  }
  for (const c of conditions) {
    const raw = v[unknownKey(c.key)] ? '' : text(v, c.key).trim()
    const read = { number: n, time: seconds, yesno: (x: string) => x === 'yes', text: String, surface: String }[c.kind]
    out[c.key] = raw === '' ? null : read(raw)
  }
  return out
}

/** A print that is put on record. */
export function recordingOf(v: RunValues, confirmed: boolean): Schemas['Recording'] {
  return {
    ...amendable(v),
    machine_id: text(v, 'machine_id'),
    resin_id: text(v, 'resin_id'),
    plate_id: text(v, 'plate_id') || null,
    pieces: text(v, 'plate_id')
      ? []
      : (v.pieces ?? []).map((p) => ({ piece_id: p.piece_id, copies: n(p.copies), scale_pct: n(p.scale_pct) })),
    confirmed,
  } as unknown as Schemas['Recording']
}

/** What was changed of a print since the form was opened, and nothing else: instants stay to the millisecond. */
export function changeOf(before: RunValues, now: RunValues): Record<string, unknown> {
  const [a, b] = [amendable(before), amendable(now)]
  return Object.fromEntries(Object.entries(b).filter(([key, v]) => v !== a[key]))
}
