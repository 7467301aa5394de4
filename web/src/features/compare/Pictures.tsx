import { useState } from 'react'
import { Link } from 'react-router'
import type { Comparison } from '../../lib/api'
import { photoFile } from '../../lib/viewing'

/** As many photographs as are laid side by side. */
const mostBeside = 6

/** The same thing, seen in the same way, over all sides: choose some and lay them side by side. */
export function Pictures({ c }: { c: Comparison }) {
  const [chosen, setChosen] = useState<string[]>([])
  if (c.pictures.length === 0) return null
  const label = (id: string) => {
    for (const row of c.pictures)
      for (const [i, shots] of row.sides.entries()) if (shots.some((s) => s.id === id)) return c.sides[i]?.letter ?? ''
    return ''
  }
  const address = (ids: string[]) => `/compare/photographs?${ids.map((id) => `id=${id}&label=${label(id)}`).join('&')}`
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="Photographs of the sides">
      <div className="flex flex-wrap items-center gap-3">
        <h2>Photographs of the sides</h2>
        {chosen.length > 0 && (
          <Link className="button button-main" to={address(chosen)}>
            Lay the {chosen.length === 1 ? 'one' : chosen.length} chosen side by side
          </Link>
        )}
      </div>
      <div className="relative overflow-x-auto">
        <table className="rows w-full">
          <caption className="sr-only">What was photographed in the same way, side by side</caption>
          <thead>
            <tr>
              <th scope="col">What, and how</th>
              {c.sides.map((s) => (
                <th key={s.letter} scope="col">
                  {s.letter}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {c.pictures.map((row) => {
              const firsts = row.sides.flatMap((shots) => shots.slice(-1).map((s) => s.id)).slice(0, mostBeside)
              return (
                <tr key={`${row.piece_id} ${row.feature} ${row.station} ${row.stage}`}>
                  <th scope="row" className="align-top font-normal">
                    <strong>
                      {row.piece}
                      {row.feature && `, ${row.feature}`}
                    </strong>
                    <span className="block text-soft">
                      {row.station}, {row.stage}
                    </span>
                    {firsts.length > 1 && <Link to={address(firsts)}>Side by side</Link>}
                  </th>
                  {row.sides.map((shots, i) => (
                    <td key={c.sides[i]?.letter} className="align-top">
                      <div className="flex flex-wrap gap-2">
                        {shots.map((s) => {
                          const at = chosen.indexOf(s.id)
                          return (
                            <label key={s.id} className="grid w-28 cursor-pointer gap-1 text-sm">
                              <img
                                src={photoFile(s.id, 'small')}
                                alt={`${s.code} of ${s.specimen}, under ${s.light}`}
                                loading="lazy"
                                className={`h-24 w-28 border-2 bg-plate object-contain ${at < 0 ? 'border-line' : 'border-act'}`}
                              />
                              <span className="flex items-center gap-1">
                                <input
                                  type="checkbox"
                                  aria-label={s.specimen}
                                  checked={at >= 0}
                                  disabled={at < 0 && chosen.length >= mostBeside}
                                  onChange={() =>
                                    setChosen(at < 0 ? [...chosen, s.id] : chosen.filter((id) => id !== s.id))
                                  }
                                />
                                <span className="num">{s.specimen}</span>
                              </span>
                              {s.blurred && <span className="font-semibold text-bad">Blurred</span>}
                            </label>
                          )
                        })}
                        {shots.length === 0 && <span className="text-soft">none</span>}
                      </div>
                    </td>
                  ))}
                </tr>
              )
            })}
          </tbody>
        </table>
      </div>
    </section>
  )
}
