import { useMutation } from '@tanstack/react-query'
import { useRef, useState, type ClipboardEvent, type KeyboardEvent } from 'react'
import { Complaint } from '../../components/Page'
import { ProblemError, type Schemas } from '../../lib/api'
import { valuesOf, type Kind } from '../../lib/choices'
import { counted, figure, reading } from '../../lib/format'
import { n } from '../../lib/input'
import { dropKeys, holdKeys, pourKeys } from '../../lib/typeAhead'
import { readOf, type InHand } from './inHand'

const states = valuesOf<Kind<'Reading', 'state'>>({ present: true, damaged: true, missing: true })

type Feature = Schemas['Feature']
type Specimen = Schemas['Specimen']

/** What stands in a box that is not kept: why, and whether Enter keeps it all the same. */
interface Waiting {
  text: string
  says?: string
  questioned?: boolean
}

/** The whole plate at once, a table for each piece: copies by features, for those who read one feature over all copies. */
export function PlateGrid({ sheet, instrument }: { sheet: InHand; instrument: string }) {
  const copies = sheet.specimens.filter((s) => s.outcome !== 'lost' && !sheet.set_aside.includes(s.code ?? ''))
  return sheet.pieces.map((piece) => (
    <PieceGrid
      key={piece.id}
      name={piece.name}
      sheet={sheet}
      instrument={instrument}
      copies={copies.filter((s) => s.piece_id === piece.id)}
      features={sheet.features.filter((f) => f.retired_ms == null && f.piece_id === piece.id)}
    />
  ))
}

interface GridProps {
  name: string
  sheet: InHand
  instrument: string
  copies: Specimen[]
  features: Feature[]
}

