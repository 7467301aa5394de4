import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear } from '@visx/scale'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint, Empty, Page } from '../../components/Page'
import { Plot as Drawing } from '../../components/Plot'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, duration, figure } from '../../lib/format'
import { n } from '../../lib/input'
import { useMachines, usePieces, useProfiles, useResins } from '../../lib/queries'

/** Time per piece against copies for several machines, one piece and full plates both named. */
export default function FillPage() {
  const pieces = usePieces()
  const profiles = useProfiles()
  const machines = useMachines()
  const resins = useResins()
  const [piece, setPiece] = useState('')
  const [chosen, setChosen] = useState<string[]>()
  const [copies, setCopies] = useState('24')
  const [scale, setScale] = useState('100')
  const all = profiles.data ?? []
  // Until something is chosen: the newest settings of each machine, in the resin that most of them have.
  const inResin = (id: string) => [
    ...new Map(all.filter((p) => p.resin_id === id).map((p) => [p.machine_id, p.id])).values(),
  ]
  const newest = (resins.data ?? [])
    .map((r) => inResin(r.resin.id ?? ''))
    .reduce((a, b) => (b.length > a.length ? b : a), [])
  const ids = chosen ?? newest
  const pieceID =
    piece || (pieces.data?.find((p) => !p.piece.coupon?.params)?.piece.id ?? pieces.data?.[0]?.piece.id ?? '')
  const query = {
    piece_id: pieceID,
    profile_ids: ids.join(','),
    copies: n(copies) ?? undefined,
    scale_pct: n(scale) ?? undefined,
  }
  const fill = useQuery({
    queryKey: ['fill', query],
    enabled: pieceID !== '' && ids.length > 0,
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => answer(api.GET('/api/v1/fill', { params: { query } })),
  })
  const name = (id: string) => machines.data?.find((m) => m.machine.id === id)?.machine.name ?? ''
  const resin = (id: string) => resins.data?.find((r) => r.resin.id === id)?.resin.name ?? ''
  return (
    <Page
      title="Time against copies"
      about="One piece and a full plate are different contests; where the lines cross, the answer turns."
    >
      {profiles.data && all.length === 0 ? (
        <Empty title="No settings on record">A time needs settings: dial one in, or enter one under Kit.</Empty>
      ) : (
        <section className="sheet grid gap-3">
          <div className="grid gap-3 sm:grid-cols-4">
            <label className="text-sm font-semibold sm:col-span-2">
              Piece
              <select className="input font-normal" value={pieceID} onChange={(e) => setPiece(e.target.value)}>
                {(pieces.data ?? []).map((p) => (
                  <option key={p.piece.id} value={p.piece.id}>
                    {p.piece.name}
                  </option>
                ))}
              </select>
            </label>
            <label className="text-sm font-semibold">
              Copies, up to
              <input
                className="input num font-normal"
                inputMode="numeric"
                value={copies}
                onChange={(e) => setCopies(e.target.value)}
              />
            </label>
            <label className="text-sm font-semibold">
              Scale <span className="num font-normal text-soft">%</span>
              <input
                className="input num font-normal"
                inputMode="decimal"
                value={scale}
                onChange={(e) => setScale(e.target.value)}
              />
            </label>
          </div>
          <fieldset>
            <legend className="text-sm font-semibold">Machines with settings</legend>
            <div className="flex flex-wrap gap-x-5">
              {all.map((p) => (
                <label key={p.id} className="flex min-h-(--tap) items-center gap-2">
                  <input
                    type="checkbox"
                    className="size-5 accent-(--act)"
                    checked={ids.includes(p.id)}
                    onChange={(e) => setChosen(e.target.checked ? [...ids, p.id] : ids.filter((x) => x !== p.id))}
                  />
                  {name(p.machine_id)}, {resin(p.resin_id)}: {p.label}
                </label>
              ))}
            </div>
          </fieldset>
        </section>
      )}
      {fill.isError && <Complaint>{fill.error.message}</Complaint>}
      {fill.data && fill.data.sides.length > 0 && <Plot f={fill.data} />}
    </Page>
  )
}

/** Lines are told apart by dash and by the name at their end. */
const dashes = ['', '9 5', '2 4', '12 4 2 4', '5 2']

