import { useRef, type ReactNode } from 'react'
import { savePNG, saveSVG } from '../lib/picture'

/** A drawing with its name for those who do not see it, to be saved as a file; its numbers stand in a table beside it. */
export function Plot({
  title,
  label,
  width,
  height,
  children,
}: {
  title: string
  label: string
  width: number
  height: number
  children: ReactNode
}) {
  const svg = useRef<SVGSVGElement>(null)
  return (
    <figure className="grid gap-1">
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label={title}>
        <svg
          ref={svg}
          viewBox={`0 0 ${width} ${height}`}
          className="w-full min-w-[34rem]"
          role="img"
          aria-label={label}
        >
          {children}
        </svg>
      </div>
      <figcaption className="no-print flex flex-wrap items-center gap-2 text-sm text-soft">
        <button className="button" onClick={() => svg.current && saveSVG(svg.current, title)}>
          Save as SVG
        </button>
        <button className="button" onClick={() => svg.current && void savePNG(svg.current, title)}>
          Save as PNG
        </button>
      </figcaption>
    </figure>
  )
}
