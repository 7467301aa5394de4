import { useMutation } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { useNavigate } from 'react-router'
import { Figure, Warnings } from '../../components/Figure'
import { Complaint, Page } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { figure, grouped } from '../../lib/format'

/** The form data goes as it is; the typed client only needs to be told. */
const multipart = (data: FormData) => ({ body: data as never, bodySerializer: (b: unknown) => b as FormData })

export default function ImportPage() {
  const navigate = useNavigate()
  const [file, setFile] = useState<File>()
  const inspect = useMutation({
    mutationFn: (chosen: File) => {
      const data = new FormData()
      data.append('file', chosen)
      return answer(api.POST('/api/v1/meshes/inspect', multipart(data)))
    },
  })
  const keep = useMutation({
    mutationFn: (data: FormData) => answer(api.POST('/api/v1/pieces', multipart(data))),
    onSuccess: (card) => void navigate(`/kit/pieces/${card.piece.id}`),
  })
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const data = new FormData(e.currentTarget)
    if (file) data.set('file', file)
    data.set('support_pct', String(data.get('support_pct') ?? '0').replace(',', '.') || '0')
    keep.mutate(data)
  }
  return (
    <Page
      title="Import a piece"
      about="An STL file, binary or text. You see what is in it first; nothing is kept before that."
    >
      <form className="grid gap-4" onSubmit={submit}>
        <div className="sheet">
          <label htmlFor="file" className="mb-1 block font-semibold">
            Mesh file (STL)
          </label>
          <input
            id="file"
            type="file"
            accept=".stl,model/stl"
            className="input py-2"
            onChange={(e) => {
              const chosen = e.target.files?.[0]
              setFile(chosen)
              if (chosen) inspect.mutate(chosen)
            }}
          />
        </div>
        {inspect.isPending && <p className="text-soft">Reading {file?.name}…</p>}
        {inspect.isError && (
          <Complaint>
            {file?.name} was not kept: {inspect.error.message}
          </Complaint>
        )}
        {inspect.data && file && (
          <>
            <Facts facts={inspect.data} />
            <div className="sheet grid gap-3 sm:grid-cols-3">
              <label className="block text-sm font-semibold">
                Name
                <input
                  name="name"
                  className="input font-normal"
                  defaultValue={file.name.replace(/\.stl$/i, '')}
                  required
                />
              </label>
              <label className="block text-sm font-semibold">
                Revision
                <input name="revision" className="input font-normal" defaultValue="1" />
              </label>
              <label className="block text-sm font-semibold">
                Supports and raft, % of the volume
                <input name="support_pct" className="input num font-normal" inputMode="decimal" defaultValue="0" />
              </label>
            </div>
            {keep.isError && <Complaint>{keep.error.message}</Complaint>}
            <div>
              <button className="button button-main" disabled={keep.isPending}>
                Keep this piece
              </button>
            </div>
          </>
        )}
      </form>
    </Page>
  )
}

function Facts({ facts }: { facts: Schemas['MeshFacts'] }) {
  const [x, y, z] = facts.bounds_mm.max.map((hi, i) => hi - (facts.bounds_mm.min[i] ?? 0))
  return (
    <section className="sheet grid gap-3" aria-label="What is in the file">
      <h2>What is in the file</h2>
      <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <Figure
          label="Triangles"
          value={grouped(facts.triangles)}
          source="measured"
          note={facts.format === 'stl_ascii' ? 'text STL' : 'binary STL'}
        />
        <Figure label="Box" value={`${figure(x, 4)} × ${figure(y, 4)} × ${figure(z, 4)}`} unit="mm" source="computed" />
        <Figure label="Volume" value={figure(Math.abs(facts.signed_volume_ml))} unit="ml" source="computed" />
        <Figure label="Surface" value={figure(facts.surface_mm2)} unit="mm²" source="computed" />
        <Figure label="Closed bodies" value={String(facts.shells)} source="computed" />
        <Figure
          label="Open edges"
          value={grouped(facts.open_edges)}
          source="computed"
          note={facts.open_edges === 0 ? 'watertight' : 'not watertight'}
        />
        <Figure label="Edges of more than two faces" value={grouped(facts.nonmanifold_edges)} source="computed" />
      </dl>
      <Warnings list={facts.warnings} />
    </section>
  )
}
