import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useId, useState } from 'react'
import { answer, api, type Schemas } from '../lib/api'
import { duration, figure, grouped, moment } from '../lib/format'
import { Stopped } from '../lib/task'
import { useUpload } from '../lib/upload'
import { Figure } from './Figure'
import { LayersPlot } from './LayersPlot'
import { Complaint } from './Page'
import { ProgressBar } from './ProgressBar'
import { PutAgain } from './PutAgain'
import { TakeBack } from './TakeBack'

type Sheet = Schemas['SlicedSheet']

/** Sliced files laid beside a print or settings: what their layers come to, and where they differ from the record. */
export function SlicedFiles({ of, id }: { of: 'runs' | 'profiles'; id: string }) {
  const key = ['sliced', of, id]
  const client = useQueryClient()
  const files = useQuery({
    queryKey: key,
    queryFn: () =>
      of === 'runs'
        ? answer(api.GET('/api/v1/runs/{id}/sliced-files', { params: { path: { id } } }))
        : answer(api.GET('/api/v1/profiles/{id}/sliced-files', { params: { path: { id } } })),
  })
  const anew = () => client.invalidateQueries({ queryKey: key })
  const list = files.data ?? []
  const [newest, ...older] = list
  return (
    <section
      className={`${of === 'runs' ? 'sheet' : 'border-t border-line pt-2'} grid grid-cols-[minmax(0,1fr)] gap-3`}
      aria-label="Sliced file"
    >
      <h2>Sliced file</h2>
      {files.isError && <Complaint>{files.error.message}</Complaint>}
      {newest && <One s={newest} anew={anew} open />}
      {older.map((s) => (
        <One key={s.id} s={s} anew={anew} />
      ))}
      {files.data && <Lay of={of} id={id} none={list.length === 0} anew={anew} />}
    </section>
  )
}

