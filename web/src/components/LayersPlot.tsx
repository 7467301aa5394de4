import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear } from '@visx/scale'
import type { Schemas } from '../lib/api'
import { figure, grouped } from '../lib/format'
import { Plot } from './Plot'

const [width, height] = [720, 180]
const pad = { left: 58, right: 12, top: 12, bottom: 42 }

/** The lit area of each layer over its height; layers with something that nothing holds are marked. */
export function LayersPlot({ solid, layerUM }: { solid: Schemas['StackSolid']; layerUM: number }) {
  const areas = solid.areas_mm2
  const x = scaleLinear({ domain: [0, solid.height_mm], range: [pad.left, width - pad.right] })
  const y = scaleLinear({
    domain: [0, solid.largest_mm2 || 1],
    range: [height - pad.bottom, pad.top],
    nice: true,
  })
  const at = (layer: number) => x((layer * layerUM) / 1000)
  let line = `M${x(0)} ${y(0)}`
  areas.forEach((area, i) => (line += `V${y(area).toFixed(1)}H${at(i + 1).toFixed(1)}`))
  return (
    <div className="grid gap-1">
      <Plot
        title="Lit area by height"
        label={`Lit area by height: at most ${figure(solid.largest_mm2)} mm² in layer ${grouped(solid.largest_layer)} of ${grouped(areas.length)}`}
        width={width}
        height={height}
      >
        <path d={`${line}V${y(0)}Z`} className="fill-ink/15 stroke-ink" strokeWidth={1} />
        {solid.islands.map((i) => (
          <path key={i.layer} d={`M${x(i.at_mm)} ${height - pad.bottom}l-4 -8h8z`} className="fill-bad" />
        ))}
        <AxisBottom
          scale={x}
          top={height - pad.bottom}
          numTicks={8}
          tickFormat={(v) => figure(Number(v))}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ className: 'num fill-soft', fontSize: 11 }}
          label="height, mm"
          labelProps={{ className: 'fill-soft', fontSize: 12, textAnchor: 'middle' }}
        />
        <AxisLeft
          scale={y}
          left={pad.left}
          numTicks={4}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ className: 'num fill-soft', fontSize: 11, textAnchor: 'end', dx: -4, dy: 4 }}
        />
      </Plot>
      <p className="text-sm text-soft">
        Lit area of each layer in mm², a grey pixel as its share of full light.
        {solid.islands.length > 0 && (
          <>
            {' '}
            <span className="text-bad">▼</span> something begins with nothing under it.
          </>
        )}
      </p>
    </div>
  )
}
