import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted } from '../../lib/format'
import { measuresLengths } from '../../lib/instruments'
import { useInstruments } from '../../lib/queries'

type Imported = Schemas['ImportedReadings']

/** Readings that were taken down in a spreadsheet: looked at row by row, then kept. */
export function FromTable() {
  return (
    <details className="sheet">
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        Readings from a spreadsheet
      </summary>
      <Ready of={useInstruments()}>{(all) => <Rows instruments={all.filter((i) => measuresLengths(i.kind))} />}</Ready>
    </details>
  )
}

function Rows({ instruments }: { instruments: Schemas['Instrument'][] }) {
  const [text, setText] = useState('')
  const [tool, setTool] = useState('')
  const [confirmed, setConfirmed] = useState(false)
  const body = { text, instrument_id: tool || (instruments[0]?.id ?? ''), confirmed }
  const look = useMutation({
    mutationFn: (b: typeof body) => answer(api.POST('/api/v1/reading-previews', { body: b })),
  })
  const keep = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/readings', { body })),
    onSuccess: () => {
      setText('')
      look.reset()
    },
  })
  const change = (next: string) => {
    setText(next)
    look.reset()
    keep.reset()
  }
  return (
    <>
      <form
        className="mt-2 grid gap-3"
        aria-label="Readings from a spreadsheet"
        onSubmit={(e) => {
          e.preventDefault()
          look.mutate(body)
        }}
      >
        <p className="text-soft">
          Paste rows or choose a CSV file. Its first row names the columns: specimen, feature, and value_mm, or rung_mm
          with intact, or state. A plate’s own page gives such a table of what is still to be read on it.
        </p>
        <div className="flex flex-wrap items-end gap-3">
          <label className="text-sm font-semibold">
            CSV file
            <input
              type="file"
              accept=".csv,.tsv,.txt,text/csv"
              className="input py-2 font-normal"
              onChange={(e) => {
                const file = e.target.files?.[0]
                if (file) void file.text().then(change)
              }}
            />
          </label>
          <label className="text-sm font-semibold">
            Sizes were read with
            <select className="input font-normal" value={body.instrument_id} onChange={(e) => setTool(e.target.value)}>
              {instruments.map((i) => (
                <option key={i.id} value={i.id}>
                  {i.name}
                </option>
              ))}
            </select>
          </label>
        </div>
        <label className="text-sm font-semibold">
          Rows
          <textarea
            className="input num font-normal"
            rows={6}
            required
            value={text}
            onChange={(e) => change(e.target.value)}
          />
        </label>
        <button className="button justify-self-start" disabled={look.isPending}>
          Look at it row by row
        </button>
        {look.isError && <Complaint>{look.error.message}</Complaint>}
      </form>
      {look.data && (
        <div className="mt-3 grid gap-3">
          <Fates of={look.data} />
          {look.data.questioned > 0 && (
            <label className="flex min-h-(--tap) items-center gap-2">
              <input
                type="checkbox"
                checked={confirmed}
                onChange={(e) => {
                  setConfirmed(e.target.checked)
                  look.mutate({ ...body, confirmed: e.target.checked })
                }}
              />
              keep those that are questioned too: they are as read
            </label>
          )}
          {look.data.kept > 0 && (
            <button
              className="button button-main justify-self-start"
              disabled={keep.isPending}
              onClick={() => keep.mutate()}
            >
              Keep {counted(look.data.kept, 'reading')}
            </button>
          )}
          {keep.isError && <Complaint>{keep.error.message}</Complaint>}
        </div>
      )}
      {keep.data && <p role="status">{counted(keep.data.kept, 'reading')} kept.</p>}
    </>
  )
}

/** What becomes of each row. */
function Fates({ of }: { of: Imported }) {
  return (
    <>
      <p>
        {counted(of.kept, 'row')} would be kept, {of.questioned} questioned, {of.refused} refused
        {of.empty > 0 && `, ${of.empty} not filled in`}.{of.left.length > 0 && ` Not read: ${of.left.join(', ')}.`}
      </p>
      <div className="max-h-96 overflow-auto" tabIndex={0} role="region" aria-label="Row by row">
        <table className="rows w-full">
          <thead>
            <tr>
              <th scope="col">Line</th>
              <th scope="col">Copy</th>
              <th scope="col">Feature</th>
              <th scope="col">What becomes of it</th>
            </tr>
          </thead>
          <tbody>
            {of.rows.map((r) => (
              <tr key={r.line}>
                <td className="num">{r.line}</td>
                <td className="num">{r.specimen}</td>
                <td>{r.feature}</td>
                <td className={r.fate === 'kept' ? '' : 'font-semibold text-bad'}>
                  {r.fate}: {r.says}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  )
}
