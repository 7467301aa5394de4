/** The cells of a table while they are typed, with what they were before each change. */
export interface Cells {
  rows: string[][]
  past: string[][][]
  future: string[][][]
  /** The cell that is being typed into: going on in it is one change. */
  typing: string
}

export type Change =
  | { do: 'type'; row: number; col: number; text: string }
  | { do: 'put'; row: number; columns: number[]; cells: string[][] }
  | { do: 'down'; row: number; col: number; all: boolean }
  | { do: 'next'; row: number; carried: number[] }
  | { do: 'remove'; row: number }
  | { do: 'clear' }
  | { do: 'left'; rows: string[][] }
  | { do: 'undo' }
  | { do: 'redo' }

/** How many rows stand ready at the end, and how many there are at least. */
const atLeast = 5
/** How many changes can be undone. */
const remembered = 100

export const isBlank = (row: string[] | undefined) => !row?.some((cell) => cell.trim() !== '')

/** Rows with an empty one after the last, so that there is always a next. */
function padded(rows: string[][], width: number): string[][] {
  const out = [...rows]
  while (out.length < atLeast || !isBlank(out.at(-1))) out.push(Array<string>(width).fill(''))
  return out
}

export const begin = (rows: string[][], width: number): Cells => ({
  rows: padded(
    rows.filter((r) => r.length === width),
    width,
  ),
  past: [],
  future: [],
  typing: '',
})

const withCell = (row: string[], col: number, text: string) => row.map((cell, i) => (i === col ? text : cell))

/** What a table holds after a change. */
export function changed(s: Cells, c: Change): Cells {
  const width = s.rows[0]!.length
  const to = (rows: string[][], typing = ''): Cells => ({
    rows: padded(rows, width),
    past: typing && typing === s.typing ? s.past : [...s.past, s.rows].slice(-remembered),
    future: [],
    typing,
  })
  switch (c.do) {
    case 'type':
      return to(
        s.rows.map((row, i) => (i === c.row ? withCell(row, c.col, c.text) : row)),
        `${c.row} ${c.col}`,
      )
    case 'put': {
      const rows = [...s.rows]
      c.cells.forEach((cells, i) => {
        const row = [...(rows[c.row + i] ?? Array<string>(width).fill(''))]
        c.columns.forEach((col, j) => {
          row[col] = cells[j] ?? ''
        })
        rows[c.row + i] = row
      })
      return to(rows)
    }
    case 'down': {
      const text = s.rows[c.row]?.[c.col] ?? ''
      const last = s.rows.findLastIndex((row) => !isBlank(row))
      const until = c.all ? last : c.row + 1
      return to(s.rows.map((row, i) => (i > c.row && i <= until ? withCell(row, c.col, text) : row)))
    }
    case 'next': {
      const from = s.rows[c.row]
      if (!from || isBlank(from) || !isBlank(s.rows[c.row + 1])) return s
      const next = from.map((cell, col) => (c.carried.includes(col) ? cell : ''))
      return to(s.rows.map((row, i) => (i === c.row + 1 ? next : row)))
    }
    case 'remove':
      return to(s.rows.filter((_, i) => i !== c.row))
    case 'clear':
      return to([])
    case 'left':
      return begin(c.rows, width)
    case 'undo': {
      const rows = s.past.at(-1)
      return rows ? { rows, past: s.past.slice(0, -1), future: [s.rows, ...s.future], typing: '' } : s
    }
    case 'redo': {
      const [rows, ...future] = s.future
      return rows ? { rows, past: [...s.past, s.rows], future, typing: '' } : s
    }
  }
}
