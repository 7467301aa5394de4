import { useMutation } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { Link, useNavigate } from 'react-router'
import { Figure } from '../../components/Figure'
import { Complaint, Page } from '../../components/Page'
import { ProgressBar } from '../../components/ProgressBar'
import type { Schemas } from '../../lib/api'
import { figure, grouped } from '../../lib/format'
import { Stopped } from '../../lib/task'
import { useUpload } from '../../lib/upload'
import { Difficulty } from './Difficulty'
import { KindInput } from '../../components/KindInput'
import { SeveralPieces } from './SeveralPieces'
import { useSeveral } from './useSeveral'

export default function ImportPage() {
  const navigate = useNavigate()
  const [file, setFile] = useState<File>()
  const several = useSeveral()
  const inspecting = useUpload<Schemas['MeshPreview']>('/api/v1/meshes/inspect')
  const keeping = useUpload<Schemas['PieceCard']>('/api/v1/pieces')
  const inspect = useMutation({
    mutationFn: (chosen: File) => {
      const data = new FormData()
      data.append('file', chosen)
      return inspecting.send(data)
    },
  })
  const keep = useMutation({
    mutationFn: keeping.send,
    onSuccess: (card) => void navigate(`/kit/pieces/${card.piece.id}`),
  })
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const data = new FormData(e.currentTarget)
    if (file) data.set('file', file)
    data.set('support_pct', String(data.get('support_pct') ?? '0').replace(',', '.') || '0')
    keep.mutate(data)
  }
  const running = inspecting.progress ?? keeping.progress
  return (
    <Page
      title="Import a piece"
      about="STL, 3MF or OBJ. You see what is in it first; nothing is kept before that."
      actions={
        <Link className="button" to="/kit/coupons/new">
          Make a coupon instead
        </Link>
      }
    >
      <form className="grid gap-4" onSubmit={submit}>
        <div className="sheet">
          <label htmlFor="file" className="mb-1 block font-semibold">
            Mesh files (STL, 3MF or OBJ)
          </label>
          <input
            id="file"
            type="file"
            multiple
            accept=".stl,.3mf,.obj,model/stl,model/3mf,model/obj"
            className="input py-2"
            onChange={(e) => {
              const chosen = [...(e.target.files ?? [])]
              const [one] = chosen
              several.clear()
              inspect.reset()
              setFile(chosen.length === 1 ? one : undefined)
              if (chosen.length > 1) several.look.mutate(chosen)
              else if (one) inspect.mutate(one)
            }}
          />
          <p className="mt-1 text-sm text-soft">A file that was supported elsewhere is a mesh like any other.</p>
        </div>
        {several.list.length > 0 && <SeveralPieces several={several} />}
        {running && (
          <ProgressBar
            of={running}
            name={file?.name ?? 'The file'}
            stop={inspecting.progress ? inspecting.stop : keeping.stop}
          />
        )}
        {inspect.isError && (
          <Complaint>
            {inspect.error instanceof Stopped
              ? inspect.error.message
              : `${file?.name} was not kept: ${inspect.error.message}`}
          </Complaint>
        )}
        {inspect.data && file && (
          <>
            {inspect.data.known && (
              <p className="font-semibold">This very file is on record already, as {inspect.data.known}.</p>
            )}
            <Facts preview={inspect.data} />
            <div className="sheet grid gap-3 sm:grid-cols-4">
              <label className="block text-sm font-semibold">
                Name
                <input
                  name="name"
                  className="input font-normal"
                  defaultValue={file.name.replace(/\.(stl|3mf|obj)$/i, '')}
                  required
                />
              </label>
              <label className="block text-sm font-semibold">
                Revision
                <input name="revision" className="input font-normal" defaultValue="1" />
              </label>
              <label className="block text-sm font-semibold">
                Kind
                <KindInput name="kind" />
              </label>
              <label className="block text-sm font-semibold">
                Supports, % of the volume
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

const formats: Record<string, string> = { stl_ascii: 'text STL', stl_binary: 'binary STL', '3mf': '3MF', obj: 'OBJ' }

function Facts({ preview }: { preview: Schemas['MeshPreview'] }) {
  const p = preview.piece
  return (
    <section className="sheet grid gap-3" aria-label="What is in the file">
      <h2>What is in the file</h2>
      <div className="grid items-start gap-4 sm:grid-cols-[12rem_minmax(0,1fr)]">
        <img className="w-48" src={`data:image/png;base64,${preview.picture_png}`} alt="The piece as it stands" />
        <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          <Figure
            label="Triangles"
            value={grouped(p.triangles)}
            source="measured"
            note={formats[p.format] ?? p.format}
          />
          <Figure
            label="Box"
            value={`${figure(p.size_x_mm, 4)} × ${figure(p.size_y_mm, 4)} × ${figure(p.size_z_mm, 4)}`}
            unit="mm"
            source="computed"
          />
          <Figure label="Volume" value={figure(p.volume_ml)} unit="ml" source="computed" />
          <Figure label="Surface" value={figure(p.surface_mm2)} unit="mm²" source="computed" />
          <Figure label="Closed bodies" value={String(p.shells)} source="computed" />
          <Figure
            label="Open edges"
            value={grouped(p.open_edges)}
            source="computed"
            note={p.open_edges === 0 ? 'watertight' : 'not watertight'}
          />
          <Figure label="Edges of more than two faces" value={grouped(p.nonmanifold_edges)} source="computed" />
        </dl>
      </div>
      {p.mesh_warnings.length > 0 && (
        <ul className="grid gap-1" aria-label="What to mind">
          {p.mesh_warnings.map((w) => (
            <li key={w} className="border-l-4 border-act pl-2">
              {w}
            </li>
          ))}
        </ul>
      )}
      {p.geometry?.difficulty && <Difficulty d={p.geometry.difficulty} />}
    </section>
  )
}
