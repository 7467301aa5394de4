import type { Schemas } from '../../lib/api'
import { localInput } from '../../lib/format'
import { n, orNull, t } from '../../lib/input'

type File = Schemas['UnitFile']

const texts = ['revision', 'serial', 'firmware', 'set_up_by', 'note'] as const
const numbers = ['body_width_mm', 'body_depth_mm', 'body_height_mm', 'lid_open_mm', 'mass_kg', 'unpack_min'] as const

/** A unit file as it is typed. */
export type Values = Record<(typeof texts)[number] | (typeof numbers)[number], string> & {
  status: string
  received_on: string
  contents: { what: string; count: string; found: string; note: string }[]
  peels: { what: string; keep: boolean; done: number | null }[]
  ports: { what: string; state: string; note: string }[]
  openness: { what: string; answer: string; note: string }[]
  contacts: { about: string; asked_ms: string; answered_ms: string; solved: string; how: string }[]
  claimed: { says: string; source: string }[]
}

/** An empty row of each list. */
export const blanks = {
  contents: () => ({ what: '', count: '1', found: 'there', note: '' }),
  peels: () => ({ what: '', keep: false, done: null }),
  ports: () => ({ what: '', state: 'present', note: '' }),
  openness: () => ({ what: '', answer: 'unknown', note: '' }),
  contacts: () => ({ about: '', asked_ms: localInput(Date.now()), answered_ms: '', solved: '', how: '' }),
  claimed: () => ({ says: '', source: 'on the box' }),
}

const named =
  <Row>(row: () => Row, names: string[]) =>
  () =>
    names.map((what) => ({ ...row(), what }))

/** What most units come with, are closed with, and are asked about. */
export const usual: Partial<Record<keyof typeof blanks, () => unknown[]>> = {
  contents: () =>
    named(blanks.contents, [
      'vat',
      'plate',
      'spare film',
      'scraper',
      'keys and screws',
      'gloves',
      'mask',
      'funnel or filter',
      'memory stick',
      'power supply',
      'manual',
    ])().map((row) => ({ ...row, found: 'not_looked' })),
  peels: named(blanks.peels, ['film on the panel', 'film under the vat', 'transport lock']),
  ports: named(blanks.ports, ['USB', 'network cable', 'wireless network']),
  openness: named(blanks.openness, [
    'all settings can be seen',
    'all settings can be changed',
    'any resin may be used',
    'it needs an account',
    'it needs a network',
  ]),
}

/** A unit file as a form begins with it. */
export const valuesOf = (f?: File): Values => ({
  status: f?.status ?? '',
  received_on: f?.received_on ?? '',
  ...(Object.fromEntries(texts.map((k) => [k, f?.[k] ?? ''])) as Record<(typeof texts)[number], string>),
  ...(Object.fromEntries(numbers.map((k) => [k, t(f?.[k])])) as Record<(typeof numbers)[number], string>),
  contents: (f?.contents ?? []).map((c) => ({ what: c.what, count: t(c.count), found: c.found, note: c.note ?? '' })),
  peels: (f?.peels ?? []).map((p) => ({ what: p.what, keep: p.keep ?? false, done: p.done_ms ?? null })),
  ports: (f?.ports ?? []).map((p) => ({ what: p.what, state: p.state, note: p.note ?? '' })),
  openness: (f?.openness ?? []).map((o) => ({ what: o.what, answer: o.answer, note: o.note ?? '' })),
  contacts: (f?.contacts ?? []).map((c) => ({
    about: c.about,
    asked_ms: localInput(c.asked_ms),
    answered_ms: c.answered_ms == null ? '' : localInput(c.answered_ms),
    solved: c.solved,
    how: c.how ?? '',
  })),
  claimed: (f?.claimed ?? []).map((c) => ({ says: c.says, source: c.source })),
})

const instant = (typed: string) => new Date(typed).getTime()

/** What a form says, as it is sent. */
export const bodyOf = (v: Values): File => ({
  status: v.status as File['status'],
  received_on: orNull(v.received_on),
  ...(Object.fromEntries(texts.map((k) => [k, v[k]])) as Record<(typeof texts)[number], string>),
  ...(Object.fromEntries(numbers.map((k) => [k, n(v[k])])) as Record<(typeof numbers)[number], number>),
  contents: v.contents.map((c) => ({ ...c, count: n(c.count)!, found: c.found as Schemas['BoxContent']['found'] })),
  peels: v.peels.map((p) => ({ what: p.what, keep: p.keep, done_ms: p.done })),
  ports: v.ports.map((p) => ({ ...p, state: p.state as Schemas['UnitPort']['state'] })),
  openness: v.openness.map((o) => ({ ...o, answer: o.answer as Schemas['UnitOpenness']['answer'] })),
  contacts: v.contacts.map((c) => ({
    about: c.about,
    asked_ms: instant(c.asked_ms),
    answered_ms: orNull(c.answered_ms) === null ? null : instant(c.answered_ms),
    solved: c.solved as Schemas['VendorContact']['solved'],
    how: c.how,
  })),
  claimed: v.claimed,
})
