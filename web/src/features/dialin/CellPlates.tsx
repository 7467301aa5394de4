import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { CellTimes } from '../../components/CellTimes'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas, type SeriesSheet } from '../../lib/api'
import { words } from '../../lib/format'
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
      {s.order && <Order order={s.order} sheet={s} />}
    </section>
  )
}

/** Where the first cell lay: its raised number tells. The machine exposes places, so the order follows. */
function Order({ order, sheet: s }: { order: Schemas['CellOrder']; sheet: SeriesSheet }) {
  const [lay, setLay] = useState(order.lay || order.planned)
  const [why, setWhy] = useState('')
  const turn = useMutation({
    mutationFn: () =>
      answer(
        api.PUT('/api/v1/series/{id}/order', {
          params: { path: { id: s.series.id ?? '' } },
          body: { version: s.series.version ?? 0, lay: lay as 'front_left', why },
        }),
      ),
    onSuccess: () => setWhy(''),
  })
  const turned = order.lay !== order.planned
  return (
    <div className="grid gap-2 border-t border-line pt-3">
      <h3>Order of the places</h3>
      <p>
        The machine exposes places: number 1 was planned at the {words(order.planned)}, the next ones to its right, then
        the row behind.{' '}
        {turned ? (
          <strong>It lay at the {words(order.lay)}, so each cell has the exposure of its place.</strong>
        ) : (
          'Check it by the raised number when the plate comes off.'
        )}
      </p>
      {order.possible.length < 2 ? (
        <p className="text-soft">
          Its rows are not full, so a plate that was turned would have left a cell without light: it cannot have lain
          otherwise.
        </p>
      ) : (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            turn.mutate()
          }}
        >
          <label className="text-sm font-semibold">
            Number 1 lay at the
            <select className="input font-normal" value={lay} onChange={(e) => setLay(e.target.value)}>
              {order.possible.map((o) => (
                <option key={o} value={o}>
                  {words(o)}
                </option>
              ))}
            </select>
          </label>
          {lay !== order.lay && (
            <>
              <label className="min-w-48 flex-1 text-sm font-semibold">
                How you know
                <input className="input font-normal" value={why} onChange={(e) => setWhy(e.target.value)} />
              </label>
              <button className="button button-main" disabled={turn.isPending}>
                Turn the order
              </button>
            </>
          )}
        </form>
      )}
      {turn.isError && <Complaint>{turn.error.message}</Complaint>}
    </div>
  )
}
