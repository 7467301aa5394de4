import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint, Empty, Page } from '../../components/Page'
import { FillPlot } from '../../components/FillPlot'
import { answer, api } from '../../lib/api'
import { n } from '../../lib/input'
import { useMachines, usePieces, useProfiles, useResins } from '../../lib/queries'

/** Up to so many settings all stand open to be chosen from. */
const few = 6

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
          <details open={all.length <= few || ids.length === 0}>
            <summary className="min-h-(--tap) cursor-pointer content-center">
              <span className="font-semibold">Machines with settings:</span>{' '}
              {ids.length === 0
                ? 'none is chosen'
                : all
                    .filter((p) => ids.includes(p.id))
                    .map((p) => `${name(p.machine_id)}, ${p.label}`)
                    .join('; ')}
            </summary>
            <fieldset>
              <legend className="sr-only">Machines with settings</legend>
              <div className="grid gap-x-5 sm:grid-cols-2">
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
          </details>
        </section>
      )}
      {fill.isError && <Complaint>{fill.error.message}</Complaint>}
      {fill.data && fill.data.sides.length > 0 && (
        <section className="sheet">
          <FillPlot f={fill.data} />
        </section>
      )}
    </Page>
  )
}
