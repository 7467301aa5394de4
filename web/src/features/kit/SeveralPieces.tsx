import { Link } from 'react-router'
import { Complaint } from '../../components/Page'
import { LeaveLater } from '../../components/LeaveLater'
import { KindInput } from '../../components/KindInput'
import { ProgressBar } from '../../components/ProgressBar'
import { counted, figure, grouped } from '../../lib/format'
import type { useSeveral } from './useSeveral'

/** Several mesh files, with what was found in each, and which are kept. */
export function SeveralPieces({ several }: { several: ReturnType<typeof useSeveral> }) {
  const { list, set, look, keep, chosen, inspecting, keeping, kind, setKind } = several
  const running = inspecting.progress ?? keeping.progress
  const done = list.filter((l) => l.kept).length
  return (
    <section className="grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="Several files">
      {running && (
        <ProgressBar of={running} name="The file" stop={inspecting.progress ? inspecting.stop : keeping.stop} />
      )}
      <div className="sheet overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th>Keep</th>
              <th>File</th>
              <th>Name</th>
              <th>Box, mm ◇</th>
              <th>Volume, ml ◇</th>
              <th>Triangles</th>
              <th>To mind</th>
            </tr>
          </thead>
          <tbody>
            {list.map((l) => (
              <tr key={l.file.name + l.file.size}>
                <td>
                  <input
                    type="checkbox"
                    aria-label={`Keep ${l.file.name}`}
                    checked={l.keep}
                    disabled={!l.preview || l.kept !== undefined}
                    onChange={(e) => set(l.file, { keep: e.target.checked })}
                  />
                </td>
                <td>{l.file.name}</td>
                <td className="min-w-40">
                  {l.kept ? (
                    <Link to={`/kit/pieces/${l.kept.piece.id}`}>{l.kept.piece.name}</Link>
                  ) : (
                    <input
                      className="input"
                      aria-label={`Name of ${l.file.name}`}
                      value={l.name}
                      onChange={(e) => set(l.file, { name: e.target.value })}
                    />
                  )}
                </td>
                <td className="num whitespace-nowrap">
                  {l.preview &&
                    [l.preview.piece.size_x_mm, l.preview.piece.size_y_mm, l.preview.piece.size_z_mm]
                      .map((v) => figure(v, 4))
                      .join(' × ')}
                </td>
                <td className="num">{l.preview && figure(l.preview.piece.volume_ml)}</td>
                <td className="num whitespace-nowrap">{l.preview && grouped(l.preview.piece.triangles)}</td>
                <td className="text-sm">
                  {l.wrong && <span className="font-semibold text-bad">{l.wrong}</span>}
                  {l.preview?.known && `On record as ${l.preview.known}. `}
                  {l.preview?.piece.mesh_warnings.join(' ')}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {keep.isError && (
        <Complaint>
          {keep.error.message} Not kept: {chosen.map((l) => l.name).join(', ')}.
        </Complaint>
      )}
      <LeaveLater busy={keep.isPending} waits={chosen.map((l) => l.name).join(', ')} />
      {done < list.length && (
        <div className="flex flex-wrap items-end gap-3">
          <label className="text-sm font-semibold">
            Kind of all of them
            <KindInput value={kind} onChange={setKind} />
          </label>
          <button
            type="button"
            className="button button-main"
            disabled={look.isPending || keep.isPending || chosen.length === 0}
            onClick={() => keep.mutate()}
          >
            Keep {counted(chosen.length, 'piece')}
          </button>
        </div>
      )}
      {done > 0 && !keep.isPending && (
        <p role="status">
          {counted(done, 'piece')} kept. <Link to="/tables/features">Say what is measured on them</Link>
        </p>
      )}
    </section>
  )
}
