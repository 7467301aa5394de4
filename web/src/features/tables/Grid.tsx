import { useVirtualizer } from '@tanstack/react-virtual'
import { memo, useEffect, useRef, type ClipboardEvent, type Dispatch, type KeyboardEvent } from 'react'
import type { Schemas } from '../../lib/api'
import type { Change } from './cells'

export type Column = Schemas['Column']
export type RowFate = Schemas['RowFate']

/** What a fate is called before anything is kept. */
export const fateWords: Record<RowFate['fate'], string> = {
  kept: 'ready',
  same: 'on record',
  questioned: 'is it so?',
  refused: 'not yet',
  empty: '',
}

export const labelled = (c: Column) => (c.unit ? `${c.label}, ${c.unit}` : c.label)

/** Sends the keyboard to a cell; one out of sight is brought there first. */
interface Place {
  row: number
  col: number
}

/**
 * Rows of cells to type or paste into. Only those in sight are drawn, so that a thousand scroll as ten do. Enter goes
 * on to the next row, which begins with what stays the same; the arrows go up and down.
 */
export function Grid({
  title,
  columns,
  shown,
  rows,
  fates,
  change,
  pasted,
  at,
}: {
  title: string
  columns: Column[]
  /** Which columns are shown, by their places. */
  shown: number[]
  rows: string[][]
  fates: RowFate[]
  change: Dispatch<Change>
  pasted: (text: string, row: number, col: number) => void
  /** Told of the cell that has the keyboard. */
  at: (place: Place) => void
}) {
  const box = useRef<HTMLDivElement>(null)
  const going = useRef<Place>(undefined)
  // The list measures itself anew at every scroll; the compiler leaves this component as it is written.
  // eslint-disable-next-line react-hooks/incompatible-library
  const inSight = useVirtualizer({
    count: rows.length,
    getScrollElement: () => box.current,
    estimateSize: () => 46,
    overscan: 10,
  })
  const cell = (p: Place) => box.current?.querySelector<HTMLInputElement>(`[data-cell="${p.row}-${p.col}"]`)
  useEffect(() => {
    if (!going.current) return
    const found = cell(going.current)
    if (!found) return
    found.focus()
    found.select()
    going.current = undefined
  })
  const go = (p: Place) => {
    if (p.row < 0) return
    const found = cell(p)
    if (found) {
      found.focus()
      found.select()
      return
    }
    going.current = p
    inSight.scrollToIndex(p.row)
  }
  const carried = columns.flatMap((c, i) => (c.carried ? [i] : []))
  const press = (e: KeyboardEvent<HTMLInputElement>, p: Place) => {
    const listed = columns[p.col]!.choices.length + columns[p.col]!.offers.length > 0
    if (e.key === 'Enter' && !e.nativeEvent.isComposing) {
      e.preventDefault()
      change({ do: 'next', row: p.row, carried })
      go({ row: p.row + 1, col: shown.find((c) => !carried.includes(c)) ?? p.col })
    } else if (e.altKey && e.key === 'ArrowDown') {
      e.preventDefault()
      change({ do: 'down', row: p.row, col: p.col, all: e.shiftKey })
      if (!e.shiftKey) go({ row: p.row + 1, col: p.col })
    } else if (!e.altKey && !listed && (e.key === 'ArrowDown' || e.key === 'ArrowUp')) {
      e.preventDefault()
      go({ row: p.row + (e.key === 'ArrowDown' ? 1 : -1), col: p.col })
    } else if ((e.ctrlKey || e.metaKey) && e.key.toLowerCase() === 'z') {
      e.preventDefault()
      change({ do: e.shiftKey ? 'redo' : 'undo' })
    }
  }
  const paste = (e: ClipboardEvent<HTMLInputElement>, p: Place) => {
    const text = e.clipboardData.getData('text/plain').replace(/[\r\n]+$/, '')
    if (!/[\t\n]/.test(text)) return
    e.preventDefault()
    pasted(text, p.row, p.col)
  }
  const items = inSight.getVirtualItems()
  const above = items[0]?.start ?? 0
  const below = inSight.getTotalSize() - (items.at(-1)?.end ?? 0)
  const across = shown.length + 2
  return (
    <div
      ref={box}
      className="relative max-h-[65vh] overflow-auto rounded border border-line"
      role="region"
      aria-label={`${title}, as a table`}
    >
      <table className="cells" aria-rowcount={rows.length + 1}>
        <thead className="sticky top-0 z-20 bg-sheet">
          <tr>
            <th scope="col" className="sticky left-0 z-10 bg-sheet">
              Row
            </th>
            {shown.map((c) => (
              <th key={columns[c]!.name} scope="col">
                {columns[c]!.label}
                {columns[c]!.needed && <span title="needed in every row"> *</span>}
                {columns[c]!.unit && <span className="num block font-normal">{columns[c]!.unit}</span>}
              </th>
            ))}
            <th scope="col">What becomes of it</th>
          </tr>
        </thead>
        <tbody>
          {above > 0 && (
            <tr aria-hidden>
              <td colSpan={across} style={{ height: above, padding: 0 }} />
            </tr>
          )}
          {items.map((item) => (
            <Row
              key={item.index}
              index={item.index}
              cells={rows[item.index]!}
              columns={columns}
              shown={shown}
              fate={fates[item.index]}
              change={change}
              press={press}
              paste={paste}
              at={at}
              measure={inSight.measureElement}
            />
          ))}
          {below > 0 && (
            <tr aria-hidden>
              <td colSpan={across} style={{ height: below, padding: 0 }} />
            </tr>
          )}
        </tbody>
      </table>
      {columns.map((c) => (
        <datalist key={c.name} id={`list-${c.name}`}>
          {[...c.choices, ...c.offers].map((word) => (
            <option key={word} value={word} />
          ))}
        </datalist>
      ))}
    </div>
  )
}

