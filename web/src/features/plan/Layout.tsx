import { useMutation } from '@tanstack/react-query'
import { useEffect, useState, type KeyboardEvent } from 'react'
import { Link } from 'react-router'
import { Complaint } from '../../components/Page'
import { PlateMap } from '../../components/PlateMap'
import { answer, api, type Placement, type PlateSheet } from '../../lib/api'
import { counted, figure } from '../../lib/format'
import { n } from '../../lib/input'
import { usePieces } from '../../lib/queries'

interface Props {
  sheet: PlateSheet
  locked: boolean
  busy: boolean
  save: (placements: Placement[]) => void
}

/** Steps of moving and turning by keyboard. */
const fineMM = 0.5
const coarseMM = 5
const turnDeg = 15

/** What lies where. Arrow keys move, r turns, Delete takes away; the pointer drags. */
export function Layout({ sheet: s, locked, busy, save }: Props) {
  const [selected, setSelected] = useState(0)
  const [dragged, setDragged] = useState<{ i: number; dx: number; dy: number }>()
  const kept = s.placed.map((l) => l.placement)
  const { placements, move, forget } = useMoves(kept, s.plate.version ?? 0, busy, save)
  // What is laid anew or taken away holds over moves that are not saved yet.
  const saveNow = (list: Placement[]) => {
    forget()
    save(list)
  }
  const at = Math.min(selected, placements.length - 1)
  const change = (i: number, by: Partial<Placement>) => move(placements.map((p, k) => (k === i ? { ...p, ...by } : p)))
  const remove = (i: number) => saveNow(placements.filter((_, k) => k !== i))
  const key = (e: KeyboardEvent, i: number) => {
    const p = placements[i]
    if (!p || locked || e.ctrlKey || e.metaKey || e.altKey) return
    const step = e.shiftKey ? coarseMM : fineMM
    const moves: Record<string, Partial<Placement>> = {
      ArrowLeft: { x_mm: p.x_mm - step },
      ArrowRight: { x_mm: p.x_mm + step },
      ArrowUp: { y_mm: p.y_mm + step },
      ArrowDown: { y_mm: p.y_mm - step },
      r: { turn_deg: (p.turn_deg + turnDeg) % 360 },
      R: { turn_deg: (p.turn_deg + 360 - turnDeg) % 360 },
    }
    const by = moves[e.key]
    if (by) change(i, by)
    else if (e.key === 'Delete') remove(i)
    else return
    e.preventDefault()
  }
  const drag = (i: number, dx: number, dy: number, end: boolean) => {
    if (locked) return
    const p = placements[i]
    if (!end) setDragged({ i, dx, dy })
    else {
      setDragged(undefined)
      if (p && (dx !== 0 || dy !== 0)) change(i, { x_mm: p.x_mm + dx, y_mm: p.y_mm + dy })
    }
  }
  const bad = new Set(s.troubles.flatMap((t) => [t.item, ...(t.other == null ? [] : [t.other])]))
  const shown = s.placed.map((l, i) => {
    const p = placements[i] ?? l.placement
    const [dx, dy] = dragged?.i === i ? [dragged.dx, dragged.dy] : [0, 0]
    const label = p.number == null ? String(i + 1) : String(p.number)
    return {
      key: String(i), // a copy keeps its place in the list, and so the focus, when the plate is saved
      label,
      name: `${l.piece} ${label}, at ${figure(p.x_mm)} and ${figure(p.y_mm)} mm, turned ${figure(p.turn_deg)}°`,
      outline: carried(l.outline, l.placement, p).map(([x, y]) => [x + dx, y + dy]),
      x: p.x_mm + dx,
      y: p.y_mm + dy,
      bad: bad.has(i),
    }
  })
  return (
    <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_21rem]">
      <section className="sheet grid gap-2" aria-label="The plate">
        <PlateMap
          machine={s.machine}
          margin={s.plate.margin_mm}
          usable={s.usable}
          items={shown}
          title={`Plate of ${s.machine.name}, ${counted(s.placed.length, 'copy', 'copies')}`}
          selected={locked ? undefined : at}
          onSelect={locked ? undefined : setSelected}
          onKey={key}
          onDrag={locked ? undefined : drag}
        />
        <p className="text-sm text-soft">
          {s.usable.says}{' '}
          {!locked && s.placed.length > 0 && (
            <>
              Tab chooses a copy, arrows move it by {fineMM} mm (with Shift {coarseMM}), <kbd className="num">r</kbd>{' '}
              turns it, Delete takes it away; or drag it.
            </>
          )}
        </p>
        {s.troubles.length > 0 && (
          <ul className="grid gap-1" aria-label="What is wrong on the plate">
            {s.troubles.slice(0, 8).map((t, i) => (
              <li key={i} className="border-l-4 border-bad pl-2">
                {shown[t.item]?.name.split(',')[0]} {t.message}.
              </li>
            ))}
            {s.troubles.length > 8 && <li className="text-soft">and {s.troubles.length - 8} more</li>}
          </ul>
        )}
      </section>
      <div className="grid gap-4">
        {!locked && <Add s={s} save={saveNow} busy={busy} />}
        {!locked && placements[at] && (
          <Selected
            key={`${at} ${placements[at].x_mm} ${placements[at].y_mm} ${placements[at].turn_deg}`}
            p={placements[at]}
            name={s.placed[at]?.piece ?? ''}
            change={(by) => change(at, by)}
            remove={() => remove(at)}
          />
        )}
        {s.fits.length > 0 && (
          <section className="sheet">
            <h2>How many fit</h2>
            <ul className="mt-1 grid gap-1">
              {s.fits.map((f) => (
                <li key={f.piece_id + f.scale_pct}>
                  <Link to={`/kit/pieces/${f.piece_id}`}>{f.piece}</Link>
                  {f.scale_pct !== 100 && <span className="num"> at {figure(f.scale_pct)} %</span>}: a full plate takes{' '}
                  <span className="num font-semibold">{f.capacity}</span>; here <span className="num">{f.copies}</span>.
                </li>
              ))}
            </ul>
            <p className="mt-1 text-sm text-soft">Laid by rule; by hand one more may find room.</p>
          </section>
        )}
      </div>
    </div>
  )
}