function Plot({ f }: { f: Schemas['FillPlot'] }) {
  const [w, h, left, bottom, right] = [760, 340, 62, 44, 150]
  const crossings = [
    ...new Set(f.pairs.map((p) => p.result.crossover).filter((c): c is number => c != null && c <= f.copies)),
  ]
  const known = f.sides.filter((s) => s.per_piece_s.length > 0)
  const most = Math.max(1, ...known.flatMap((s) => s.per_piece_s)) / 60
  const x = scaleLinear({ domain: [1, Math.max(2, f.copies)], range: [left, w - right] })
  const y = scaleLinear({ domain: [0, most * 1.05], range: [h - bottom, 12], nice: true })
  const ends = known
    .map((s, i) => ({ s, i, at: y((s.per_piece_s.at(-1) ?? 0) / 60) }))
    .sort((a, b) => a.at - b.at)
    .reduce<{ s: Schemas['FillSide']; i: number; at: number }[]>((out, e) => {
      const above = out.at(-1)
      return [...out, { ...e, at: above ? Math.max(e.at, above.at + 16) : e.at }]
    }, [])
  const below = Math.max(0, (ends.at(-1)?.at ?? 0) - (h - bottom))
  return (
    <section className="sheet grid gap-3" aria-label="Time per piece against copies">
      <Drawing
        title={`Time per piece against copies of ${f.piece}`}
        label={`Minutes per piece for 1 to ${f.copies} copies of ${f.piece}`}
        width={w}
        height={h}
      >
        <AxisLeft
          scale={y}
          left={left}
          numTicks={6}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, dx: -4, dy: 4, textAnchor: 'end' }}
        />
        <AxisBottom
          scale={x}
          top={h - bottom}
          numTicks={8}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ fill: 'var(--ink)', fontSize: 12, textAnchor: 'middle' }}
        />
        <text x={(left + w - right) / 2} y={h - 6} textAnchor="middle" fontSize="13" className="fill-ink">
          copies
        </text>
        <text
          transform={`translate(14 ${h / 2 - 20}) rotate(-90)`}
          textAnchor="middle"
          fontSize="13"
          className="fill-ink"
        >
          minutes a piece
        </text>
        {crossings.map((c) => (
          <g key={c}>
            <line x1={x(c)} x2={x(c)} y1={12} y2={h - bottom} className="stroke-soft" strokeDasharray="3 3" />
            <text x={x(c) + 3} y={22} fontSize="12" className="num fill-ink">
              {c}
            </text>
          </g>
        ))}
        {known.map((s, i) => (
          <polyline
            key={s.profile_id}
            fill="none"
            className="stroke-ink"
            strokeWidth="2.2"
            strokeDasharray={dashes[i % dashes.length]}
            points={s.per_piece_s.map((v, k) => `${x(k + 1)},${y(v / 60)}`).join(' ')}
          />
        ))}
        {ends.map((e) => (
          <text key={e.s.profile_id} x={w - right + 8} y={e.at - below + 4} fontSize="12" className="fill-ink">
            {e.s.machine}
          </text>
        ))}
      </Drawing>
      <div className="overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th>Machine and settings</th>
              <th>One piece ◇</th>
              <th>A full plate ◇</th>
              <th>a piece on it</th>
            </tr>
          </thead>
          <tbody>
            {f.sides.map((s) => (
              <tr key={s.profile_id}>
                <td>{s.label}</td>
                {s.reason ? (
                  <td colSpan={3}>{s.reason}</td>
                ) : (
                  <>
                    <td className="num">{duration(s.one_s)}</td>
                    <td className="num">{counted(s.load.capacity, 'copy', 'copies')}</td>
                    <td className="num">{duration(s.full_per_piece_s)}</td>
                  </>
                )}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <ul className="grid gap-1">
        {f.pairs.map((p) => (
          <li key={`${p.a}-${p.b}`} className="border-l-4 border-line pl-2">
            <span className="font-semibold">
              {f.sides[p.a]?.machine} and {f.sides[p.b]?.machine}:
            </span>{' '}
            {p.words}
          </li>
        ))}
      </ul>
      <p className="text-sm text-soft">
        Dashed uprights: the copies from which the slower one for one piece becomes the faster. By the timing models,
        for {f.piece}; plates spaced by <span className="num">{figure(2)}</span> mm. A plate more starts where a full
        one ends.
      </p>
    </section>
  )
}
