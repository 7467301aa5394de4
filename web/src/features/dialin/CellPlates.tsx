import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { CellTimes } from '../../components/CellTimes'
import { Complaint } from '../../components/Page'
import { answer, api, type SeriesSheet } from '../../lib/api'
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
      {s.plan && <CellTimes c={s.plan} />}
    </section>
  )
}
