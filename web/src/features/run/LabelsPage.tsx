import { Link, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { PlateMap } from '../../components/PlateMap'
import type { RunSheet } from '../../lib/api'
import { day, figure } from '../../lib/format'
import { usePlate, useRunSheet } from '../../lib/queries'

/** The map with specimen codes, and labels to cut out and keep with each specimen. */
export default function LabelsPage() {
  const { id = '' } = useParams()
  const sheet = useRunSheet(id)
  return <Ready of={sheet}>{(s) => <Paper s={s} />}</Ready>
}

function Paper({ s }: { s: RunSheet }) {
  const plate = usePlate(s.run.plate_id ?? '')
  const piece = (id: string | null | undefined) => s.pieces.find((p) => p.id === id)?.name ?? ''
  return (
    <Page
      title={`${s.run.code}: plate and labels`}
      about={`${s.machine.name}, ${s.resin.name}, ${s.settings}`}
      actions={
        <>
          <Link className="button" to={`/runs/${s.run.id}`}>
            Back to the run
          </Link>
          <button className="button button-main" onClick={() => window.print()}>
            Print
          </button>
        </>
      }
    >
      <p className="border-l-4 border-act pl-3 text-sm">
        Gloves and eye protection before pouring; air the room; keep solvent from flames; drain and wash hollow parts.
        Cure waste before you dispose of it, never down a drain. The resin's safety data sheet, local rules and the
        machine's manual decide.
      </p>
      {plate.data && (
        <section className="sheet">
          <PlateMap
            machine={plate.data.machine}
            margin={plate.data.plate.margin_mm}
            title={`Plate of ${s.machine.name} with the codes of its specimens`}
            items={plate.data.placed.map((l, i) => ({
              key: l.placement.id ?? String(i),
              label: s.specimens[i]?.code ?? '',
              name: l.piece,
              outline: l.outline,
              x: l.placement.x_mm,
              y: l.placement.y_mm,
            }))}
          />
        </section>
      )}
      <section aria-label="Labels" className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3 print:grid-cols-3">
        {s.specimens.map((p) => (
          <div
            key={p.id}
            className="flex break-inside-avoid gap-3 border border-dashed border-soft bg-white p-2 text-black"
          >
            <img
              className="size-24 [image-rendering:pixelated]"
              src={`/api/v1/specimens/${p.code}/qr.png?url=${encodeURIComponent(window.location.origin)}`}
              alt={`Code that opens ${p.code}`}
            />
            <div className="min-w-0">
              <p className="num text-lg font-bold">{p.code}</p>
              <p className="wrap-anywhere">{piece(p.piece_id)}</p>
              <p className="text-sm">
                {s.machine.name}, {s.resin.name}
              </p>
              <p className="text-sm wrap-anywhere">
                {p.exposure_s == null ? s.settings : `${figure(p.exposure_s)} s`}, {figure(s.profile.layer_um)} µm,{' '}
                {day(s.run.started_ms)}
              </p>
            </div>
          </div>
        ))}
      </section>
    </Page>
  )
}
