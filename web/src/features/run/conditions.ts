import type { Run, Schemas } from '../../lib/api'
import { localInput } from '../../lib/format'
import { seconds, spelled } from '../../lib/duration'
import { n, t } from '../../lib/input'

/** Conditions that a comparison weighs. Each is answered: a value, or "not known". */
export interface Condition {
  key: keyof Schemas['Run'] & string
  label: string
  unit?: string
  kind: 'number' | 'time' | 'text' | 'yesno' | 'surface'
  when: 'before' | 'during' | 'after'
}

export const conditions: Condition[] = [
  { key: 'film_layers', label: 'Layers on the film', kind: 'number', when: 'before' },
  { key: 'film_clouded', label: 'Film clouded', kind: 'yesno', when: 'before' },
  { key: 'days_since_level', label: 'Since levelling', unit: 'days', kind: 'number', when: 'before' },
  { key: 'moved_since_level', label: 'Moved since levelling', kind: 'yesno', when: 'before' },
  { key: 'orientation', label: 'Orientation', kind: 'text', when: 'before' },
  { key: 'supports', label: 'Supports', kind: 'text', when: 'before' },
  { key: 'scale_pct', label: 'Scale', unit: '%', kind: 'number', when: 'before' },
  { key: 'software', label: 'Software', kind: 'text', when: 'before' },
  { key: 'software_estimate_s', label: "Software's own estimate", kind: 'time', when: 'before' },
  { key: 'room_temp_c', label: 'Room temperature', unit: '°C', kind: 'number', when: 'during' },
  { key: 'resin_temp_c', label: 'Resin temperature', unit: '°C', kind: 'number', when: 'during' },
  { key: 'resin_used_g', label: 'Resin used, by weight', unit: 'g', kind: 'number', when: 'after' },
  { key: 'attended_min', label: 'Your time at it', unit: 'min', kind: 'number', when: 'after' },
  { key: 'wash_s', label: 'Wash', kind: 'time', when: 'after' },
  { key: 'cure_s', label: 'Cure', kind: 'time', when: 'after' },
  { key: 'surface', label: 'Surface when judged', kind: 'surface', when: 'after' },
]

export type RunValues = Record<string, string | boolean>

export const unknownKey = (key: string) => `${key}__unknown`

/** A draft leaves open what nobody said; a recorded run shows "not known" where it was answered so. */
export function valuesOf(run: Schemas['Run'], recorded: boolean): RunValues {
  const out: RunValues = {
    machine_id: run.machine_id,
    resin_id: run.resin_id ?? '',
    bottle_id: run.bottle_id ?? '',
    profile_id: run.profile_id ?? '',
    piece_id: run.piece_id ?? '',
    plate_id: run.plate_id ?? '',
    copies: t(run.copies),
    started: localInput(run.started_ms),
    ended: run.ended_ms ? localInput(run.ended_ms) : '',
    ended_how: run.ended_how || 'finished',
    notes: run.notes ?? '',
  }
  for (const c of conditions) {
    const v = run[c.key] as number | string | boolean | null | undefined
    out[c.key] = typeof v === 'boolean' ? (v ? 'yes' : 'no') : c.kind === 'time' ? spelled(v as number | null) : t(v)
    out[unknownKey(c.key)] = recorded && (v === null || v === undefined)
  }
  return out
}

/** Conditions left blank without saying that they are not known. */
export const blanks = (v: RunValues) =>
  conditions.filter((c) => !v[unknownKey(c.key)] && String(v[c.key] ?? '').trim() === '')

export function bodyOf(v: RunValues, before?: Run): Schemas['Run'] {
  const text = (key: string) => (typeof v[key] === 'string' ? (v[key] as string) : '')
  const out: Record<string, unknown> = {
    version: before?.version ?? 0,
    machine_id: text('machine_id'),
    resin_id: text('resin_id'),
    profile_id: text('profile_id'),
    piece_id: text('piece_id'),
    plate_id: text('plate_id') || null,
    bottle_id: text('bottle_id') || null,
    copies: n(text('copies')),
    started_ms: new Date(text('started')).getTime() || 0,
    ended_ms: text('ended') ? new Date(text('ended')).getTime() : null,
    ended_how: text('ended') ? text('ended_how') : '',
    notes: text('notes'),
  }
  for (const c of conditions) {
    const raw = v[unknownKey(c.key)] ? '' : text(c.key).trim()
    const read = { number: n, time: seconds, yesno: (x: string) => x === 'yes', text: String, surface: String }[c.kind]
    out[c.key] = raw === '' ? null : read(raw)
  }
  return out as unknown as Schemas['Run']
}
