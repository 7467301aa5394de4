import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { How } from '../../components/How'
import { Complaint, Page, Ready } from '../../components/Page'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, figure } from '../../lib/format'
import { photoFile, viewWords } from '../../lib/viewing'
import { MeasureOn } from './MeasureOn'

type Beside = Schemas['Beside']

/** One photograph: how it was taken, what was measured on it, and the way to measure more. */
export default function PhotographPage() {
  const { id = '' } = useParams()
  const found = useQuery({
    queryKey: ['photographs', id],
    queryFn: () => answer(api.GET('/api/v1/side-by-side', { params: { query: { id: [id] } } })),
  })
  return (
    <Ready of={found}>
      {(side) => {
        const p = side.photographs[0]!
        const back = p.is_reference ? `/inspect/references/${p.of_id}` : `/inspect/${p.of_id}?specimen=${p.specimen_id}`
        return (
          <Page
            title={`Photograph ${p.code} of ${p.specimen_code}`}
            about={`${viewWords(p)}. ${side.common
              .filter((f) => ['Machine', 'Resin', 'Piece', 'Feature', 'Defect'].includes(f.name))
              .map((f) => f.value)
              .join(', ')}`}
            actions={
              <Link className="button" to={back}>
                Back to {p.specimen_code}
              </Link>
            }
          >
            {p.erased_ms != null ? (
              <Complaint>Its files were erased: {p.taken_back_why}</Complaint>
            ) : (
              <>
                {p.taken_back_ms != null && (
                  <div className="flex flex-wrap items-center gap-3">
                    <Complaint>It was taken back: {p.taken_back_why}</Complaint>
                    <PutAgain kind="photograph" id={p.id} what={`photograph ${p.code}`} />
                  </div>
                )}
                {p.blurred && (
                  <Complaint>
                    It is blurred (<span className="num">{figure(p.blur)}</span> of 1): fine detail is lost; take it
                    again if you can.
                  </Complaint>
                )}
                {p.taken_back_ms == null && <MeasureOn p={p} />}
              </>
            )}
            <Measures p={p} />
            <Facts p={p} back={back} />
          </Page>
        )
      }}
    </Ready>
  )
}

const kinds: Record<Schemas['Measured']['kind'], string> = {
  scale: 'Known length',
  length: 'Length',
  edge: 'Width of an edge, 10–90 %',
  period: 'Period of lines',
}

/** What was measured, each with its uncertainty. */
function Measures({ p }: { p: Beside }) {
  if (p.measures.length === 0) return null
  return (
    <section className="sheet overflow-x-auto">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Measured on it</h2>
        <How figure="photographs" of="Measured on it" />
      </div>
      <table className="rows">
        <thead>
          <tr>
            <th scope="col">What</th>
            <th scope="col">Size ●</th>
            <th scope="col">± (95 %)</th>
            <th scope="col">Ripple along it</th>
            <th scope="col">From</th>
            <th scope="col">
              <span className="sr-only">Take back</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {p.measures.map((m) => (
            <tr key={m.id}>
              <th scope="row">{kinds[m.kind]}</th>
              <td className="num whitespace-nowrap text-lg">{size(m)}</td>
              <td className="num whitespace-nowrap">{uncertainty(m)}</td>
              <td className="num whitespace-nowrap">{m.ripple_mm == null ? '' : `${figure(1000 * m.ripple_mm)} µm`}</td>
              <td className="whitespace-nowrap">
                {m.kind === 'edge' && counted(m.n ?? 0, 'line')}
                {m.kind === 'period' && counted(m.n ?? 0, 'period')}
                {(m.kind === 'scale' || m.kind === 'length') && 'two clicks'}
              </td>
              <td>
                <TakeBack
                  what={`${kinds[m.kind]}, ${size(m)}`}
                  take={(why) =>
                    answer(
                      api.POST('/api/v1/photographs/{id}/measures/{measure_id}/taking-back', {
                        params: { path: { id: p.id ?? '', measure_id: m.id ?? '' } },
                        body: { why },
                      }),
                    )
                  }
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {p.mm_per_px == null && (
        <p className="mt-2">
          It has no scale yet: sizes stand in pixels until a known length on it is clicked, and count in no comparison.
        </p>
      )}
    </section>
  )
}

const fine = (m: Schemas['Measured']) => m.kind === 'edge' || m.kind === 'period'

function size(m: Schemas['Measured']) {
  if (m.size_mm == null) return `${figure(m.size_px ?? 0)} px`
  return fine(m) ? `${figure(1000 * m.size_mm)} µm` : `${m.size_mm.toFixed(3)} mm`
}

function uncertainty(m: Schemas['Measured']) {
  return m.expanded_mm == null ? `${figure(m.expanded_px)} px` : `${figure(1000 * m.expanded_mm)} µm`
}

/** The file as it is kept, and the ways out of the record. */
function Facts({ p, back }: { p: Beside; back: string }) {
  const navigate = useNavigate()
  const [why, setWhy] = useState('')
  const [erase, setErase] = useState(false)
  const takeBack = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/photographs/{id}/taking-back', {
          params: { path: { id: p.id ?? '' } },
          body: { why, erase },
        }),
      ),
    onSuccess: () => void navigate(back),
  })
  return (
    <section className="sheet grid gap-2">
      <h2>The file</h2>
      <p>
        <span className="num">
          {p.width_px} × {p.height_px}
        </span>{' '}
        pixels, {p.kind}, <span className="num">{figure(p.file_bytes / 1e6)}</span> MB
        {p.file_name && `, received as ${p.file_name}`}. {p.note}
      </p>
      {p.erased_ms == null && (
        <p className="flex flex-wrap gap-3">
          <a className="button" href={photoFile(p.id, 'large')} download>
            Save the copy without tags
          </a>
          <a className="button" href={photoFile(p.id, 'original')} download>
            Save the original, with its tags
          </a>
        </p>
      )}
      {p.erased_ms == null && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
            Take this photograph back
          </summary>
          <form
            className="flex flex-wrap items-end gap-3"
            onSubmit={(e) => {
              e.preventDefault()
              takeBack.mutate()
            }}
          >
            <label className="text-sm font-semibold">
              Why
              <input className="input font-normal" required value={why} onChange={(e) => setWhy(e.target.value)} />
            </label>
            <label className="flex min-h-(--tap) items-center gap-2">
              <input type="checkbox" checked={erase} onChange={(e) => setErase(e.target.checked)} />
              erase its files for good
            </label>
            <button className="button">{erase ? 'Erase it' : 'Take it back'}</button>
          </form>
          {takeBack.isError && <Complaint>{takeBack.error.message}</Complaint>}
        </details>
      )}
    </section>
  )
}
