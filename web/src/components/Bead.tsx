export type Shape = 'whole' | 'nicked' | 'split' | 'ring' | 'open'

export const shapeWords: Record<Shape, string> = {
  whole: 'all whole',
  nicked: 'micro-defect',
  split: 'part of the plate lost',
  ring: 'nothing usable',
  open: 'not judged yet',
}

/** A run on its cord. The shape tells the outcome; the colour only repeats the thread. */
export function Bead({ shape, colour, r = 10 }: { shape: Shape; colour: string; r?: number }) {
  const caps = <path d={`M${-r - 2.5} -4v8M${r + 2.5} -4v8`} stroke="var(--ink)" strokeWidth="4" strokeLinecap="butt" />
  switch (shape) {
    case 'whole':
      return (
        <g>
          {caps}
          <circle r={r} fill={colour} />
        </g>
      )
    case 'nicked':
      return (
        <g>
          {caps}
          <path
            d={`M${-r * 0.45} ${-r * 0.9} A${r} ${r} 0 1 0 ${r * 0.45} ${-r * 0.9} L0 ${r * 0.15} Z`}
            fill={colour}
          />
        </g>
      )
    case 'split':
      return (
        <g fill={colour}>
          <path d={`M-2 ${-r - 2} A${r} ${r} 0 0 0 -2 ${r - 2} Z`} />
          <path d={`M3 ${-r + 3} A${r} ${r} 0 0 1 3 ${r + 3} Z`} />
        </g>
      )
    case 'ring':
      return <circle r={r - 1.5} fill="var(--plate)" stroke={colour} strokeWidth="3.5" />
    default:
      return (
        <g>
          <circle r={r - 1} fill="var(--plate)" stroke={colour} strokeWidth="2" strokeDasharray="3 3" />
          <circle r="3" fill={colour} />
        </g>
      )
  }
}

/** Something that changed the machine between runs. */
export function KnotGlyph() {
  return (
    <path
      d="M-13 3 C-6 3 5 -1 5 -6.5 A5 4.2 0 0 0 -5 -6.5 C-5 -1 6 3 13 3"
      fill="none"
      stroke="var(--ink)"
      strokeWidth="2.6"
      strokeLinecap="round"
    />
  )
}
