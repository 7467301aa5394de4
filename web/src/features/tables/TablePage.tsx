import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useReducer, useState } from 'react'
import { NavLink, useParams } from 'react-router'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted } from '../../lib/format'
import { begin, changed, isBlank } from './cells'
import { Grid, labelled, Says } from './Grid'
import { useSettled } from './useSettled'

type Kind = Schemas['Table']

/** The tables, in the order in which an empty record is filled; pieces come from their files. */
const kinds = [
  { to: '/tables/machines', label: 'Machines' },
  { to: '/tables/resins', label: 'Resins and bottles' },
  { to: '/tables/settings', label: 'Settings' },
  { to: '/kit/pieces/new', label: 'Pieces' },
  { to: '/tables/features', label: 'What is measured' },
  { to: '/tables/prints', label: 'Prints' },
  { to: '/tables/outcomes', label: 'Outcomes' },
]

export default function TablePage() {
  const { kind = '' } = useParams()
  const table = useQuery({
    queryKey: ['table', kind],
    queryFn: () => answer(api.GET('/api/v1/tables/{kind}', { params: { path: { kind } } })),
  })
  return (
    <Page
      wide
      title={table.data?.title ?? 'Table'}
      about={table.data?.about}
      actions={
        <a className="button" href={`/api/v1/table-files/${kind}.csv`} download={`${kind}.csv`}>
          What is on record, as CSV
        </a>
      }
    >
      <nav aria-label="Tables" className="no-print flex flex-wrap gap-x-1 border-b border-line">
        {kinds.map((k) => (
          <NavLink
            key={k.to}
            to={k.to}
            className={({ isActive }) =>
              `-mb-px min-h-(--tap) content-center border-b-4 px-3 no-underline ${isActive ? 'border-act font-bold' : 'border-transparent'}`
            }
          >
            {k.label}
          </NavLink>
        ))}
      </nav>
      <Ready of={table}>{(t) => <Entry key={t.kind} table={t} />}</Ready>
    </Page>
  )
}

/** Rows that were typed and not kept stand here again after a reload, by the names of their columns. */
const draftOf = (table: Kind): string[][] => {
  const stored = sessionStorage.getItem(`table-${table.kind}`)
  const kept = stored ? (JSON.parse(stored) as Record<string, string>[]) : []
  return kept.map((row) => table.columns.map((c) => row[c.name] ?? ''))
}

const keepDraft = (table: Kind, rows: string[][]) =>
  sessionStorage.setItem(
    `table-${table.kind}`,
    JSON.stringify(
      rows
        .filter((row) => !isBlank(row))
        .map((row) => Object.fromEntries(table.columns.flatMap((c, i) => (row[i] ? [[c.name, row[i]]] : [])))),
    ),
  )

/** The rows as they are asked about: of the columns in which anything stands. */
function asked(table: Kind, rows: string[][], confirmed: boolean): Schemas['Rows'] {
  const last = rows.findLastIndex((row) => !isBlank(row))
  const filled = rows.slice(0, last + 1)
  const used = table.columns.flatMap((_, i) => (filled.some((row) => row[i]!.trim() !== '') ? [i] : []))
  const columns = used.length > 0 ? used : [0]
  return {
    columns: columns.map((i) => table.columns[i]!.name),
    rows: filled.map((row) => columns.map((i) => row[i]!)),
    confirmed,
  }
}

