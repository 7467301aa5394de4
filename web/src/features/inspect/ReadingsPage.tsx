import { useQuery } from '@tanstack/react-query'
import { useVirtualizer } from '@tanstack/react-virtual'
import { useDeferredValue, useMemo, useRef } from 'react'
import { Link, useSearchParams } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, figure, moment } from '../../lib/format'
import { useMachines, usePieces } from '../../lib/queries'

type Line = Schemas['ReadingLine']

/** Every reading of the record, the last first: narrowed by machine, piece and any words. */
export default function ReadingsPage() {
  const [params, setParams] = useSearchParams()
  const [machine, piece, words] = ['machine', 'piece', 'words'].map((k) => params.get(k) ?? '') as [
    string,
    string,
    string,
  ]
  const set = (key: string, value: string) =>
    setParams(
      (old) => {
        if (value) old.set(key, value)
        else old.delete(key)
        return old
      },
      { replace: true },
    )
  const machines = useMachines()
  const pieces = usePieces()
  const readings = useQuery({
    queryKey: ['reading lines', machine, piece],
    queryFn: () => answer(api.GET('/api/v1/readings', { params: { query: { machine_id: machine, piece_id: piece } } })),
  })
  return (
    <Page title="Readings" about="What was read of copies of prints, the last first, also what counts no more and why.">
      <div className="sheet flex flex-wrap items-end gap-4">
        <label className="text-sm font-semibold">
          Machine
          <select
            className="input font-normal"
            aria-label="Machine"
            value={machine}
            onChange={(e) => set('machine', e.target.value)}
          >
            <option value="">all</option>
            {(machines.data ?? []).map((m) => (
              <option key={m.machine.id} value={m.machine.id}>
                {m.machine.name}
              </option>
            ))}
          </select>
        </label>
        <label className="text-sm font-semibold">
          Piece
          <select
            className="input font-normal"
            aria-label="Piece"
            value={piece}
            onChange={(e) => set('piece', e.target.value)}
          >
            <option value="">all</option>
            {(pieces.data ?? []).map((p) => (
              <option key={p.piece.id} value={p.piece.id}>
                {p.piece.name}
              </option>
            ))}
          </select>
        </label>
        <label className="min-w-40 flex-1 text-sm font-semibold">
          Words in it
          <input
            className="input font-normal"
            placeholder="a code, a feature, taken back, doubtful …"
            value={words}
            onChange={(e) => set('words', e.target.value)}
          />
        </label>
      </div>
      <Ready of={readings}>
        {({ lines, more }) =>
          lines.length === 0 ? (
            <Empty title="Nothing was read yet">
              <Link to="/inspect">Take a plate to read</Link>
            </Empty>
          ) : (
            <Lines lines={lines} more={more} words={words} />
          )
        }
      </Ready>
    </Page>
  )
}

const searched = (l: Line) =>
  [l.run, l.specimen, l.machine, l.piece, l.feature, l.says, l.instrument, l.counts, l.doubtful ? 'doubtful' : '']
    .join(' ')
    .toLowerCase()

const columns = ['When', 'Copy', 'Piece', 'Feature', 'Read', 'Error', 'Instrument', 'Counts']

/** Only the rows in sight are drawn, so that ten thousand scroll as ten do. */
function Lines({ lines, more, words }: { lines: Line[]; more: boolean; words: string }) {
  const asked = useDeferredValue(words)
  const texts = useMemo(() => lines.map(searched), [lines])
  const shown = useMemo(() => {
    const parts = asked.toLowerCase().split(/\s+/).filter(Boolean)
    return lines.filter((_, i) => parts.every((w) => texts[i]!.includes(w)))
  }, [lines, texts, asked])
  const box = useRef<HTMLDivElement>(null)
  // The list measures itself anew at every scroll; the compiler leaves this component as it is written.
  // eslint-disable-next-line react-hooks/incompatible-library
  const rows = useVirtualizer({
    count: shown.length,
    getScrollElement: () => box.current,
    estimateSize: () => 44,
    overscan: 12,
  })
  const inSight = rows.getVirtualItems()
  const above = inSight[0]?.start ?? 0
  const below = rows.getTotalSize() - (inSight.at(-1)?.end ?? 0)
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-2" aria-label="Every reading">
      <p role="status">
        {counted(shown.length, 'reading')}
        {more &&
          `; the record holds more than the newest ${counted(lines.length, 'reading')}: choose a machine or a piece`}
      </p>
      {shown.length === 0 && <p className="text-soft">No reading holds these words.</p>}
      {/* The box scrolls, so the keyboard must reach it. */}
      <div
        ref={box}
        hidden={shown.length === 0}
        className="relative max-h-[70vh] overflow-auto"
        tabIndex={0}
        aria-label="List of readings"
        role="region"
      >
        <table className="rows" aria-rowcount={shown.length + 1}>
          <thead className="sticky top-0 z-10 bg-sheet">
            <tr>
              {columns.map((c) => (
                <th key={c}>{c}</th>
              ))}
            </tr>
          </thead>
          <tbody>
            {above > 0 && (
              <tr aria-hidden>
                <td colSpan={columns.length} style={{ height: above, padding: 0 }} />
              </tr>
            )}
            {inSight.map((item) => (
              <Row
                key={shown[item.index]!.id}
                index={item.index}
                l={shown[item.index]!}
                measure={rows.measureElement}
              />
            ))}
            {below > 0 && (
              <tr aria-hidden>
                <td colSpan={columns.length} style={{ height: below, padding: 0 }} />
              </tr>
            )}
          </tbody>
        </table>
      </div>
    </section>
  )
}

function Row({ l, index, measure }: { l: Line; index: number; measure: (e: HTMLElement | null) => void }) {
  return (
    <tr ref={measure} data-index={index} aria-rowindex={index + 2} className={l.counts === 'yes' ? '' : 'text-soft'}>
      <td className="num whitespace-nowrap">{moment(l.recorded_ms)}</td>
      <td className="num whitespace-nowrap">
        <Link to={`/specimens/${l.specimen}`}>{l.specimen}</Link>
      </td>
      <td>{l.piece}</td>
      <td>{l.feature}</td>
      <td className="num whitespace-nowrap">{l.says}</td>
      <td className="num whitespace-nowrap">
        {l.error_um != null && `${l.error_um > 0 ? '+' : ''}${figure(l.error_um)} µm`}
      </td>
      <td>
        {l.instrument}
        {l.doubtful && <span className="font-semibold text-bad"> doubtful</span>}
      </td>
      <td>{l.counts}</td>
    </tr>
  )
}
