import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { How } from '../../components/How'
import { Complaint } from '../../components/Page'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { day, figure } from '../../lib/format'
import { n } from '../../lib/input'

const across = [2, 3, 4, 5, 6, 7, 8, 9]

/** How even the light of a machine is over its plate, and what that does to its calibrated exposures. */
export function LightOverPlate({ machineID }: { machineID: string }) {
  const key = ['light', machineID]
  const client = useQueryClient()
  const light = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/machines/{id}/light', { params: { path: { id: machineID } } })),
  })
  if (light.isError) return <Complaint>{light.error.message}</Complaint>
  if (!light.data) return null
  const { now, even, says, exposures, grids } = light.data
  const kept = (after: Schemas['LightOver']) => client.setQueryData(key, after)
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="Light over the plate">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Light over the plate</h2>
        <How figure="light" of="Light over the plate" />
      </div>
      <div className="grid items-start gap-4 md:grid-cols-2">
        <div className="grid gap-3">
          <p>
            {says} {now && <span title="measured">●</span>}
          </p>
          {exposures.length > 0 && (
            <div className="overflow-x-auto">
              <table className="rows">
                <caption className="text-left font-semibold">At the weakest place ◇</caption>
                <thead>
                  <tr>
                    <th scope="col">Calibrated</th>
                    <th scope="col">Exposure, s</th>
                    <th scope="col">Is worth, s</th>
                    <th scope="col">Would need, s</th>
                  </tr>
                </thead>
                <tbody>
                  {exposures.map((e) => (
                    <tr key={e.settings}>
                      <td>
                        {e.settings}, {e.resin}
                      </td>
                      <td className="num">{figure(e.exposure_s)}</td>
                      <td className="num">{figure(e.worth_s)}</td>
                      <td className="num">{figure(e.needed_s)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
          {grids.length > 0 && (
            <ul className="grid gap-2" aria-label="Measured so far">
              {grids.toReversed().map((g) => (
                <li key={g.id} className={`flex flex-wrap items-center gap-2 ${g.taken_back_ms ? 'text-soft' : ''}`}>
                  <span>
                    {day(g.at_ms ?? 0)}: {g.readings[0]?.length} × {g.readings.length} readings
                    {g.meter && `, ${g.meter}`}
                    {g.note && `; ${g.note}`}
                    {g.taken_back_ms && `. Taken back: ${g.taken_back_why}`}
                  </span>
                  {!g.taken_back_ms ? (
                    <TakeBack
                      what={`what was measured on ${day(g.at_ms ?? 0)}`}
                      take={async (why) =>
                        kept(
                          await answer(
                            api.POST('/api/v1/machines/{id}/light/{grid_id}/taking-back', {
                              params: { path: { id: machineID, grid_id: g.id ?? '' } },
                              body: { why },
                            }),
                          ),
                        )
                      }
                    />
                  ) : (
                    <PutAgain kind="light_grid" id={g.id} what={`what was measured on ${day(g.at_ms ?? 0)}`} />
                  )}
                </li>
              ))}
            </ul>
          )}
        </div>
        {even && <Map even={even} />}
      </div>
      <Measure key={grids.length} machineID={machineID} open={grids.length === 0} kept={kept} />
    </section>
  )
}

/** The plate as it lies before you, each reading in % of the mean; the weakest is framed. */
function Map({ even }: { even: Schemas['OpticsEvenness'] }) {
  const rows = even.pct.map((row, i) => ({ row, i })).toReversed()
  const span = Math.max(even.most_pct - even.least_pct, 1)
  return (
    <div className="overflow-x-auto">
      <table className="border-separate border-spacing-1">
        <caption className="caption-bottom text-sm text-soft">in % of the mean; front, as it lies before you</caption>
        <tbody>
          {rows.map(({ row, i }) => (
            <tr key={i}>
              {row.map((pct, j) => {
                const weakest = i === even.weakest.row && j === even.weakest.column
                return (
                  <td
                    key={j}
                    className={`num min-w-14 px-2 py-3 text-center ${weakest ? 'font-bold outline-3 outline-bad' : ''}`}
                    style={{
                      background: `color-mix(in oklab, var(--soft) ${Math.round((50 * (even.most_pct - pct)) / span)}%, var(--plate))`,
                    }}
                  >
                    {figure(pct)}
                    {weakest && <span className="sr-only"> weakest</span>}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

const blank = (rows: number, columns: number) => Array.from({ length: rows }, () => Array<string>(columns).fill(''))

/** What a meter reads, place by place as the plate lies; a block of a spreadsheet can be pasted. */
function Measure({
  machineID,
  open,
  kept,
}: {
  machineID: string
  open: boolean
  kept: (after: Schemas['LightOver']) => void
}) {
  const [cells, setCells] = useState(() => blank(3, 3))
  const [meter, setMeter] = useState('')
  const [unit, setUnit] = useState('mW/cm²')
  const [note, setNote] = useState('')
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/machines/{id}/light', {
          params: { path: { id: machineID } },
          body: { readings: cells.map((row) => row.map((cell) => n(cell)!)), meter, unit, note },
        }),
      ),
    onSuccess: kept,
  })
  const size = (rows: number, columns: number) =>
    setCells(blank(rows, columns).map((row, i) => row.map((_, j) => cells[i]?.[j] ?? '')))
  const put = (i: number, j: number, text: string) =>
    setCells(cells.map((row, r) => row.map((cell, c) => (r === i && c === j ? text : cell))))
  // What is pasted lies as the plate does: its first line is the back.
  const paste = (i: number, j: number, text: string) => {
    const lines = text
      .replace(/[\r\n]+$/, '')
      .split(/\r?\n/)
      .map((line) => line.split('\t'))
    setCells(cells.map((row, r) => row.map((cell, c) => lines[i - r]?.[c - j] ?? cell)))
  }
  const [rows, columns] = [cells.length, cells[0]!.length]
  const places = cells.map((row, i) => ({ row, i })).toReversed()
  return (
    <details open={open}>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">Measure the light</summary>
      <form
        className="grid gap-3"
        aria-label="Light over the plate, measured"
        onSubmit={(e) => {
          e.preventDefault()
          save.mutate()
        }}
      >
        <div className="flex flex-wrap items-end gap-3">
          <label className="text-sm font-semibold">
            Across
            <select className="input font-normal" value={columns} onChange={(e) => size(rows, Number(e.target.value))}>
              {across.map((v) => (
                <option key={v}>{v}</option>
              ))}
            </select>
          </label>
          <label className="text-sm font-semibold">
            Deep
            <select className="input font-normal" value={rows} onChange={(e) => size(Number(e.target.value), columns)}>
              {across.map((v) => (
                <option key={v}>{v}</option>
              ))}
            </select>
          </label>
          <label className="text-sm font-semibold">
            Unit
            <input className="input font-normal" value={unit} onChange={(e) => setUnit(e.target.value)} />
          </label>
          <label className="text-sm font-semibold">
            Meter
            <input className="input font-normal" value={meter} onChange={(e) => setMeter(e.target.value)} />
          </label>
          <label className="text-sm font-semibold">
            Note <span className="font-normal text-soft">optional</span>
            <input className="input font-normal" value={note} onChange={(e) => setNote(e.target.value)} />
          </label>
        </div>
        <div className="overflow-x-auto">
          <table className="cells">
            <caption className="caption-bottom text-left text-sm text-soft">
              As the plate lies before you: the last line is the front.
            </caption>
            <tbody>
              {places.map(({ row, i }) => (
                <tr key={i}>
                  {row.map((cell, j) => (
                    <td key={j}>
                      <input
                        className="input num w-20"
                        inputMode="decimal"
                        required
                        autoComplete="off"
                        aria-label={`Reading ${j + 1} from the left, ${i + 1} from the front`}
                        value={cell}
                        onChange={(e) => put(i, j, e.target.value)}
                        onPaste={(e) => {
                          const text = e.clipboardData.getData('text/plain')
                          if (!/[\t\n]/.test(text)) return
                          e.preventDefault()
                          paste(i, j, text)
                        }}
                      />
                    </td>
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div>
          <button className="button button-main" disabled={save.isPending}>
            Keep these readings
          </button>
        </div>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
      </form>
    </details>
  )
}
