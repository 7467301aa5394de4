import { AxisBottom, AxisLeft } from '@visx/axis'
import { scaleLinear, scaleLog } from '@visx/scale'
import type { SeriesSheet } from '../../lib/api'
import { figure } from '../../lib/format'

const width = 900
const height = 340
const left = 62
const bottom = 52

/** All three schools over one exposure axis: readings, the tested range, and where each school chooses. */
export function SchoolsPlot({ sheet }: { sheet: SeriesSheet }) {
  const cells = sheet.cells.filter((c) => c.reading)
  const tested = cells.map((c) => c.cell.exposure_s)
  const choices = [
    { school: 'detail', at: sheet.result?.detail?.exposure_s, dash: '' },
    { school: 'fit', at: sheet.result?.fit?.exposure_s, dash: '7 4' },
    { school: 'survival', at: sheet.result?.survival?.exposure_s, dash: '2 4' },
  ].filter(
    (c): c is { school: string; at: number; dash: string } =>
      typeof c.at === 'number' && c.at < 4 * Math.max(...tested),
  )
  const xs = [...sheet.cells.map((c) => c.cell.exposure_s), ...choices.map((c) => c.at)]
  const x = scaleLog({ domain: [Math.min(...xs) * 0.94, Math.max(...xs) * 1.06], range: [left, width - 16] })
  const values = cells
    .flatMap((c) => [
      c.reading?.smallest_pin_mm,
      c.reading?.smallest_gap_mm,
      c.reading?.outer_error_mm,
      c.reading?.inner_error_mm,
    ])
    .filter((v): v is number => typeof v === 'number')
  const y = scaleLinear({
    domain: [Math.min(0, ...values), Math.max(0.1, ...values)],
    range: [height - bottom, 62],
    nice: true,
  })
  const mark = (shape: 'pin' | 'gap' | 'outer' | 'inner') => {
    switch (shape) {
      case 'pin':
        return <path d="M0 -6L5 5H-5Z" fill="var(--ink)" />
      case 'gap':
        return <path d="M0 6L5 -5H-5Z" fill="none" stroke="var(--ink)" strokeWidth="2" />
      case 'outer':
        return <rect x={-4} y={-4} width={8} height={8} fill="var(--soft)" />
      case 'inner':
        return <rect x={-4} y={-4} width={8} height={8} fill="none" stroke="var(--soft)" strokeWidth="2" />
    }
  }
  const kinds = [
    { key: 'smallest_pin_mm', shape: 'pin', label: 'smallest pin' },
    { key: 'smallest_gap_mm', shape: 'gap', label: 'smallest gap' },
    { key: 'outer_error_mm', shape: 'outer', label: 'outer error' },
    { key: 'inner_error_mm', shape: 'inner', label: 'inner error' },
  ] as const
  const text = { fill: 'var(--soft)', fontSize: 13, fontFamily: 'var(--font-mono)' }
  return (
    <figure className="sheet overflow-x-auto">
      <svg
        viewBox={`0 0 ${width} ${height}`}
        className="block w-full min-w-[36rem]"
        role="img"
        aria-label={`Readings over exposure; ${choices.map((c) => `${c.school} chooses ${figure(c.at)} s`).join(', ')}`}
      >
        <rect
          x={x(Math.min(...tested))}
          y={56}
          width={x(Math.max(...tested)) - x(Math.min(...tested))}
          height={height - bottom - 56}
          fill="var(--plate)"
        />
        <line x1={left} x2={width - 16} y1={y(0)} y2={y(0)} stroke="var(--soft)" />
        {cells.map((c) =>
          kinds.map((k) => {
            const v = c.reading?.[k.key]
            return typeof v === 'number' ? (
              <g key={c.cell.id + k.key} transform={`translate(${x(c.cell.exposure_s)} ${y(v)})`}>
                {mark(k.shape)}
              </g>
            ) : null
          }),
        )}
        {choices.map((c, i) => (
          <g key={c.school} transform={`translate(${x(c.at)} 0)`}>
            <line y1={6 + 17 * i} y2={height - bottom} stroke="var(--act)" strokeWidth="2" strokeDasharray={c.dash} />
            <text
              y={16 + 17 * i}
              x={5}
              textAnchor="start"
              fill="var(--act)"
              stroke="var(--sheet)"
              strokeWidth={5}
              paintOrder="stroke"
              fontSize={13}
              fontWeight={700}
            >
              {c.school} {figure(c.at)} s
            </text>
          </g>
        ))}
        <AxisBottom
          top={height - bottom}
          scale={x}
          tickValues={sheet.cells.map((c) => c.cell.exposure_s)}
          tickFormat={(v) => figure(Number(v))}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ ...text, textAnchor: 'middle' }}
          label="exposure, s (grey: tested)"
          labelProps={{ ...text, textAnchor: 'middle' }}
          labelOffset={10}
        />
        <AxisLeft
          left={left}
          scale={y}
          numTicks={6}
          stroke="var(--soft)"
          tickStroke="var(--soft)"
          tickLabelProps={{ ...text, textAnchor: 'end', dy: 4, dx: -4 }}
        />
        <text x={8} y={52} {...text}>
          mm
        </text>
      </svg>
      <figcaption className="flex flex-wrap gap-x-5 text-sm">
        {kinds.map((k) => (
          <span key={k.key} className="flex items-center gap-1.5">
            <svg viewBox="-8 -8 16 16" className="size-4" aria-hidden="true">
              {mark(k.shape)}
            </svg>
            {k.label}
          </span>
        ))}
      </figcaption>
    </figure>
  )
}
