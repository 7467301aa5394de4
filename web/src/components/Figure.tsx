import type { Schemas } from '../lib/api'

/** Where a figure came from, by a small mark whose shape and name carry it. */
const marks = { measured: '●', computed: '◇', claimed: '❝', estimated: '≈' } as const
export type Source = keyof typeof marks

interface Props {
  label: string
  value: string
  unit?: string
  n?: number
  interval?: [string, string] | null
  /** Left out where there is no figure, which comes from nowhere. */
  source?: Source
  note?: string
}

/** A figure never stands alone: value, unit, n, interval, and where it came from. */
export function Figure({ label, value, unit, n, interval, source, note }: Props) {
  return (
    <div>
      <dt className="text-sm text-soft">{label}</dt>
      <dd>
        <span className="num text-xl font-semibold">{value}</span>
        {unit && <span className="num ml-1 text-soft">{unit}</span>}
        <span className="block text-sm text-soft">
          {source && (
            <>
              <span aria-hidden="true">{marks[source]} </span>
              {source}
              {n !== undefined && `, n = ${n}`}
            </>
          )}
          {interval && (
            <>
              , 95 %: <span className="num">{interval[0]}</span> to <span className="num">{interval[1]}</span>
            </>
          )}
          {note && (source ? `, ${note}` : note)}
        </span>
      </dd>
    </div>
  )
}

export function Warnings({ list }: { list: Schemas['QuantityWarning'][] }) {
  if (list.length === 0) return null
  return (
    <ul className="grid gap-1" aria-label="What to mind">
      {list.map((w) => (
        <li key={w.code} className="border-l-4 border-act pl-2">
          {w.message}
        </li>
      ))}
    </ul>
  )
}