/** A zip of layers is dropped or chosen; it is read layer by layer and can be stopped. */
function Lay({
  of,
  id,
  none,
  anew,
}: {
  of: 'runs' | 'profiles'
  id: string
  none: boolean
  anew: () => Promise<void>
}) {
  const field = useId()
  const upload = useUpload<Sheet>(`/api/v1/${of}/${id}/sliced-files`)
  const [over, setOver] = useState(false)
  const [note, setNote] = useState('')
  const lay = useMutation({
    mutationFn: (file: File) => {
      const form = new FormData()
      form.append('file', file)
      form.append('note', note)
      return upload.send(form)
    },
    onSuccess: () => {
      setNote('')
      return anew()
    },
  })
  const take = (file?: File) => file && lay.mutate(file)
  return (
    <div
      className={`grid gap-2 ${over ? 'outline-2 outline-act' : ''}`}
      onDragOver={(e) => {
        e.preventDefault()
        setOver(true)
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(e) => {
        e.preventDefault()
        setOver(false)
        take(e.dataTransfer.files[0])
      }}
    >
      <label htmlFor={field} className="text-sm font-semibold">
        {none ? 'Lay the sliced print beside it' : 'Lay another one beside it'}
        <span className="block font-normal text-soft">
          A zip file of one PNG picture for each layer, up to 1 GiB; a JSON or text of its settings in it is read too.
          The file itself is not kept, its hash is.
        </span>
      </label>
      <input
        id={field}
        type="file"
        accept=".zip,application/zip"
        className="input py-2"
        disabled={lay.isPending}
        onChange={(e) => {
          take(e.target.files?.[0])
          e.target.value = ''
        }}
      />
      <label className="text-sm font-semibold">
        A note, if you like, before it is chosen
        <input
          className="input font-normal"
          value={note}
          disabled={lay.isPending}
          onChange={(e) => setNote(e.target.value)}
        />
      </label>
      {upload.progress && (
        <ProgressBar of={upload.progress} name={lay.variables?.name ?? 'The file'} stop={upload.stop} />
      )}
      {lay.isError && (
        <Complaint>
          {lay.error instanceof Stopped ? lay.error.message : `${lay.variables?.name}: ${lay.error.message}`}
        </Complaint>
      )}
    </div>
  )
}

function One({ s, anew, open = false }: { s: Sheet; anew: () => Promise<void>; open?: boolean }) {
  const back = s.taken_back_ms != null
  return (
    <details open={open && !back} className={back ? 'text-soft' : ''}>
      <summary className="cursor-pointer wrap-anywhere">
        <strong>{s.name}</strong>, {moment(s.at_ms)}. {back ? `Taken back: ${s.taken_back_why}` : s.says}
      </summary>
      <div className="mt-3 grid grid-cols-[minmax(0,1fr)] gap-4">
        {s.note && <p className="wrap-anywhere">{s.note}</p>}
        {s.reason && <p>{s.reason}</p>}
        {s.solid && <Solid s={s} solid={s.solid} />}
        <Beside s={s} />
        {s.solid && s.solid.islands.length > 0 && <Islands solid={s.solid} />}
        <Details s={s} />
        {!back ? (
          <TakeBack
            what={s.name}
            take={async (why) => {
              await answer(
                api.POST('/api/v1/sliced-files/{id}/taking-back', { params: { path: { id: s.id } }, body: { why } }),
              )
              await anew()
            }}
          />
        ) : (
          <PutAgain kind="sliced_file" id={s.id} what={s.name} />
        )}
      </div>
    </details>
  )
}

function Solid({ s, solid }: { s: Sheet; solid: Schemas['StackSolid'] }) {
  return (
    <>
      <dl className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-[1fr_1fr_1fr_1.2fr_1.8fr_1fr]">
        <Figure label="Layers" value={grouped(s.layers)} source="measured" note={`of ${figure(s.layer_um)} µm`} />
        <Figure label="Height" value={`${figure(solid.height_mm, 4)} mm`} source="computed" />
        <Figure
          label="Resin"
          value={`${figure(solid.volume_ml)} ml`}
          source="computed"
          note={s.mass_g == null ? 'density not known' : `${figure(s.mass_g)} g`}
        />
        <Figure
          label="Time"
          value={s.total_s == null ? 'not known' : duration(s.total_s)}
          source={s.total_s == null ? undefined : 'computed'}
          note={s.total_s == null ? 'the settings hide it' : 'our estimate for these layers'}
        />
        <Figure
          label="Lit extent"
          value={`${figure(solid.width_mm)} × ${figure(solid.depth_mm)} mm`}
          source="computed"
        />
        <Figure
          label="Grey pixels"
          value={`${figure(solid.grey_pct)} %`}
          source="measured"
          note={solid.grey_pct === 0 ? 'no anti-aliasing' : 'of the lit area'}
        />
      </dl>
      <LayersPlot solid={solid} layerUM={s.layer_um} />
    </>
  )
}

const says = (c: Schemas['StackCompared']) => (c.agrees == null ? 'not known' : c.agrees ? '✓ agrees' : '✗ differs')

function Beside({ s }: { s: Sheet }) {
  return (
    <div className="overflow-x-auto">
      <table className="rows">
        <caption className="text-left font-semibold">Beside what is on record</caption>
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">The file</th>
            <th scope="col">On record</th>
            <th scope="col">Together</th>
          </tr>
        </thead>
        <tbody>
          {s.compared.map((c) => (
            <tr key={c.what}>
              <th scope="row" className="font-normal">
                {c.what}
              </th>
              <td className="num whitespace-nowrap">{c.stack || '–'}</td>
              <td className="num">{c.on_record || '–'}</td>
              <td>
                <span className={c.agrees === false ? 'font-semibold text-bad' : ''}>{says(c)}</span>
                {c.why && <span className="block text-sm text-soft">{c.why}</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** How many layers with islands are listed at first. */
const fewIslands = 8

function Islands({ solid }: { solid: Schemas['StackSolid'] }) {
  const [all, setAll] = useState(false)
  const list = all ? solid.islands : solid.islands.slice(0, fewIslands)
  return (
    <div className="grid justify-items-start gap-2 overflow-x-auto">
      <table className="rows">
        <caption className="text-left font-semibold">
          Begins with nothing under it <span className="font-normal text-soft">◇ from the pixels of two layers</span>
        </caption>
        <thead>
          <tr>
            <th scope="col">Layer</th>
            <th scope="col">At, mm</th>
            <th scope="col">Regions</th>
            <th scope="col">Largest, mm²</th>
          </tr>
        </thead>
        <tbody>
          {list.map((i) => (
            <tr key={i.layer}>
              <td className="num">{grouped(i.layer)}</td>
              <td className="num">{figure(i.at_mm, 4)}</td>
              <td className="num">{i.regions}</td>
              <td className="num">{figure(i.largest_mm2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {list.length < solid.islands.length && (
        <button className="button" onClick={() => setAll(true)}>
          All {grouped(solid.islands.length)} layers
        </button>
      )}
    </div>
  )
}

function Details({ s }: { s: Sheet }) {
  return (
    <details>
      <summary className="cursor-pointer">Its hash, all values that it names, and other files in it</summary>
      <div className="mt-2 grid gap-2 text-sm">
        <p className="wrap-anywhere">
          SHA-256 <span className="num">{s.file_sha256}</span>, {figure(s.bytes / 2 ** 20)} MiB,{' '}
          <span className="num">
            {grouped(s.width_px)} × {grouped(s.height_px)}
          </span>{' '}
          pixels.{' '}
          <a href={`/api/v1/sliced-files/${s.id}/layers.csv`} download>
            Layer by layer as CSV
          </a>
        </p>
        {s.missing_numbers.length > 0 && <p>No picture for the numbers {s.missing_numbers.join(', ')}.</p>}
        {s.other_files.length > 0 && <p className="wrap-anywhere">Not read: {s.other_files.join(', ')}.</p>}
        {s.pairs.length === 0 && <p>It names no values: there is no JSON or text of settings in it.</p>}
        {s.pairs.length > 0 && (
          <dl className="grid gap-x-4 gap-y-1 sm:grid-cols-2">
            {s.pairs.map((p, i) => (
              <div key={i} className="flex justify-between gap-3 border-b border-line wrap-anywhere">
                <dt className="text-soft">{p.name}</dt>
                <dd className="num text-right">{p.value}</dd>
              </div>
            ))}
          </dl>
        )}
      </div>
    </details>
  )
}
