import { Figure } from '../../components/Figure'
import type { Schemas } from '../../lib/api'
import { figure, grouped } from '../../lib/format'

/** How hard the piece is to print as it stands, read off its slices. */
export function Difficulty({ d }: { d: Schemas['MeshDifficulty'] }) {
  return (
    <div className="grid gap-2">
      <h3>How hard it is, as it stands</h3>
      <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <Figure
          label="Thinnest free-standing part"
          value={d.thinnest_mm == null ? 'none found' : figure(d.thinnest_mm)}
          unit={d.thinnest_mm == null ? '' : 'mm'}
          source="computed"
          note={d.thinnest_mm == null ? undefined : `at ${figure(d.thinnest_at_mm)} mm`}
        />
        <Figure
          label="Outline against plain discs"
          value={figure(d.relief_ratio)}
          unit="times"
          source="computed"
          note="1 is a plain round column"
        />
        <Figure label="Overhang flatter than 45°" value={figure(d.overhang_mm2)} unit="mm²" source="computed" />
        <Figure label="Contact with the plate" value={figure(d.contact_mm2)} unit="mm²" source="computed" />
        <Figure
          label="Largest layer"
          value={figure(d.largest_mm2)}
          unit="mm²"
          source="computed"
          note={`at ${figure(d.largest_at_mm)} mm`}
        />
        <Figure
          label="Largest jump in area"
          value={figure(d.jump_mm2)}
          unit="mm²"
          source="computed"
          note={`at ${figure(d.jump_at_mm)} mm`}
        />
        <Figure
          label="Parts that start in mid-air"
          value={grouped(d.island_count)}
          source="computed"
          note="need a support, or are lost"
        />
      </dl>
      {d.islands.length > 0 && (
        <details>
          <summary className="cursor-pointer font-semibold">Where they start</summary>
          <ul className="mt-1 grid gap-1 text-sm sm:grid-cols-2">
            {d.islands.map((i, k) => (
              <li key={k} className="num">
                {figure(i.at_mm)} mm up, {figure(i.area_mm2)} mm², at {figure(i.x_mm)} / {figure(i.y_mm)} mm
              </li>
            ))}
          </ul>
        </details>
      )}
      <p className="text-sm text-soft">
        Read off slices of <span className="num">{figure(d.layer_um)}</span> µm in rows of{' '}
        <span className="num">{figure(d.grid_um)}</span> µm. Fine detail on a larger body is not in it: state the finest
        feature yourself.
      </p>
    </div>
  )
}
