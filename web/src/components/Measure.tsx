import { useState } from 'react'
import type { Schemas } from '../lib/api'
import { counted, duration, figure, micrometres, percent, inUnit } from '../lib/format'
import { How } from './How'
import { MeasurePicture } from './MeasurePicture'

export type MeasureRow = Schemas['ContestMeasure']
type Estimate = MeasureRow['sides'][number]
type Pair = MeasureRow['pairs'][number]
type Side = Schemas['Side']

/** How a value of a measure is written. */
export function shown(m: MeasureRow, v: number | null | undefined): string {
  if (v === null || v === undefined) return 'not known'
  switch (m.kind) {
    case 'share':
      return percent(v)
    case 'time':
      return duration(v)
    case 'score':
      return figure(v)
    case 'length':
      return m.signed ? micrometres(v) : `${figure(v)} mm`
    case 'level':
      return inUnit(figure(v), m.unit)
    default:
      return v.toFixed(2)
  }
}

/** A difference of two sides: points of a share, a ratio of times, a length. */
function apart(m: MeasureRow, v: number): string {
  switch (m.kind) {
    case 'share':
      return `${v > 0 ? '+' : ''}${figure(100 * v)} points`
    case 'time':
      return `${figure(v)} times`
    case 'score':
      return `${v > 0 ? '+' : ''}${figure(v)} ${figure(Math.abs(v)) === '1' ? 'step' : 'steps'}`
    case 'level':
      return inUnit(`${v > 0 ? '+' : ''}${figure(v)}`, m.unit)
    default:
      return micrometres(v)
  }
}

/** Where the help tells how a measure of a kind is computed. */
const figures: Record<MeasureRow['kind'], string> = {
  share: 'failures',
  time: 'time',
  length: 'sizes',
  level: 'strength',
  score: 'scores',
  money: 'cost',
}

const verdicts: Record<string, string> = {
  clear: 'clearly different',
  likely: 'likely different',
  not_shown: 'not shown',
}

/** One measure: every side on one scale with its interval and n, and what it shows against the side held against. */
export function Measure({
  m,
  sides,
  baseline,
  currency,
}: {
  m: MeasureRow
  sides: Side[]
  baseline: number
  currency: string
}) {
  const scale = scaleOf(m)
  const pair = (i: number) => m.pairs.find((p) => p.a === i && p.b === baseline)
  const [picture, setPicture] = useState(false)
  const draws = m.sides.some((e) => e.value !== null)
  return (
    <div className="overflow-x-auto">
      <table className="rows w-full table-fixed sm:min-w-160">
        <caption className="pb-1 text-left font-semibold">
          {m.label}
          {m.kind === 'money' && `, ${currency}`}
          {m.kind === 'score' && ', steps of 0 to 4'}
        </caption>
        <thead className="max-sm:sr-only">
          <tr>
            <th className="w-10">Side</th>
            <th className="w-[22%]">Shown</th>
            <th>Interval, 95 %</th>
            <th className="w-[17%]">From</th>
            {m.pairs.length > 0 && <th className="w-[27%]">Against {sides[baseline]?.letter}</th>}
          </tr>
        </thead>
        <tbody>
          {m.sides.map((e, i) => (
            <tr key={sides[i]?.letter} className="max-sm:grid max-sm:grid-cols-[2rem_1fr]">
              <th scope="row" className="max-sm:row-span-4">
                {sides[i]?.letter}
              </th>
              <td>
                <Shown m={m} e={e} />
              </td>
              <td>
                <Interval e={e} scale={scale} band={i === baseline ? m.matters : null} />
              </td>
              <td className="text-sm">
                <From e={e} kind={m.kind} />
              </td>
              {m.pairs.length > 0 && (
                <td className="text-sm">{i === baseline ? <Held /> : <Against m={m} p={pair(i)} />}</td>
              )}
            </tr>
          ))}
        </tbody>
      </table>
      {draws && (
        <button
          className="no-print min-h-(--tap) text-sm text-act underline"
          aria-expanded={picture}
          onClick={() => setPicture(!picture)}
        >
          {picture ? 'Without the picture' : 'As a picture'}
          <span className="sr-only"> of {m.label}</span>
        </button>
      )}
      <span className="ml-4">
        <How figure={figures[m.kind]} of={m.label} />
      </span>
      {picture && <MeasurePicture m={m} sides={sides} baseline={baseline} />}
    </div>
  )
}

function Held() {
  return <span className="text-soft">the others are held against it</span>
}