function PieceGrid({ name, sheet, instrument, copies, features }: GridProps) {
  const table = useRef<HTMLTableSectionElement>(null)
  const [waiting, setWaiting] = useState<Record<string, Waiting>>({})
  const [last, setLast] = useState<{ id: string; key: string }>()
  const keyOf = (row: number, column: number) => `${copies[row]?.id}:${features[column]?.id}`
  const put = (key: string, w?: Waiting) =>
    setWaiting((all) => {
      const others = { ...all }
      delete others[key]
      return w && w.text !== '' ? { ...others, [key]: w } : others
    })
  /** Keeps what a box holds, and says whether it is kept. */
  const keep = useMutation({
    mutationFn: async ({ row, column, text, confirmed }: Cell & { text: string; confirmed: boolean }) => {
      const [copy, feature] = [copies[row]!, features[column]!]
      const after = await sheet.keep(asRead(sheet, copy, feature, instrument, text), confirmed)
      return { copy, feature, after }
    },
  })
  const keepBox = async (cell: Cell, text: string, confirmed: boolean) => {
    const key = keyOf(cell.row, cell.column)
    try {
      const { copy, feature, after } = await keep.mutateAsync({ ...cell, text, confirmed })
      put(key)
      const now = readOf(after, copy.id, feature.id).at(-1)
      setLast(now?.id ? { id: now.id, key } : undefined)
      return true
    } catch (e) {
      const problem = e instanceof ProblemError ? e.problem : undefined
      const questioned = problem?.type === 'urn:ojime:questioned'
      put(key, { text, says: problem?.errors?.[0]?.message ?? String(e), questioned })
      return false
    }
  }
  const undo = useMutation({
    mutationFn: (slip: { id: string }) => sheet.takeBack(slip.id, 'a slip, undone at once'),
    onSuccess: () => setLast(undefined),
  })
  const focus = (row: number, column: number) => {
    const box = table.current?.rows[row]?.cells[column + 1]?.querySelector<HTMLElement>('input, select')
    box?.focus()
    if (box instanceof HTMLInputElement) box.select()
  }
  /** The box below, at the foot of a column the first of the next. */
  const onwards = ({ row, column }: Cell) =>
    row + 1 < copies.length ? focus(row + 1, column) : focus(0, (column + 1) % features.length)
  const press = async (e: KeyboardEvent<HTMLInputElement>, cell: Cell) => {
    const w = waiting[keyOf(cell.row, cell.column)]
    if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
      e.preventDefault()
      focus(cell.row + (e.key === 'ArrowDown' ? 1 : -1), cell.column)
    } else if (e.key === 'Escape') put(keyOf(cell.row, cell.column))
    else if (e.key === 'Backspace' && !w && last && !undo.isPending) {
      e.preventDefault()
      undo.mutate(last)
    } else if (e.key === 'Enter' && !keep.isPending) {
      e.preventDefault()
      if (!w) return onwards(cell)
      holdKeys()
      if (!(await keepBox(cell, w.text, w.questioned ?? false))) return dropKeys()
      onwards(cell)
      pourKeys()
    }
  }
  /** A block of a spreadsheet fills boxes rightwards and down, and is kept box by box. */
  const paste = async (e: ClipboardEvent<HTMLInputElement>, from: Cell) => {
    const block = e.clipboardData.getData('text').replace(/\r/g, '').replace(/\n$/, '')
    if (!/[\t\n]/.test(block)) return
    e.preventDefault()
    const boxes = block
      .split('\n')
      .flatMap((line, i) => line.split('\t').map((text, j) => ({ row: from.row + i, column: from.column + j, text })))
      .filter((b) => b.row < copies.length && b.column < features.length && b.text.trim() !== '')
    for (const { text, ...cell } of boxes) await keepBox(cell, text.trim(), false)
  }
  const refused = Object.entries(waiting).filter(([, w]) => w.says)
  if (features.length === 0 || copies.length === 0) return null
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-2" aria-label={`Readings of ${name}`}>
      <h2>
        {name}: {counted(copies.length, 'copy', 'copies')} × {counted(features.length, 'feature')}
      </h2>
      <p className="text-sm text-soft">
        Enter keeps a value and goes down; arrows move; Backspace in an empty box takes the last back. Of a ladder, type
        the smallest that is whole, or none. A block of a spreadsheet can be pasted.
      </p>
      <div className="relative overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th className="sticky left-0 z-10 bg-sheet">Copy</th>
              {features.map((f) => (
                <th key={f.id} className="min-w-28 align-bottom">
                  {f.name}
                  <span className="block font-normal text-soft">{asks(f)}</span>
                </th>
              ))}
            </tr>
          </thead>
          <tbody ref={table}>
            {copies.map((copy, row) => (
              <tr key={copy.id}>
                <th scope="row" className="num sticky left-0 z-10 bg-sheet whitespace-nowrap">
                  {copy.code}
                </th>
                {features.map((feature, column) => (
                  <td key={feature.id} className="align-top">
                    <Box
                      sheet={sheet}
                      copy={copy}
                      feature={feature}
                      waiting={waiting[keyOf(row, column)]}
                      type={(text) => put(keyOf(row, column), { text })}
                      press={(e) => void press(e, { row, column })}
                      paste={(e) => void paste(e, { row, column })}
                      choose={(state) => void keepBox({ row, column }, state, false)}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {undo.isError && <Complaint>{undo.error.message}</Complaint>}
      {refused.length > 0 && (
        <ul role="alert" className="grid gap-1">
          {refused.map(([key, w]) => (
            <li key={key} id={`why-${key}`} className="font-semibold text-bad">
              {nameOf(key, copies, features)}: {w.says} {w.questioned && 'Enter in its box keeps it.'}
            </li>
          ))}
        </ul>
      )}
    </section>
  )
}

interface Cell {
  row: number
  column: number
}

interface BoxProps {
  sheet: InHand
  copy: Specimen
  feature: Feature
  waiting?: Waiting
  type: (text: string) => void
  press: (e: KeyboardEvent<HTMLInputElement>) => void
  paste: (e: ClipboardEvent<HTMLInputElement>) => void
  choose: (state: string) => void
}

/** What was read of a feature of a copy, and the box of the next reading. */
function Box({ sheet, copy, feature, waiting, type, press, paste, choose }: BoxProps) {
  const read = sheet.readings.filter((r) => r.specimen_id === copy.id && r.feature_id === feature.id)
  const label = `${feature.name} of ${copy.code}`
  if (feature.kind === 'checkpoint') {
    return (
      <select
        className="input"
        aria-label={label}
        value={read.at(-1)?.state ?? ''}
        onChange={(e) => choose(e.target.value)}
      >
        <option value="" disabled>
          –
        </option>
        {states.map((s) => (
          <option key={s}>{s}</option>
        ))}
      </select>
    )
  }
  return (
    <>
      <input
        className="input num w-24"
        inputMode="decimal"
        autoComplete="off"
        data-unit="mm"
        data-advance=""
        aria-label={`${label}, ${feature.kind === 'dimension' ? 'next reading' : 'smallest whole'} in mm`}
        aria-invalid={waiting?.says != null}
        aria-describedby={waiting?.says ? `why-${copy.id}:${feature.id}` : undefined}
        value={waiting?.text ?? ''}
        onChange={(e) => type(e.target.value)}
        onKeyDown={press}
        onPaste={paste}
      />
      <span className="num block text-sm">
        {feature.kind === 'dimension'
          ? readOf(sheet, copy.id, feature.id).map((r) => (
              <span key={r.id}>
                {reading(r.value_mm)}
                {sheet.doubtful.includes(r.id ?? '') && <sup className="font-bold text-bad">?</sup>}{' '}
              </span>
            ))
          : read.length > 0 && wholeOf(read)}
      </span>
    </>
  )
}

const asks = (f: Feature) => {
  if (f.kind === 'dimension') return `${f.nominal_mm?.toFixed(2)} mm, ${f.axis}`
  if (f.kind === 'checkpoint') return f.place || 'looked at'
  return `${f.kind}, ${f.rungs_mm.map((mm) => figure(mm)).join(' ')} mm`
}

/** The sizes of a ladder that are whole, as they were read. */
const wholeOf = (read: Schemas['Reading'][]) => {
  const whole = read.filter((r) => r.intact).map((r) => r.rung_mm ?? 0)
  return whole.length === 0
    ? 'none whole'
    : `whole: ${whole
        .sort((a, b) => a - b)
        .map((mm) => figure(mm))
        .join(' ')}`
}

const nameOf = (key: string, copies: Specimen[], features: Feature[]) => {
  const [copy, feature] = key.split(':')
  return `${copies.find((c) => c.id === copy)?.code}, ${features.find((f) => f.id === feature)?.name}`
}

/** A box as readings: a size, a state, or a ladder told by the smallest size that is whole, which corrects what was read. */
function asRead(sheet: InHand, copy: Specimen, feature: Feature, instrument: string, text: string) {
  const of = { specimen_id: copy.id ?? '', feature_id: feature.id ?? '' }
  const old = (rung?: number) =>
    sheet.readings.find(
      (r) => r.specimen_id === copy.id && r.feature_id === feature.id && (rung === undefined || r.rung_mm === rung),
    )?.id ?? null
  if (feature.kind === 'dimension') return [{ ...of, instrument_id: instrument || null, value_mm: n(text) }]
  if (feature.kind === 'checkpoint') return [{ ...of, state: text as (typeof states)[number], corrects_id: old() }]
  const smallest = text.trim().toLowerCase() === 'none' ? Infinity : n(text)
  const known = smallest === Infinity || feature.rungs_mm.includes(smallest as number)
  // A size that the ladder has not is sent as it stands, so that the record says so.
  if (!known) return [{ ...of, rung_mm: smallest, intact: true }]
  return feature.rungs_mm.map((rung) => ({
    ...of,
    rung_mm: rung,
    intact: rung >= (smallest as number),
    corrects_id: old(rung),
  }))
}