function Entry({ table }: { table: Kind }) {
  const params = { path: { kind: table.kind } }
  const width = table.columns.length
  const [cells, change] = useReducer(changed, undefined, () => begin(draftOf(table), width))
  const [all, setAll] = useState(false)
  const [confirmed, setConfirmed] = useState(false)
  const [place, setPlace] = useState({ row: 0, col: 0 })
  const { rows } = cells
  useEffect(() => keepDraft(table, rows), [table, rows])
  const settled = useSettled(rows)
  const body = asked(table, settled, confirmed)
  const look = useQuery({
    queryKey: ['table look', table.kind, body],
    enabled: body.rows.length > 0,
    placeholderData: keepPreviousData,
    gcTime: 0,
    retry: false,
    queryFn: ({ signal }) => answer(api.POST('/api/v1/table-looks/{kind}', { params, body, signal })),
  })
  const fates = body.rows.length > 0 ? look.data : undefined
  const paste = useMutation({
    mutationFn: ({ text }: { text: string; row: number; col: number }) =>
      answer(api.POST('/api/v1/table-texts/{kind}', { params, body: { text } })),
    onSuccess: (read, { row, col }) => {
      const named = read.columns.map((name) => table.columns.findIndex((c) => c.name === name))
      const columns = named.length > 0 ? named : shown.slice(shown.indexOf(col))
      change({ do: 'put', row, columns, cells: read.rows })
    },
  })
  const keep = useMutation({
    mutationFn: (asked: { body: Schemas['Rows']; sent: string[][] }) =>
      answer(api.POST('/api/v1/tables/{kind}', { params, body: asked.body })),
    onSuccess: (done, { sent }) => {
      // What was typed while it was being kept stays, also in a row that went out.
      const gone = (row: string[], i: number) =>
        row === sent[i] && ['kept', 'same'].includes(done.rows[i]?.fate ?? 'refused')
      change({ do: 'left', rows: rows.filter((row, i) => !isBlank(row) && !gone(row, i)) })
      setConfirmed(false)
    },
  })
  const shown = table.columns.flatMap((c, i) => (all || !c.more || rows.some((row) => row[i] !== '') ? [i] : []))
  const current = fates?.rows[place.row]
  const tooWide = paste.data && paste.data.columns.length === 0 && (paste.data.rows[0]?.length ?? 0) > shown.length
  return (
    <>
      <p className="text-soft">
        Type, or paste rows from a spreadsheet into any cell; a first row of names puts each cell into its column. Enter
        goes on to the next {table.each}, which begins with what stays the same. Alt ↓ copies a cell to the row below,
        Alt Shift ↓ to all rows below; Ctrl Z takes a change back.
      </p>
      <div className="flex flex-wrap items-center gap-2" role="group" aria-label="What to do with the cells">
        <button className="button" onClick={() => change({ do: 'down', ...place, all: true })}>
          Fill {(table.columns[place.col]?.label ?? '').toLowerCase()} down
        </button>
        <button className="button" disabled={cells.past.length === 0} onClick={() => change({ do: 'undo' })}>
          Undo typing
        </button>
        <button className="button" disabled={cells.future.length === 0} onClick={() => change({ do: 'redo' })}>
          Redo typing
        </button>
        <button className="button" onClick={() => change({ do: 'remove', row: place.row })}>
          Remove row {place.row + 1}
        </button>
        <button className="button" aria-pressed={all} onClick={() => setAll(!all)}>
          {all ? 'Fewer columns' : 'All columns'}
        </button>
        <label className="flex min-h-(--tap) items-center gap-2 text-sm font-semibold">
          From a CSV file
          <input
            type="file"
            accept=".csv,.tsv,.txt,text/csv"
            className="input max-w-64 py-2 font-normal"
            onChange={(e) => {
              const file = e.target.files?.[0]
              if (file) void file.text().then((text) => paste.mutate({ text, row: place.row, col: shown[0]! }))
              e.target.value = ''
            }}
          />
        </label>
      </div>
      <Grid
        title={table.title}
        columns={table.columns}
        shown={shown}
        rows={rows}
        fates={fates?.rows ?? []}
        change={change}
        pasted={(text, row, col) => paste.mutate({ text, row, col })}
        at={setPlace}
      />
      {paste.isError && <Complaint>What was pasted {paste.error.message}</Complaint>}
      {paste.data && paste.data.left.length > 0 && (
        <p>Not read, since no column has the name: {paste.data.left.join(', ')}.</p>
      )}
      {tooWide && <p>Cells beyond the last column were left out. Name the columns in a first row to place them.</p>}
      {look.isError && <Complaint>{look.error.message}</Complaint>}
      {current && current.faults.length === 0 && current.fate !== 'empty' && (
        <p aria-live="polite">
          Row {place.row + 1}: <Says fate={current} columns={table.columns} />
        </p>
      )}
      <Wrong rows={fates?.rows ?? []} columns={table.columns} />
      <Outcome of={fates} each={table.each} />
      {(fates?.questioned ?? 0) + (confirmed ? 1 : 0) > 0 && (
        <label className="flex min-h-(--tap) items-center gap-2">
          <input type="checkbox" checked={confirmed} onChange={(e) => setConfirmed(e.target.checked)} />
          what is asked about is so: keep these rows too
        </label>
      )}
      <div>
        <button
          className="button button-main"
          disabled={keep.isPending || !fates || fates.kept === 0 || look.isPlaceholderData || settled !== rows}
          onClick={() => keep.mutate({ body, sent: settled })}
        >
          Keep {counted(fates?.kept ?? 0, 'row')}
        </button>
      </div>
      {keep.isError && <Complaint>{keep.error.message}</Complaint>}
      {keep.data && (
        <p role="status">
          {counted(keep.data.kept, 'row')} kept.
          {keep.data.refused + keep.data.questioned > 0 && ' The others wait here with what is still wrong.'}
        </p>
      )}
      <details className="sheet">
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">What the columns take</summary>
        <dl className="mt-2 grid gap-x-6 gap-y-1 sm:grid-cols-2">
          {table.columns.map((c) => (
            <div key={c.name}>
              <dt className="inline font-semibold">{labelled(c)}</dt>{' '}
              <dd className="inline text-soft">
                <span className="num">{c.name}</span>
                {c.needed && ', needed'}
                {c.choices.length > 0 && `: ${c.choices.join(', ')}`}
                {c.example && `, such as ${c.example}`}
              </dd>
            </div>
          ))}
        </dl>
      </details>
    </>
  )
}

/** How many rows with something wrong are told of at a time. */
const toldAtOnce = 8

/** What is wrong with rows, where it can be read without looking for it in the table. */
function Wrong({ rows, columns }: { rows: Schemas['RowFate'][]; columns: Kind['columns'] }) {
  const wrong = rows.flatMap((fate, i) => (fate.faults.length > 0 ? [{ fate, row: i + 1 }] : []))
  if (wrong.length === 0) return null
  return (
    <ul aria-label="Rows with something wrong">
      {wrong.slice(0, toldAtOnce).map(({ fate, row }) => (
        <li key={row}>
          Row {row}: <Says fate={fate} columns={columns} />
        </li>
      ))}
      {wrong.length > toldAtOnce && <li>and {counted(wrong.length - toldAtOnce, 'row')} more.</li>}
    </ul>
  )
}

/** What becomes of all rows together. */
function Outcome({ of, each }: { of?: Schemas['Fates']; each: string }) {
  if (!of) return <p role="status">Nothing typed yet: begin with the first {each}.</p>
  const parts = [
    of.kept > 0 && `${counted(of.kept, 'row')} ready to be kept`,
    of.same > 0 && `${counted(of.same, 'row')} on record already`,
    of.questioned > 0 && `${counted(of.questioned, 'row')} asked about`,
    of.refused > 0 && `${counted(of.refused, 'row')} not yet`,
  ].filter(Boolean)
  return (
    <p role="status">
      {parts.length > 0 ? `${parts.join(', ')}.` : `Nothing typed yet: begin with the first ${each}.`}
    </p>
  )
}
