import type { Schemas } from '../lib/api'
import { counted, day, figure, grouped, words } from '../lib/format'

type Wear = Schemas['MachineWear']

/** How much a film or a source of light has seen, from what that is known, and what is not. */
function worn(w: Wear, unit: string, round: boolean): { value: string; note: string } {
  const amount = `${round ? grouped(Math.round(w.at_least)) : figure(w.at_least)} ${unit}`
  const prints = counted(w.prints, 'print')
  const since =
    w.since_ms == null
      ? `by all ${prints} on record; the rest is not known`
      : w.reading
        ? `by its counter of ${day(w.since_ms)} and ${prints} since`
        : `by ${prints} since ${day(w.since_ms)}`
  const hidden = w.hidden > 0 ? `; ${counted(w.hidden, 'print')} hide it` : ''
  const beside = w.beside > 0 ? `; ${figure(w.beside)} ${unit} beyond the prints on record` : ''
  return {
    value: w.amount == null ? (w.at_least > 0 ? `at least ${amount}` : 'not known') : amount,
    note: since + hidden + beside,
  }
}

/** The condition of a machine at an instant, as the record computes it. */
export function ConditionFigures({ c }: { c: Schemas['MachineCondition'] }) {
  const film = worn(c.film, 'layers', true)
  const light = worn(c.light, 'h lit', false)
  const level = c.level.days == null ? 'not known' : `${counted(c.level.days, 'day')} ago`
  const moved =
    c.level.verified_ms != null
      ? c.level.ended_by
        ? `verified ${day(c.level.verified_ms)}, ended by: ${words(c.level.ended_by)}`
        : `verified ${day(c.level.verified_ms)}`
      : c.level.moved == null
        ? ''
        : c.level.moved
          ? 'moved since'
          : 'not moved since'
  const rows: { label: string; value: string; note: string }[] = [
    { label: 'Film', ...film },
    { label: 'Panel or light', ...light },
    { label: 'Levelled', value: level, note: moved },
    { label: 'Panel', value: c.fitted.panel, note: '' },
    { label: 'Firmware', value: c.fitted.firmware, note: '' },
    { label: 'Film type', value: c.fitted.film_type, note: '' },
    { label: 'Plate surface', value: c.fitted.plate_surface, note: '' },
    { label: 'Stands in', value: c.fitted.room, note: '' },
    { label: 'Accessories', value: c.fitted.accessories.join(', '), note: '' },
  ]
  return (
    <dl className="grid gap-x-6 gap-y-2 sm:grid-cols-2 lg:grid-cols-4">
      {rows
        .filter((r) => r.value !== '')
        .map((r) => (
          <div key={r.label}>
            <dt className="text-sm text-soft">{r.label}</dt>
            <dd>
              <span className="num wrap-anywhere">{r.value}</span>{' '}
              {r.value !== 'not known' && (
                <span className="text-soft" aria-label="computed">
                  ◇
                </span>
              )}
              {r.note && <span className="block text-sm text-soft">{r.note}</span>}
            </dd>
          </div>
        ))}
    </dl>
  )
}
