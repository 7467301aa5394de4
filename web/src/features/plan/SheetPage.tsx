import { Link, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { PlateMap } from '../../components/PlateMap'
import type { PlateSheet, Schemas } from '../../lib/api'
import { counted, duration, figure, grouped } from '../../lib/format'
import { usePieces, usePlate } from '../../lib/queries'

/** A plate on paper: the map as it lies before you and, for a series, a box for each reading. */
export default function SheetPage() {
  const { id = '' } = useParams()
  const plate = usePlate(id)
  return <Ready of={plate}>{(s) => <Paper s={s} />}</Ready>
}

function Paper({ s }: { s: PlateSheet }) {
  const pieces = usePieces()
  const used = [...new Set(s.placed.map((l) => l.placement.piece_id))]
  const cards = (pieces.data ?? []).filter((p) => used.includes(p.piece.id ?? ''))
  const b = s.resin_budget?.budget
  return (
    <Page
      title={`${s.plate.code}: ${s.plate.name}`}
      about={`${s.machine.name}, ${s.resin.name}, ${s.settings}, ${figure(s.profile?.layer_um ?? s.series?.layer_um)} µm layers`}
      actions={
        <>
          <Link className="button" to={`/plan/${s.plate.id}`}>
            Back to the plate
          </Link>
          <button className="button button-main" onClick={() => window.print()}>
            Print
          </button>
        </>
      }
    >
      <section className="sheet">
        <PlateMap
          machine={s.machine}
          margin={s.plate.margin_mm}
          usable={s.usable}
          title={`Plate of ${s.machine.name} with ${counted(s.placed.length, 'copy', 'copies')}`}
          items={s.placed.map((l, i) => ({
            key: l.placement.id ?? String(i),
            label: String(l.placement.number ?? i + 1),
            name: l.piece,
            outline: l.outline,
            x: l.placement.x_mm,
            y: l.placement.y_mm,
          }))}
        />
        <p>
          {s.time?.best_s != null && (
            <>
              Takes about <span className="num font-semibold">{duration(s.time.best_s)}</span>
              {s.time.best_pi && (
                <>
                  {' '}
                  (95 %: {duration(s.time.best_pi[0])} to {duration(s.time.best_pi[1])})
                </>
              )}
              .{' '}
            </>
          )}
          {b &&
            (b.runs_dry
              ? `Top up before layer ${grouped(b.dry_layer ?? 0)}, within ${duration(b.dry_at_s)} of the first one: ${figure(b.short_ml)} ml in all.`
              : `The vat holds: ${figure(b.needed_ml)} ml needed, ${figure(b.usable_ml)} ml to give.`)}
        </p>
        <Treatment p={s.plate} />
        {s.series && cards[0] && (
          <p className="text-sm">
            Hold each coupon with its cut corner as drawn: so it stood on the plate. Its number is raised on it.
            {s.placed.length > 1 &&
              ' The machine exposes places: if number 1 lay in another corner than drawn, say so on the page of the series.'}
          </p>
        )}
      </section>
      {s.run_ids.length === 0 && s.plate.archived_ms == null && (
        <p className="text-sm text-soft">
          Printed as planned? In one line on the bench: “{s.plate.code} done 2h05 all whole but 3” puts the print on
          record with all that is planned here.
        </p>
      )}
      {!s.series && <Places s={s} />}
      <Readings s={s} features={(id) => cards.find((c) => c.piece.id === id)?.features ?? []} />
    </Page>
  )
}

/** How the plate is to be prepared and treated, as far as that was planned. */
function Treatment({ p }: { p: PlateSheet['plate'] }) {
  const planned = [
    ['Orientation', p.orientation ?? ''],
    ['Supports', p.supports ?? ''],
    ['Wash', p.wash_s == null ? '' : duration(p.wash_s)],
    ['Cure', p.cure_s == null ? '' : duration(p.cure_s)],
  ].filter(([, text]) => text !== '')
  if (planned.length === 0) return null
  return (
    <p>
      As planned:{' '}
      {planned.map(([label, text], i) => (
        <span key={label}>
          {i > 0 && '; '}
          {label!.toLowerCase()} <strong>{text}</strong>
        </span>
      ))}
      .
    </p>
  )
}

function Places({ s }: { s: PlateSheet }) {
  return (
    <section className="sheet overflow-x-auto">
      <table className="rows">
        <thead>
          <tr>
            <th>Place</th>
            <th>Piece</th>
            <th>Scale, %</th>
            <th>Across, mm</th>
            <th>Back, mm</th>
            <th>Turned, °</th>
          </tr>
        </thead>
        <tbody>
          {s.placed.map((l, i) => (
            <tr key={l.placement.id}>
              <td className="num font-bold">{i + 1}</td>
              <td>{l.piece}</td>
              <td className="num">{figure(l.placement.scale_pct)}</td>
              <td className="num">{figure(l.placement.x_mm, 4)}</td>
              <td className="num">{figure(l.placement.y_mm, 4)}</td>
              <td className="num">{figure(l.placement.turn_deg)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** A box for each reading of each copy: tick the rungs that came out, write the sizes. */
function Readings({ s, features }: { s: PlateSheet; features: (pieceID: string) => Schemas['Feature'][] }) {
  return s.placed.map((l, i) => {
    const own = features(l.placement.piece_id).filter((f) => f.retired_ms == null)
    if (own.length === 0) return null
    const ladders = own.filter((f) => f.kind === 'pins' || f.kind === 'gaps')
    const rest = own.filter((f) => f.kind === 'dimension' || f.kind === 'checkpoint')
    return (
      <section key={l.placement.id} className="sheet grid break-inside-avoid gap-2">
        <h2>
          {s.series ? (
            <>
              Cell <span className="num">{l.placement.number}</span>:{' '}
              <span className="num">{figure(l.placement.exposure_s)}</span> s
            </>
          ) : (
            <>
              <span className="num">{i + 1}</span>: {l.piece}
            </>
          )}
        </h2>
        <p>□ came off whole &nbsp; □ did not</p>
        {ladders.length > 0 && (
          <div className="overflow-x-auto">
            <table className="rows">
              <tbody>
                {ladders.map((f) => (
                  <tr key={f.id}>
                    <th scope="row">{f.name}, mm</th>
                    {(f.rungs_mm ?? []).map((r) => (
                      <td key={r} className="num whitespace-nowrap">
                        □ {r}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
        <ul className="grid gap-x-6 gap-y-1 sm:grid-cols-2 lg:grid-cols-3">
          {rest.map((f) => (
            <li key={f.id} className="flex justify-between gap-2 border-b border-line">
              <span>
                {f.name}
                {f.nominal_mm != null && <span className="num text-soft"> ({figure(f.nominal_mm, 4)})</span>}
              </span>
              <span className="num">{f.kind === 'dimension' ? '________ mm' : '□ yes □ no'}</span>
            </li>
          ))}
        </ul>
      </section>
    )
  })
}
