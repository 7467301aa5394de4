import { shapeWords } from '../../components/Bead'
import type { Schemas } from '../../lib/api'
import type { BeadFilter } from './cordLayout'

export const spans = [
  { days: 1, label: 'Day' },
  { days: 7, label: 'Week' },
  { days: 31, label: 'Month' },
  { days: 62, label: 'Two months' },
  { days: 366, label: 'Year' },
]

interface Props {
  data: Schemas['Bench']
  span: number
  zoom: (days: number) => void
  filter: BeadFilter
  setFilter: (f: BeadFilter) => void
  choosing: boolean
  setChoosing: (on: boolean) => void
}

/** How much of time is shown, and of what. */
export function CordTools({ data, span, zoom, filter, setFilter, choosing, setChoosing }: Props) {
  const choice = (key: keyof BeadFilter, label: string, options: [string, string][]) => (
    <label className="text-sm">
      <span className="sr-only">{label}</span>
      <select
        className="input w-auto max-w-44"
        value={filter[key]}
        onChange={(e) => setFilter({ ...filter, [key]: e.target.value })}
      >
        <option value="">{label}: any</option>
        {options.map(([value, name]) => (
          <option key={value} value={value}>
            {name}
          </option>
        ))}
      </select>
    </label>
  )
  return (
    <div className="no-print mb-2 flex flex-wrap items-center gap-2">
      {spans.map((s) => (
        <button
          key={s.days}
          className={`button ${span === s.days ? 'button-main' : ''}`}
          aria-pressed={span === s.days}
          onClick={() => zoom(s.days)}
        >
          {s.label}
        </button>
      ))}
      {choice('piece', 'Piece', Object.entries(data.pieces))}
      {choice(
        'resin',
        'Resin',
        data.threads.map((t) => [t.resin_id, t.name]),
      )}
      {choice('shape', 'Outcome', Object.entries(shapeWords))}
      <button
        className={`button ${choosing ? 'button-main' : ''}`}
        aria-pressed={choosing}
        onClick={() => setChoosing(!choosing)}
      >
        {choosing ? 'Choose two beads' : 'Compare two prints'}
      </button>
    </div>
  )
}
