import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Figure } from '../../components/Figure'
import { Complaint } from '../../components/Page'
import { answer, api, type SeriesSheet } from '../../lib/api'
import { duration, figure } from '../../lib/format'
import { usePieces } from '../../lib/queries'

/** The coupon of a series and the plates that its numbered cells lie on. */
export function CellPlates({ sheet: s }: { sheet: SeriesSheet }) {
  const pieces = usePieces()
  const coupons = (pieces.data ?? []).filter((p) => p.piece.coupon?.params)
  const [chosen, setChosen] = useState('')
  const piece = chosen || s.coupon?.piece_id || coupons[0]?.piece.id || ''
  const lay = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/series/{id}/plates', {
          params: { path: { id: s.series.id ?? '' } },
          body: { piece_id: piece },
        }),
      ),
  })
  const c = s.plan
  return (
    <section className="sheet no-print grid gap-3" aria-label="Coupon and plates">
      <h2>Coupon and plates</h2>
      {(s.plates ?? []).length > 0 ? (
        <ul className="flex flex-wrap gap-x-5 gap-y-1">
          {(s.plates ?? []).map((p) => (
            <li key={p.id}>
              <span className="num text-soft">{p.code}</span> <Link to={`/plan/${p.id}`}>{p.name}</Link>,{' '}
              <Link to={`/plan/${p.id}/sheet`}>reading sheet</Link>
            </li>
          ))}
        </ul>
      ) : coupons.length === 0 ? (
        <p>
          Make a coupon and every cell is numbered in place, with its readings known to the record.{' '}
          <Link to="/kit/coupons/new">Make a coupon</Link>
        </p>
      ) : (
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(e) => {
            e.preventDefault()
            lay.mutate()
          }}
        >
          <label className="text-sm font-semibold">
            Coupon
            <select className="input font-normal" value={piece} onChange={(e) => setChosen(e.target.value)}>
              {coupons.map((p) => (
                <option key={p.piece.id} value={p.piece.id}>
                  {p.piece.name}
                </option>
              ))}
            </select>
          </label>
          <button className="button" disabled={lay.isPending}>
            Lay the cells on plates
          </button>
          <Link to="/kit/coupons/new">Make another coupon</Link>
        </form>
      )}
      {lay.isError && <Complaint>{lay.error.message}</Complaint>}
      {c && (
        <>
          <dl className="grid gap-3 sm:grid-cols-2">
            <Figure
              label={`All ${c.cells} cells on one plate`}
              value={c.one_plate_s == null ? 'not possible' : duration(c.one_plate_s)}
              source="computed"
              note={
                c.exposure === 'together'
                  ? 'a layer takes as long as its longest cell'
                  : c.exposure === 'in_turn'
                    ? 'cells are lit one after the other'
                    : undefined
              }
            />
            <Figure
              label={`${c.cells} plates, one a cell`}
              value={duration(c.each_with_turnaround_s)}
              source="computed"
              note={`${duration(c.each_s)} of printing, ${figure(c.turnaround_min)} min between plates`}
            />
          </dl>
          {c.reason && <p className="text-sm text-soft">{c.reason}</p>}
        </>
      )}
    </section>
  )
}
