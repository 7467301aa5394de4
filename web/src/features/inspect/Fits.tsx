import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { figure } from '../../lib/format'
import type { InHand } from './inHand'

type Outcome = NonNullable<Schemas['FormReading']['rungs']>[number]['outcome']
const outcomes: Record<Outcome, string> = { no: 'does not go', tight: 'tight', holds: 'holds', loose: 'loose' }

/** A part that a copy is tried with: its name, the outcome of each clearance, and why it is not kept. */
interface Tried {
  mate: string
  rungs: Record<number, Outcome | ''>
  why?: string
}

const blank = (mate: string): Tried => ({ mate, rungs: {} })
const isFilled = (t: Tried) => Object.values(t.rungs).some((o) => o !== '')

/** A fit of the copy in hand: mating parts by clearances, those that other copies were tried with first. */
export function FitEntry({
  sheet,
  specimen,
  form,
}: {
  sheet: InHand
  specimen: Schemas['Specimen']
  form: Schemas['Form']
}) {
  const known = sheet.fit_matrices.find((m) => m.form_id === form.id)?.rows.map((r) => r.mate) ?? []
  const [rows, setRows] = useState<Tried[]>(() => (known.length > 0 ? known : ['']).map(blank))
  const [keeping, setKeeping] = useState(false)
  const change = (at: number, to: Partial<Tried>) =>
    setRows((all) => all.map((r, i) => (i === at ? { ...r, why: undefined, ...to } : r)))
  const keep = async () => {
    setKeeping(true)
    for (const [at, row] of rows.entries()) {
      if (!isFilled(row)) continue
      const rungs = Object.entries(row.rungs).flatMap(([mm, o]) =>
        o === '' ? [] : [{ rung_mm: Number(mm), outcome: o }],
      )
      try {
        await answer(
          api.POST('/api/v1/runs/{id}/form-readings', {
            params: { path: { id: sheet.id } },
            body: {
              confirmed: false,
              reading: {
                specimen_id: specimen.id ?? '',
                form_id: form.id ?? '',
                instrument_id: null,
                measured: [],
                rungs,
                state: '',
                mate: row.mate,
              },
            },
          }),
        )
        change(at, { rungs: {} })
      } catch (e) {
        change(at, { why: e instanceof Error ? e.message : String(e) })
      }
    }
    setKeeping(false)
  }
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] justify-items-start gap-2">
      <div className="relative max-w-full overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th>Tried with</th>
              {(form.rungs_mm ?? []).map((mm) => (
                <th key={mm} className="num">
                  {figure(mm)} mm
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.map((row, at) => (
              // Rows are only ever added at the end.
              <tr key={at}>
                <td>
                  <input
                    className="input min-w-40"
                    autoComplete="off"
                    placeholder="peg of S-014-02"
                    aria-label={`Tried with, part ${at + 1}`}
                    aria-invalid={row.why !== undefined}
                    value={row.mate}
                    onChange={(e) => change(at, { mate: e.target.value })}
                  />
                </td>
                {(form.rungs_mm ?? []).map((mm) => (
                  <td key={mm}>
                    <select
                      className="input min-w-32"
                      aria-label={`${form.name} ${figure(mm)} mm with ${row.mate || `part ${at + 1}`}`}
                      value={row.rungs[mm] ?? ''}
                      onChange={(e) => change(at, { rungs: { ...row.rungs, [mm]: e.target.value as Outcome | '' } })}
                    >
                      <option value="">–</option>
                      {Object.entries(outcomes).map(([key, words]) => (
                        <option key={key} value={key}>
                          {words}
                        </option>
                      ))}
                    </select>
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {rows.map((row, at) => row.why !== undefined && <Complaint key={at}>{row.why}</Complaint>)}
      <div className="flex flex-wrap gap-2">
        <button type="button" className="button" disabled={keeping || !rows.some(isFilled)} onClick={() => void keep()}>
          Keep this fit
        </button>
        <button type="button" className="button" onClick={() => setRows([...rows, blank('')])}>
          Another mating part
        </button>
      </div>
    </div>
  )
}

/** The fits over all copies of a plate, mating parts by clearances. */
export function FitMatrices({ sheet }: { sheet: InHand }) {
  return sheet.fit_matrices.map((m) => (
    <div key={m.form_id} className="relative max-w-full overflow-x-auto">
      <table className="rows">
        <caption className="text-left font-semibold">{m.name} over all copies ●</caption>
        <thead>
          <tr>
            <th>Tried with</th>
            {m.rows[0]?.cells.map((c) => (
              <th key={c.rung_mm} className="num">
                {figure(c.rung_mm)} mm
              </th>
            ))}
            <th>Over these tries</th>
          </tr>
        </thead>
        <tbody>
          {m.rows.map((r) => (
            <tr key={r.mate}>
              <th scope="row">
                {r.mate}
                <span className="block font-normal text-soft">n = {r.tries}</span>
              </th>
              {r.cells.map((c) => (
                <td key={c.rung_mm} className="num">
                  {c.words || '–'}
                </td>
              ))}
              <td>{r.says}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  ))
}
