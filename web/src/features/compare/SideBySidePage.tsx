import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { useAddress } from '../../lib/address'
import { answer, api, type Schemas } from '../../lib/api'
import { figure } from '../../lib/format'
import { Panes, type Mode } from './Panes'

type Side = Schemas['SideBySide']

const modes: { value: Mode; label: string }[] = [
  { value: 'beside', label: 'Side by side' },
  { value: 'wipe', label: 'Wipe' },
  { value: 'blink', label: 'Blink' },
  { value: 'loupe', label: 'Loupe' },
]

/** Two to six photographs, moved and enlarged together; what is shown lives in the address. */
export default function SideBySidePage() {
  const [params, change] = useAddress()
  const ids = params.getAll('id')
  const labels = params.getAll('label')
  const side = useQuery({
    queryKey: ['photographs', 'beside', ids],
    enabled: ids.length > 0,
    queryFn: () => answer(api.GET('/api/v1/side-by-side', { params: { query: { id: ids } } })),
  })
  const drop = (at: number) =>
    change((next) => {
      next.delete('id')
      next.delete('label')
      ids.forEach((id, i) => i !== at && next.append('id', id))
      labels.forEach((l, i) => i !== at && next.append('label', l))
    })
  if (ids.length === 0)
    return (
      <Page title="Photographs side by side">
        <Empty title="No photographs are chosen">
          <p>
            Choose them on a comparison, under <em>Photographs of the sides</em>, or on a specimen.
          </p>
          <Link to="/compare">Compare set-ups</Link>
        </Empty>
      </Page>
    )
  return <Ready of={side}>{(s) => <Beside side={s} labels={labels} drop={drop} />}</Ready>
}

function Beside({ side, labels, drop }: { side: Side; labels: string[]; drop: (at: number) => void }) {
  const [mode, setMode] = useState<Mode>('beside')
  const [matched, setMatched] = useState(true)
  const [bright, setBright] = useState(1)
  const all = side.photographs
  const scaleless = all.filter((p) => p.mm_per_px == null)
  const names = all.map((p, i) => [labels[i], p.specimen_code].filter(Boolean).join(' '))
  return (
    <Page
      title="Photographs side by side"
      about={side.common.map((f) => `${f.name.toLowerCase()} ${f.value}`).join(', ')}
      actions={
        <button className="button" onClick={() => window.print()}>
          Print
        </button>
      }
    >
      <div className="sheet no-print flex flex-wrap items-end gap-4">
        <fieldset className="flex flex-wrap gap-2">
          <legend className="sr-only">How they are shown</legend>
          {modes.map((m) => (
            <button
              key={m.value}
              className={`button ${mode === m.value ? 'button-main' : ''}`}
              aria-pressed={mode === m.value}
              disabled={all.length < 2 && m.value !== 'beside' && m.value !== 'loupe'}
              onClick={() => setMode(m.value)}
            >
              {m.label}
            </button>
          ))}
        </fieldset>
        <label className="text-sm font-semibold">
          Brightness of all <span className="num font-normal text-soft">{figure(bright)} ×</span>
          <input
            type="range"
            className="block min-h-(--tap) w-44 accent-(--act)"
            min={0.5}
            max={2}
            step={0.1}
            value={bright}
            onChange={(e) => setBright(Number(e.target.value))}
          />
        </label>
        {side.scaled && all.length > 1 && (
          <label className="flex min-h-(--tap) items-center gap-2">
            <input type="checkbox" checked={matched} onChange={(e) => setMatched(e.target.checked)} />
            to one scale
          </label>
        )}
      </div>
      <Panes
        key={`${mode} ${side.photographs.map((p) => p.id).join()}`}
        photographs={all}
        names={names}
        mode={mode}
        matched={matched && side.scaled}
        bright={bright}
        drop={drop}
      />
      <p className="text-sm text-soft">
        {side.scaled && matched
          ? 'All are shown to one scale.'
          : 'Each is as large as it fits; sizes do not compare by eye.'}{' '}
        {bright === 1
          ? 'Nothing was done to them but turning and resizing.'
          : `All are shown ${figure(bright)} times as bright; nothing else was done to them but turning and resizing.`}
      </p>
      {scaleless.length > 0 && (
        <p>
          To show them to one scale, click a known length on{' '}
          {scaleless.map((p, i) => (
            <span key={p.id}>
              {i > 0 && ', '}
              <Link to={`/photographs/${p.id}`}>{p.code}</Link>
            </span>
          ))}
          .
        </p>
      )}
      <Sheets side={side} labels={labels} />
    </Page>
  )
}

/** The sheets that go out: with labels, and blind with its key folded away. */
function Sheets({ side, labels }: { side: Side; labels: string[] }) {
  const ids = side.photographs.map((p) => p.id ?? '')
  const named = labels.length === ids.length ? labels : []
  const query = new URLSearchParams([...ids.map((id) => ['id', id]), ...named.map((l) => ['label', l])]).toString()
  const [open, setOpen] = useState(false)
  const key = useQuery({
    queryKey: ['photographs', 'key', query],
    enabled: open,
    queryFn: () => answer(api.GET('/api/v1/picture-sheet/key', { params: { query: { id: ids, label: named } } })),
  })
  return (
    <section className="sheet no-print grid gap-2" aria-label="Picture sheets">
      <h2>Picture sheets</h2>
      <p className="flex flex-wrap gap-3">
        <a className="button" href={`/api/v1/picture-sheet.png?${query}`} download>
          Save the sheet with labels, PNG
        </a>
        <a className="button" href={`/api/v1/picture-sheet.png?${query}&blind=true`} download>
          Save the blind sheet, codes only
        </a>
      </p>
      <details onToggle={(e) => setOpen(e.currentTarget.open)}>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
          Key of the blind sheet: open it when all have judged
        </summary>
        <Ready of={key}>
          {(rows) => (
            <ul>
              {rows.map((r) => (
                <li key={r.code}>
                  <strong className="num">{r.code}</strong> is{' '}
                  {[r.label, r.specimen, r.photograph].filter(Boolean).join(', ')}
                </li>
              ))}
            </ul>
          )}
        </Ready>
      </details>
    </section>
  )
}
