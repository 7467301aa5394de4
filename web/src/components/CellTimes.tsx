import type { Schemas } from '../lib/api'
import { duration, figure } from '../lib/format'
import { Figure } from './Figure'

/** A series on one plate against one plate a cell, both by the model. */
export function CellTimes({ c }: { c: Schemas['CellPlan'] }) {
  return (
    <div className="grid gap-2">
      <dl className="grid gap-3 sm:grid-cols-2">
        <Figure
          label={`All ${c.cells} cells on one plate`}
          value={c.one_plate_s == null ? 'not possible' : duration(c.one_plate_s)}
          source="computed"
          note={
            c.exposure === 'together'
              ? 'a layer takes as long as its longest cell'
              : c.exposure === 'in_turn'
                ? 'cells are lit one after the other'
                : undefined
          }
        />
        <Figure
          label={`${c.cells} plates, one a cell`}
          value={duration(c.each_with_turnaround_s)}
          source="computed"
          note={`${duration(c.each_s)} of printing, ${figure(c.turnaround_min)} min between plates`}
        />
      </dl>
      {c.reason && <p className="text-sm text-soft">{c.reason}</p>}
    </div>
  )
}
