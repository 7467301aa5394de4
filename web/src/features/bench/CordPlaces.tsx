import { memo, type KeyboardEvent } from 'react'
import { Link } from 'react-router'
import { Bead, KnotGlyph, shapeWords, type Shape } from '../../components/Bead'
import type { Schemas } from '../../lib/api'
import { counted, listed, moment, words } from '../../lib/format'
import { nameable, worst, type BeadRow, type Place } from './cordLayout'

interface Props {
  places: Place[]
  y: number
  until: number
  cord: Schemas['Cord']
  colours: Map<string, Schemas['Thread']>
  /** Runs chosen as A and B. */
  chosen: string[]
  /** The one place of the cord that the tab key reaches. */
  tabbable?: string
  row: number
  onKey: (e: KeyboardEvent<SVGGElement>, place: Place, row: number) => void
  onPick: (place: Place, shift: boolean) => void
}

/** All that a knot is, as people say it. */
const kindsOf = (k: { kinds: string[] }) => listed(k.kinds.map(words))

/** Beads, knots and the thread between them, for the part of a cord that is in sight. */
export const CordPlaces = memo(function CordPlaces({
  places,
  y,
  until,
  cord,
  colours,
  chosen,
  tabbable,
  row,
  onKey,
  onPick,
}: Props) {
  const tell = (b: BeadRow) =>
    `${b.code} on ${cord.name}, ${moment(b.started_ms)}: ${b.printed}, ${colours.get(b.resin_id)?.name}, ${shapeWords[b.shape as Shape]}, ${b.whole} of ${b.copies} whole`
  const threads = places.filter((p) => p.beads.length > 0)
  const nameOf = (p: Place) => (p.knots.length > 1 ? `${p.knots.length} knots` : p.knots[0] ? kindsOf(p.knots[0]) : '')
  const named = nameable(places, nameOf)
  return (
    <g>
      {threads.map((p, i) => (
        <line
          key={p.key}
          x1={p.x}
          x2={threads[i + 1]?.x ?? until}
          y1={y}
          y2={y}
          stroke={colours.get(p.beads.at(-1)?.resin_id ?? '')?.colour || 'var(--ink)'}
          strokeWidth="4"
        />
      ))}
      {places.map((p) => {
        const only = p.beads.length === 1 ? p.beads[0] : undefined
        if (p.beads.length === 0) {
          const k = p.knots[0]
          return (
            <g key={p.key} transform={`translate(${p.x} ${y})`}>
              <Link
                to={`/knots/${k?.id}`}
                tabIndex={-1}
                aria-label={p.knots.map((n) => `${moment(n.at_ms)}: ${kindsOf(n)} ${n.note}`).join('; ')}
              >
                <title>{p.knots.map((n) => `${moment(n.at_ms)}: ${kindsOf(n)} ${n.note}`).join('\n')}</title>
                <rect x={-13} y={-24} width={26} height={60} fill="transparent" />
                <KnotGlyph />
                {named.has(p.key) && (
                  <text y={32} textAnchor="middle" className="fill-soft text-xs">
                    {nameOf(p)}
                  </text>
                )}
              </Link>
            </g>
          )
        }
        const letter = p.beads.some((b) => b.run_id === chosen[0])
          ? 'A'
          : p.beads.some((b) => b.run_id === chosen[1])
            ? 'B'
            : ''
        const label = only
          ? tell(only) + (letter && `, side ${letter}`)
          : `${counted(p.beads.length, 'print')} on ${cord.name} from ${moment(p.beads[0]?.started_ms ?? 0)} to ${moment(p.beads.at(-1)?.started_ms ?? 0)}${p.knots.length > 0 ? `, ${counted(p.knots.length, 'knot')}` : ''}; worst: ${shapeWords[worst(p.beads) as Shape]}. Opens closer.`
        return (
          <g
            key={p.key}
            data-place={p.key}
            tabIndex={p.key === tabbable ? 0 : -1}
            role={only ? 'link' : 'button'}
            aria-label={label}
            className="cursor-pointer"
            transform={`translate(${p.x} ${y})`}
            onKeyDown={(e) => onKey(e, p, row)}
            onClick={(e) => onPick(p, e.shiftKey)}
          >
            <title>{label}</title>
            <rect x={-13} y={-24} width={26} height={48} fill="transparent" />
            {only ? (
              <Bead shape={only.shape as Shape} colour={colours.get(only.resin_id)?.colour || 'var(--ink)'} />
            ) : (
              <Strand p={p} colour={colours.get(p.beads.at(-1)?.resin_id ?? '')?.colour || 'var(--ink)'} />
            )}
            {letter && (
              <>
                <circle r={16} fill="none" stroke="var(--ink)" strokeWidth="2" />
                <text y={-21} textAnchor="middle" className="fill-ink text-sm font-bold">
                  {letter}
                </text>
              </>
            )}
          </g>
        )
      })}
    </g>
  )
})

/** Several prints too close to tell apart: the worst of them, with how many. */
function Strand({ p, colour }: { p: Place; colour: string }) {
  return (
    <g>
      <g opacity="0.55" transform="translate(-3 3)">
        <circle r={8} fill="var(--plate)" stroke={colour} strokeWidth="2" />
      </g>
      <Bead shape={worst(p.beads) as Shape} colour={colour} r={8} />
      <text y={-15} textAnchor="middle" className="num fill-ink text-xs font-bold">
        {p.beads.length}
      </text>
      {p.knots.length > 0 && (
        <g transform="translate(0 22) scale(0.6)">
          <KnotGlyph />
        </g>
      )}
    </g>
  )
}
