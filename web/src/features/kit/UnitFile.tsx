import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { History } from '../../components/History'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { useMachines } from '../../lib/queries'
import { UnitForm } from './UnitForm'
import { UnitPhotographs } from './UnitPhotographs'

type Sheet = Schemas['UnitSheet']

/** The very unit of a machine: how it came, what was in the box, what must come off, how open it is, its vendor. */
export function UnitFile({ machineID }: { machineID: string }) {
  const client = useQueryClient()
  const [beside, setBeside] = useState('')
  const key = ['unit', machineID]
  const unit = useQuery({
    queryKey: [...key, beside],
    placeholderData: (before: Sheet | undefined) => before,
    queryFn: () =>
      answer(api.GET('/api/v1/machines/{id}/unit-file', { params: { path: { id: machineID }, query: { beside } } })),
  })
  if (unit.isError) return <Complaint>{unit.error.message}</Complaint>
  if (!unit.data) return null
  const { file } = unit.data
  const kept = () => client.invalidateQueries({ queryKey: key })
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="The very unit">
      <h2>The very unit</h2>
      {!file && (
        <p>
          What came in the box is not on record: how it came, what was missing, which films must come off before the
          first print, how open it is.
        </p>
      )}
      {unit.data.first_good && (
        <p>
          From the box to the first good print: {unit.data.first_good.says}.{' '}
          {unit.data.first_good.run_id && <Link to={`/runs/${unit.data.first_good.run_id}`}>Open it</Link>}
        </p>
      )}
      {unit.data.unpeeled.length > 0 && <Unpeeled machineID={machineID} file={file} kept={kept} />}
      {file && <Says s={unit.data} />}
      {file && file.contents && file.contents.length > 0 && (
        <Boxes machineID={machineID} rows={unit.data.beside} beside={beside} setBeside={setBeside} />
      )}
      <UnitForm key={file?.version ?? 0} machineID={machineID} file={file ?? undefined} kept={kept} />
      <UnitPhotographs machineID={machineID} shown={(file?.contents ?? []).map((c) => c.what)} />
      {file && <History kind="unit_file" id={file.id ?? ''} />}
    </section>
  )
}

function Says({ s }: { s: Sheet }) {
  const f = s.file
  const rows = [
    ['How it came', s.provenance],
    ['Received', f?.received_on],
    ['Serial', f?.serial],
    ['Firmware then', f?.firmware],
    ['Size', s.size],
    ['In the box', s.box],
    ['Ways in', s.ports],
    ['How open', s.open],
    ['Its vendor', s.contacts],
    ...(f?.contacts ?? []).map((c) => ['', [c.about, c.how].filter(Boolean).join(': ')]),
    ...(f?.claimed ?? []).map((c) => [`Claimed, ${c.source}`, c.says]),
    ['Note', f?.note],
  ].filter(([, words]) => words)
  return (
    <dl className="grid gap-x-6 gap-y-1 sm:grid-cols-[10rem_minmax(0,1fr)]">
      {rows.map(([name, words], i) => (
        <div key={i} className="contents">
          <dt className="text-soft">{name}</dt>
          <dd className="wrap-anywhere max-sm:mb-1">{words}</dd>
        </div>
      ))}
    </dl>
  )
}

/** What must come off, or stay on, before the first print: the preflight asks for it until it is confirmed. */
function Unpeeled({
  machineID,
  file,
  kept,
}: {
  machineID: string
  file?: Schemas['UnitFile'] | null
  kept: () => unknown
}) {
  const confirm = useMutation({
    mutationFn: (what: string) =>
      answer(
        api.POST('/api/v1/machines/{id}/unit-file/peels', { params: { path: { id: machineID } }, body: { what } }),
      ),
    onSuccess: kept,
  })
  return (
    <div role="group" aria-label="Before the first print" className="grid gap-2 border-l-4 border-act pl-3">
      <p className="font-semibold">Before the first print</p>
      {(file?.peels ?? [])
        .filter((p) => p.done_ms == null)
        .map((p) => (
          <p key={p.what} className="flex flex-wrap items-center gap-3">
            <span>
              {p.keep ? 'Keep on' : 'Take off'}: {p.what}
            </span>
            <button
              className="button"
              disabled={confirm.isPending}
              aria-label={`${p.keep ? 'It stays on' : 'It is off'}: ${p.what}`}
              onClick={() => confirm.mutate(p.what)}
            >
              {p.keep ? 'It stays on' : 'It is off'}
            </button>
          </p>
        ))}
      {confirm.isError && <Complaint>{confirm.error.message}</Complaint>}
    </div>
  )
}

/** What was in its box beside another machine's. */
function Boxes({
  machineID,
  rows,
  beside,
  setBeside,
}: {
  machineID: string
  rows: Schemas['InBoxes'][]
  beside: string
  setBeside: (id: string) => void
}) {
  const machines = useMachines()
  const others = (machines.data ?? []).filter((m) => m.machine.id !== machineID)
  if (others.length === 0) return null
  const other = others.find((m) => m.machine.id === beside)?.machine.name
  return (
    <div className="grid gap-2">
      <label className="max-w-80 text-sm font-semibold">
        Its box beside that of
        <select className="input font-normal" value={beside} onChange={(e) => setBeside(e.target.value)}>
          <option value="">no other</option>
          {others.map((m) => (
            <option key={m.machine.id} value={m.machine.id}>
              {m.machine.name}
            </option>
          ))}
        </select>
      </label>
      {beside && rows.length === 0 && <p>What was in the box of {other} is not on record.</p>}
      {rows.length > 0 && (
        <div className="overflow-x-auto">
          <table className="rows">
            <thead>
              <tr>
                <th scope="col">In the box</th>
                <th scope="col">Here</th>
                <th scope="col">{other}</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr key={r.what}>
                  <th scope="row" className="font-normal">
                    {r.what}
                  </th>
                  <td>{r.here || '–'}</td>
                  <td>{r.there || '–'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  )
}
