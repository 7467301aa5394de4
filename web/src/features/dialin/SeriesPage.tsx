import { useMutation } from '@tanstack/react-query'
import { useRef, useState, type KeyboardEvent } from 'react'
import { Link, useParams } from 'react-router'
import { History } from '../../components/History'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, ProblemError, type SeriesSheet } from '../../lib/api'
import { figure, micrometres } from '../../lib/format'
import { n, t } from '../../lib/input'
import { useSeries } from '../../lib/queries'
import { Answers } from './Answers'
import { CellPlates } from './CellPlates'
import { SchoolsPlot } from './SchoolsPlot'

export default function SeriesPage() {
  const { id = '' } = useParams()
  const series = useSeries(id)
  return (
    <Ready of={series}>
      {(s) => (
        <Page
          title={`${s.series.code}: ${s.machine}, ${s.resin}`}
          about={`${s.series.layer_um} µm layers, ${s.cells.length} cells, bottom ${s.series.bottom_layers} × ${figure(s.series.bottom_exposure_s)} s; start from ${s.series.origin || 'not stated'}`}
          actions={
            <button className="button" onClick={() => window.print()}>
              Print the reading sheet
            </button>
          }
        >
          <CellPlates sheet={s} />
          <Cells sheet={s} />
          {s.result ? (
            <>
              <SchoolsPlot sheet={s} />
              <Answers sheet={s} result={s.result} />
            </>
          ) : (
            <p className="text-soft">Judge a first cell; the three schools answer as soon as the readings reach.</p>
          )}
          <History kind="series" id={s.series.id ?? ''} />
          {s.profile && (
            <p role="status" className="sheet">
              Accepted: {figure(s.profile.exposure_s)} s as <span className="num">{s.profile.code}</span>, basis
              calibrated. <Link to="/runs/new">Record a print with it</Link>
            </p>
          )}
        </Page>
      )}
    </Ready>
  )
}

const columns = [
  { key: 'smallest_pin_mm', label: 'Smallest pin', unit: 'mm' },
  { key: 'smallest_gap_mm', label: 'Smallest gap', unit: 'mm' },
  { key: 'outer_error_mm', label: 'Outer error', unit: 'mm' },
  { key: 'inner_error_mm', label: 'Inner error', unit: 'mm' },
  { key: 'features_ok', label: 'Features whole', unit: '' },
  { key: 'features_total', label: 'of', unit: '' },
] as const

function Cells({ sheet }: { sheet: SeriesSheet }) {
  return (
    <section className="sheet overflow-x-auto">
      <h2>Cells</h2>
      <p className="mb-2 text-sm text-soft">
        {sheet.coupon
          ? `Read from ${sheet.coupon.name}: choose the smallest that came out, and write what the caliper says; the errors follow. `
          : 'Errors are measured − nominal: a post too thick is +, a hole too small is −. '}
        Enter goes on and keeps the cell. Empty means not judged.
      </p>
      {(['smallest_pin_mm', 'smallest_gap_mm'] as const).map((key) => (
        <datalist key={key} id={`rungs-${key}`}>
          {rungsOf(sheet, key).map((r) => (
            <option key={r} value={r} />
          ))}
        </datalist>
      ))}
      <table className="rows">
        <thead>
          <tr>
            <th>Cell</th>
            <th>Exposure, s</th>
            <th>Came off whole</th>
            {columns.map((c) => (
              <th key={c.key}>
                {nominalOf(sheet, c.key)?.label ?? c.label}
                {c.unit && `, ${c.unit}`}
              </th>
            ))}
            <th>
              <span className="sr-only">Keep</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {sheet.cells.map((c) => (
            <CellRow key={c.cell.id} sheet={sheet} cell={c} />
          ))}
        </tbody>
      </table>
    </section>
  )
}

type Cell = SeriesSheet['cells'][number]
type Values = Record<(typeof columns)[number]['key'] | 'survived', string>

/** Where the coupon's nominals are known, sizes are entered in place of errors. */
function nominalOf(sheet: SeriesSheet, key: string) {
  const c = sheet.coupon
  if (key === 'outer_error_mm' && c?.outer_nominal_mm != null)
    return { label: `${c.outer_name} (${figure(c.outer_nominal_mm, 4)})`, field: 'outer_mm' as const }
  if (key === 'inner_error_mm' && c?.inner_nominal_mm != null)
    return { label: `${c.inner_name} (${figure(c.inner_nominal_mm, 4)})`, field: 'inner_mm' as const }
  return undefined
}

const rungsOf = (sheet: SeriesSheet, key: string) =>
  (key === 'smallest_pin_mm' ? sheet.coupon?.pins_mm : key === 'smallest_gap_mm' ? sheet.coupon?.gaps_mm : null) ?? []

