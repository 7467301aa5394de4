import type { Schemas } from '../../lib/api'

/** What living with the machines of the sides is like: beside the figures, never among them. */
export function LivedTable({ c }: { c: Schemas['Comparison'] }) {
  if (c.lived.length + c.remarked.length === 0) return null
  return (
    <details className="sheet">
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        Living with the machines: what people say of one each ●
      </summary>
      <div className="relative overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th>What is judged</th>
              {c.sides.map((s) => (
                <th key={s.letter}>
                  {s.letter}: {s.machine || s.label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {c.lived.map((row) => (
              <tr key={row.scale}>
                <th scope="row">{row.name}</th>
                {row.sides.map((l, i) => (
                  <td key={i}>{l?.says ?? <span className="text-soft">not rated</span>}</td>
                ))}
              </tr>
            ))}
            {c.remarked.map((row) => (
              <tr key={row.about}>
                <th scope="row" className="first-letter:uppercase">
                  {row.about}
                </th>
                {row.sides.map((says, i) => (
                  <td key={i} className="wrap-anywhere">
                    {says || <span className="text-soft">nothing noted</span>}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </details>
  )
}