function Shown({ m, e }: { m: MeasureRow; e: Estimate }) {
  if (e.value === null) return <span className="text-soft">{e.note || 'not known'}</span>
  const none = e.upper_if_none !== null
  return (
    <>
      <span className="num text-lg font-semibold">{shown(m, e.value)}</span>
      <span className="num block text-sm text-soft">
        {none
          ? `none seen; up to ${shown(m, e.upper_if_none)}`
          : e.ci
            ? `${shown(m, e.ci[0])} to ${shown(m, e.ci[1])}`
            : 'no interval'}
      </span>
      {(m.kind === 'length' || m.kind === 'level') && e.note && (
        <span className="block text-sm text-soft">{e.note}</span>
      )}
    </>
  )
}

function From({ e, kind }: { e: Estimate; kind: MeasureRow['kind'] }) {
  return (
    <>
      {e.prints === 0 && e.value !== null ? 'a reference' : counted(e.prints, 'print')}
      {e.events !== null && (
        <span className="num block text-soft">
          {e.events} of {counted(e.specimens, 'specimen')}
        </span>
      )}
      {e.events === null && e.specimens > 0 && (
        <span className="num block text-soft">
          {counted(e.specimens, 'specimen')}
          {e.readings > 0 && `, ${counted(e.readings, kind === 'score' ? 'rating' : 'reading')}`}
        </span>
      )}
    </>
  )
}

/** What a side shows against the baseline, its p after all that stand in the table are counted. */
function Against({ m, p }: { m: MeasureRow; p?: Pair }) {
  if (!p) return null
  if (p.difference === null) return <span className="text-soft">{p.reason}</span>
  return (
    <>
      <span className="num font-semibold">{apart(m, p.difference)}</span>{' '}
      {p.ci && (
        <span className="num text-soft">
          ({apart(m, p.ci[0] ?? 0)} to {apart(m, p.ci[1] ?? 0)})
        </span>
      )}
      {p.kinds > 0 && <span className="block text-soft">over {counted(p.kinds, 'kind')} that both have</span>}
      <span className="block">
        {p.p_adjusted === null ? (
          p.reason
        ) : !p.can_show ? (
          'so few prints could not have shown it'
        ) : (
          <>
            <strong>{verdicts[p.verdict]}</strong>{' '}
            <span className="num">(p {p.p_adjusted < 0.001 ? 'below 0.001' : `= ${figure(p.p_adjusted, 2)}`})</span>
          </>
        )}
        {p.verdict === 'not_shown' && p.prints_needed !== null && (
          <span className="block text-soft">
            about {counted(p.prints_needed, 'print')} a side would show what matters
          </span>
        )}
      </span>
    </>
  )
}

interface Scale {
  low: number
  high: number
}

/** One scale for all sides of a measure, as wide as their intervals. */
function scaleOf(m: MeasureRow): Scale | undefined {
  const all = m.sides.flatMap((e) => [e.value, ...(e.ci ?? []), e.upper_if_none]).filter((v): v is number => v !== null)
  if (all.length === 0) return undefined
  let [low, high] = [Math.min(...all), Math.max(...all)]
  if (m.kind === 'share') [low, high] = [0, 1]
  if (m.kind === 'score') [low, high] = [0, 4]
  const room = high > low ? (high - low) * 0.04 : Math.abs(high) * 0.1 || 1
  return m.kind === 'share' || m.kind === 'score' ? { low, high } : { low: low - room, high: high + room }
}

/** A value with its interval on the measure's scale; the band around the side held against is what matters. */
function Interval({ e, scale, band }: { e: Estimate; scale?: Scale; band: number | null }) {
  if (!scale || e.value === null) return null
  const at = (v: number) => Math.max(0, Math.min(100, (100 * (v - scale.low)) / (scale.high - scale.low)))
  const [low, high] = [at(e.ci?.[0] ?? e.value), at(e.upper_if_none ?? e.ci?.[1] ?? e.value)]
  return (
    <svg viewBox="0 0 100 24" preserveAspectRatio="none" className="h-6 w-full min-w-24" aria-hidden="true">
      {band !== null && (
        <rect
          x={at(e.value - band)}
          width={at(e.value + band) - at(e.value - band)}
          y="0"
          height="24"
          fill="var(--line)"
          opacity="0.6"
        />
      )}
      <line x1="0" x2="100" y1="12" y2="12" stroke="var(--line)" vectorEffect="non-scaling-stroke" />
      <line x1={low} x2={high} y1="12" y2="12" stroke="var(--ink)" strokeWidth="3" vectorEffect="non-scaling-stroke" />
      <line
        x1={at(e.value)}
        x2={at(e.value)}
        y1="3"
        y2="21"
        stroke="var(--ink)"
        strokeWidth="4"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  )
}