function valuesOf(cell: Cell, sheet: SeriesSheet): Values {
  const r = cell.reading
  return {
    survived: r?.survived === true ? 'yes' : r?.survived === false ? 'no' : '',
    smallest_pin_mm: t(r?.smallest_pin_mm),
    smallest_gap_mm: t(r?.smallest_gap_mm),
    outer_error_mm: nominalOf(sheet, 'outer_error_mm') ? size(cell.outer_mm) : t(r?.outer_error_mm),
    inner_error_mm: nominalOf(sheet, 'inner_error_mm') ? size(cell.inner_mm) : t(r?.inner_error_mm),
    features_ok: t(r?.features_ok),
    features_total: t(r?.features_total),
  }
}

/** A size as a caliper shows it, without the dust of adding up. */
const size = (mm: number | null) => (mm === null ? '' : figure(mm, 6))

function CellRow({ sheet, cell }: { sheet: SeriesSheet; cell: Cell }) {
  const id = sheet.series.id ?? ''
  const [draft, setDraft] = useState<Values>()
  const row = useRef<HTMLTableRowElement>(null)
  const v = draft ?? valuesOf(cell, sheet)
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/series/{id}/cells/{number}/readings', {
          params: { path: { id, number: cell.cell.number } },
          body: {
            survived: v.survived === '' ? null : v.survived === 'yes',
            smallest_pin_mm: n(v.smallest_pin_mm),
            smallest_gap_mm: n(v.smallest_gap_mm),
            [nominalOf(sheet, 'outer_error_mm')?.field ?? 'outer_error_mm']: n(v.outer_error_mm),
            [nominalOf(sheet, 'inner_error_mm')?.field ?? 'inner_error_mm']: n(v.inner_error_mm),
            features_ok: n(v.features_ok),
            features_total: n(v.features_total),
          },
        }),
      ),
    onSuccess: () => setDraft(undefined),
  })
  const wrong = save.error instanceof ProblemError ? (save.error.problem.errors?.[0]?.location ?? '') : ''
  const set = (key: keyof Values, value: string) => setDraft({ ...v, [key]: value })
  /** Enter goes to the next box of the row; from the last one it keeps the cell and goes to the next row. */
  const advance = (e: KeyboardEvent) => {
    if (e.key !== 'Enter') return
    e.preventDefault()
    const boxes = [...(row.current?.querySelectorAll<HTMLElement>('select, input') ?? [])]
    const next = boxes[boxes.indexOf(e.target as HTMLElement) + 1]
    if (next) {
      next.focus()
      return
    }
    if (draft) save.mutate()
    row.current?.nextElementSibling?.querySelector<HTMLElement>('select')?.focus()
  }
  const name = `Cell ${cell.cell.number}`
  return (
    <>
      <tr ref={row} onKeyDown={advance}>
        <td className="num font-bold">{cell.cell.number}</td>
        <td className="num">{figure(cell.cell.exposure_s)}</td>
        <td>
          <select
            className="input min-w-32"
            aria-label={`${name}, came off whole`}
            value={v.survived}
            onChange={(e) => set('survived', e.target.value)}
          >
            <option value="">not judged</option>
            <option value="yes">yes</option>
            <option value="no">no</option>
          </select>
        </td>
        {columns.map((c) => (
          <td key={c.key}>
            <input
              className="input num w-24"
              inputMode="decimal"
              aria-label={`${name}, ${nominalOf(sheet, c.key)?.label ?? c.label}`}
              aria-invalid={wrong !== '' && wrong === (nominalOf(sheet, c.key)?.field ?? c.key)}
              list={rungsOf(sheet, c.key).length > 0 ? `rungs-${c.key}` : undefined}
              value={v[c.key]}
              onChange={(e) => set(c.key, e.target.value)}
            />
            {nominalOf(sheet, c.key) && cell.reading?.[c.key] != null && !draft && (
              <span className="block text-sm text-soft">◇ {micrometres(cell.reading[c.key] ?? 0)}</span>
            )}
          </td>
        ))}
        <td>
          <button
            className="button no-print"
            disabled={!draft || save.isPending}
            onClick={() => save.mutate()}
            aria-label={`Keep cell ${cell.cell.number}`}
          >
            {cell.reading && !draft ? 'Kept' : 'Keep'}
          </button>
          {cell.corrected > 0 && <span className="block text-sm text-soft">{cell.corrected} earlier</span>}
        </td>
      </tr>
      {save.isError && (
        <tr>
          <td colSpan={10}>
            <Complaint>
              {name}: {save.error.message}
            </Complaint>
          </td>
        </tr>
      )}
    </>
  )
}