/** How long after the last step moves are saved together, in ms. */
const settled = 250

/**
 * Moves show at once and are saved together when the keys rest, one save at a time: steps in quick succession neither
 * wait for each other nor refuse each other.
 */
function useMoves(kept: Placement[], version: number, busy: boolean, save: Props['save']) {
  const [moved, setMoved] = useState<{ list: Placement[]; sentAt?: number }>()
  const open = moved && (moved.sentAt === undefined || moved.sentAt >= version) ? moved : undefined
  useEffect(() => {
    if (!open || open.sentAt !== undefined || busy) return
    const rest = setTimeout(() => {
      setMoved({ list: open.list, sentAt: version })
      save(open.list)
    }, settled)
    return () => clearTimeout(rest)
  }, [open, busy, version, save])
  return {
    placements: open?.list ?? kept,
    move: (list: Placement[]) => setMoved({ list }),
    forget: () => setMoved(undefined),
  }
}

/** An outline carried from where its copy was laid to where it is now. */
function carried(outline: number[][], from: Placement, to: Placement): [number, number][] {
  const turn = ((to.turn_deg - from.turn_deg) * Math.PI) / 180
  const [sin, cos] = [Math.sin(turn), Math.cos(turn)]
  return outline.map(([x = 0, y = 0]) => {
    const [dx, dy] = [x - from.x_mm, y - from.y_mm]
    return [to.x_mm + dx * cos - dy * sin, to.y_mm + dx * sin + dy * cos]
  })
}

