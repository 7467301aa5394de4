import type { Schemas } from '../../lib/api'
import { localInput } from '../../lib/format'
import { n, t } from '../../lib/input'

type Move = Schemas['TimingMove']

export type MachineValues = Record<string, string | boolean | string[] | FaultLine[]>

/** A fault of the quirk card, as typed. */
export interface FaultLine {
  symptom: string
  text: string
  workaround: string
  since: string
}

const texts = [
  'name',
  'maker',
  'supplied_by',
  'notes',
  'quirk_files',
  'quirk_restart',
  'quirk_height',
  'quirk_settings',
  'quirk_films',
] as const
const numbers = [
  'width_mm',
  'depth_mm',
  'height_mm',
  'dial_step_s',
  'wait_before_s',
  'wait_after_s',
  'wait_lift_s',
  'start_s',
  'end_s',
  'power_w',
  'price_discount',
  'price_shipping',
  'price_tax_pct',
  'price_extras',
] as const
const optional = [
  'px_x',
  'px_y',
  'irradiance_mw_cm2',
  'spot_um',
  'hatch_mm',
  'hatch_mm_s',
  'contour_passes',
  'contour_mm_s',
  'settle_s',
  'vat_max_ml',
  'vat_dead_ml',
  'release_s',
  'price_list',
  'film_price',
  'film_life_layers',
  'light_price',
  'light_life_h',
  'claimed_mm_h',
] as const

const defaults: Record<string, string> = {
  dial_step_s: '0.1',
  wait_before_s: '0',
  wait_after_s: '0',
  wait_lift_s: '0',
  start_s: '0',
  end_s: '0',
  power_w: '0',
  price_discount: '0',
  price_shipping: '0',
  price_tax_pct: '0',
  price_extras: '0',
}

/** Two stages of lift and retract; a machine with one leaves the second empty. */
export const stages = (name: string, moves: Move[] | undefined): Record<string, string> => ({
  [`${name}1_mm`]: t(moves?.[0]?.mm),
  [`${name}1_mm_min`]: t(moves?.[0]?.mm_min),
  [`${name}2_mm`]: t(moves?.[1]?.mm),
  [`${name}2_mm_min`]: t(moves?.[1]?.mm_min),
})

export function valuesOf(m: Schemas['Machine'] | undefined): MachineValues {
  const out: MachineValues = {
    light_engine: m?.light_engine ?? 'masked_lcd',
    cell_exposure: m?.cell_exposure ?? 'none',
    price_tax_included: m?.price_tax_included ?? true,
    ...stages('lift', m?.lift),
    ...stages('retract', m?.retract),
    compare_with: '',
    not_known: [...(m?.not_known ?? [])],
    quirk_faults: (m?.quirk_faults ?? []).map((q) => ({
      symptom: q.symptom,
      text: q.text,
      workaround: q.workaround ?? '',
      since: q.since_ms == null ? '' : localInput(q.since_ms),
    })),
  }
  for (const k of texts) out[k] = m?.[k] ?? ''
  for (const k of numbers) out[k] = m ? t(m[k]) : (defaults[k] ?? '')
  for (const k of optional) out[k] = t(m?.[k])
  return out
}

const text = (v: MachineValues, k: string) => (typeof v[k] === 'string' ? (v[k] as string) : '')

export function moves(v: MachineValues, name: string): Move[] {
  return [1, 2]
    .map((i) => ({ mm: n(text(v, `${name}${i}_mm`)), mm_min: n(text(v, `${name}${i}_mm_min`)) }))
    .filter((m) => m.mm !== null || m.mm_min !== null)
}

export function bodyOf(v: MachineValues, version?: number): Schemas['Machine'] {
  const out: Record<string, unknown> = {
    version: version ?? 0,
    light_engine: v.light_engine,
    cell_exposure: v.cell_exposure,
    price_tax_included: v.price_tax_included,
    lift: moves(v, 'lift'),
    retract: moves(v, 'retract'),
    not_known: v.not_known,
    quirk_faults: (v.quirk_faults as FaultLine[]).map((q) => ({
      symptom: q.symptom,
      text: q.text,
      workaround: q.workaround,
      since_ms: q.since ? new Date(q.since).getTime() : null,
    })),
  }
  for (const k of texts) out[k] = text(v, k)
  for (const k of [...numbers, ...optional]) out[k] = n(text(v, k))
  return out as unknown as Schemas['Machine']
}