/** An example that is longer than this shows that such cells are long. */
const longExample = 14

const widthOf = (c: Column) => (c.number ? 'num w-24' : c.example.length > longExample ? 'w-64' : 'w-44')

interface RowProps {
  index: number
  cells: string[]
  columns: Column[]
  shown: number[]
  fate?: RowFate
  change: Dispatch<Change>
  press: (e: KeyboardEvent<HTMLInputElement>, p: Place) => void
  paste: (e: ClipboardEvent<HTMLInputElement>, p: Place) => void
  at: (place: Place) => void
  measure: (e: HTMLElement | null) => void
}

const Row = memo(
  function Row({ index, cells, columns, shown, fate, change, press, paste, at, measure }: RowProps) {
    const wrong = (name: string) => fate?.faults.find((f) => f.column === name)
    return (
      <tr ref={measure} data-index={index} aria-rowindex={index + 2}>
        <th scope="row" className="sticky left-0 z-10 bg-sheet">
          <span className="num">{index + 1}</span>
          {fate && fate.fate !== 'empty' && (
            <span
              className={`block text-xs font-semibold ${fate.fate === 'refused' || fate.fate === 'questioned' ? 'text-bad' : 'text-soft'}`}
            >
              {fateWords[fate.fate]}
            </span>
          )}
        </th>
        {shown.map((col) => {
          const c = columns[col]!
          const fault = wrong(c.name)
          return (
            <td key={c.name}>
              <input
                className={`input ${widthOf(c)}`}
                aria-label={`${labelled(c)}, row ${index + 1}`}
                aria-invalid={fault !== undefined}
                title={fault && `${c.label}: ${fault.says}`}
                data-cell={`${index}-${col}`}
                list={c.choices.length + c.offers.length > 0 ? `list-${c.name}` : undefined}
                inputMode={c.number ? 'decimal' : undefined}
                placeholder={index === 0 ? c.example : undefined}
                autoComplete="off"
                value={cells[col]}
                onFocus={() => at({ row: index, col })}
                onChange={(e) => change({ do: 'type', row: index, col, text: e.target.value })}
                onKeyDown={(e) => press(e, { row: index, col })}
                onPaste={(e) => paste(e, { row: index, col })}
              />
            </td>
          )
        })}
        <td className="min-w-96 text-sm">{fate && <Says fate={fate} columns={columns} />}</td>
      </tr>
    )
  },
  // What the keys do hangs on nothing that changes by itself.
  (a, b) =>
    a.index === b.index &&
    a.cells === b.cells &&
    a.columns === b.columns &&
    a.shown === b.shown &&
    same(a.fate, b.fate),
)

const same = (a?: RowFate, b?: RowFate) => a === b || JSON.stringify(a) === JSON.stringify(b)

/** What a row was understood to say, or what is wrong with it. */
export function Says({ fate, columns }: { fate: RowFate; columns: Column[] }) {
  if (fate.faults.length === 0) return <span className={fate.fate === 'same' ? 'text-soft' : ''}>{fate.says}</span>
  return (
    <span className="font-semibold text-bad">
      {fate.faults
        .map((f) => [columns.find((c) => c.name === f.column)?.label, f.says].filter(Boolean).join(': '))
        .join('; ')}
    </span>
  )
}