function Add({ s, save, busy }: { s: PlateSheet; save: Props['save']; busy: boolean }) {
  const pieces = usePieces()
  const [v, setV] = useState({ piece: '', copies: '1', scale: '100' })
  const pack = useMutation({
    mutationFn: (more: boolean) =>
      answer(
        api.POST('/api/v1/pack', {
          body: {
            plate: s.plate,
            placements: s.placed.map((l) => l.placement),
            more: more ? { piece_id: v.piece, copies: n(v.copies), scale_pct: n(v.scale) } : undefined,
          },
        }),
      ),
    onSuccess: (packed) => save(packed.placements),
  })
  return (
    <form
      className="sheet grid gap-3"
      aria-label="Add copies"
      onSubmit={(e) => {
        e.preventDefault()
        pack.mutate(true)
      }}
    >
      <h2>Add copies</h2>
      <label className="text-sm font-semibold">
        Piece
        <select
          className="input font-normal"
          required
          value={v.piece}
          onChange={(e) => setV({ ...v, piece: e.target.value })}
        >
          <option value="">choose</option>
          {(pieces.data ?? []).map((p) => (
            <option key={p.piece.id} value={p.piece.id}>
              {p.piece.name}
            </option>
          ))}
        </select>
      </label>
      <div className="grid grid-cols-2 gap-3">
        <label className="text-sm font-semibold">
          Copies
          <input
            className="input num font-normal"
            inputMode="numeric"
            value={v.copies}
            onChange={(e) => setV({ ...v, copies: e.target.value })}
          />
        </label>
        <label className="text-sm font-semibold">
          Scale <span className="num font-normal text-soft">%</span>
          <input
            className="input num font-normal"
            inputMode="decimal"
            value={v.scale}
            onChange={(e) => setV({ ...v, scale: e.target.value })}
          />
        </label>
      </div>
      {pack.isError && <Complaint>{pack.error.message}</Complaint>}
      {pack.data?.message && <Complaint>{pack.data.message}</Complaint>}
      <div className="flex flex-wrap gap-2">
        <button className="button button-main" disabled={busy || pack.isPending}>
          Add and lay out
        </button>
        {s.placed.length > 1 && (
          <button type="button" className="button" disabled={busy || pack.isPending} onClick={() => pack.mutate(false)}>
            Lay out anew
          </button>
        )}
      </div>
    </form>
  )
}

/** Numbers for the copy in hand, for those who type rather than drag. */
function Selected({
  p,
  name,
  change,
  remove,
}: {
  p: Placement
  name: string
  change: (by: Partial<Placement>) => void
  remove: () => void
}) {
  const [v, setV] = useState({ x_mm: figure(p.x_mm, 5), y_mm: figure(p.y_mm, 5), turn_deg: figure(p.turn_deg, 4) })
  const box = (key: keyof typeof v, label: string, unit: string) => (
    <label className="text-sm font-semibold">
      {label} <span className="num font-normal text-soft">{unit}</span>
      <input
        className="input num font-normal"
        inputMode="decimal"
        value={v[key]}
        onChange={(e) => setV({ ...v, [key]: e.target.value })}
      />
    </label>
  )
  return (
    <form
      className="sheet grid gap-3"
      aria-label="The copy in hand"
      onSubmit={(e) => {
        e.preventDefault()
        change({ x_mm: n(v.x_mm), y_mm: n(v.y_mm), turn_deg: n(v.turn_deg) })
      }}
    >
      <h2>{name}</h2>
      <div className="grid grid-cols-3 gap-2">
        {box('x_mm', 'Across', 'mm')}
        {box('y_mm', 'Back', 'mm')}
        {box('turn_deg', 'Turned', '°')}
      </div>
      <div className="flex flex-wrap gap-2">
        <button className="button">Move it there</button>
        <button type="button" className="button" onClick={() => change({ turn_deg: (p.turn_deg + turnDeg) % 360 })}>
          Turn by {turnDeg}°
        </button>
        <button type="button" className="button" onClick={remove}>
          Take it away
        </button>
      </div>
    </form>
  )
}
