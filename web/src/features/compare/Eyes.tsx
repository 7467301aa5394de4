import { How } from '../../components/How'
import type { Comparison } from '../../lib/api'
import { figure } from '../../lib/format'

const seen = { plain: 'plain', borderline: 'borderline', below: 'no' }

/** What the sides draw differently, and from how near eyes tell it. */
export function Eyes({ c }: { c: Comparison }) {
  const known = c.eyes.filter((e) => e.between !== null)
  const stations = known[0]?.between?.seen ?? []
  return (
    <section className="sheet grid gap-2" aria-label="What eyes can tell between the sides">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>What eyes can tell between the sides</h2>
        <How figure="eyes" of="What eyes can tell" />
      </div>
      {c.eyes.length === 0 ? (
        <p>They draw with the same dots and layers: nothing there for eyes to tell them apart by.</p>
      ) : (
        <>
          {known.length > 0 && (
            <div className="overflow-x-auto">
              <table className="rows w-full">
                <caption className="sr-only">
                  Differences between the sides, and from where steps of them are seen
                </caption>
                <thead>
                  <tr>
                    <th scope="col">Sides</th>
                    <th scope="col">Difference in</th>
                    <th scope="col">Sizes ◇</th>
                    <th scope="col">Within sight nearer than</th>
                    {stations.map((s) => (
                      <th key={s.name} scope="col">
                        {s.name}
                        <span className="num block font-normal">{figure(s.distance_mm)} mm</span>
                      </th>
                    ))}
                  </tr>
                </thead>
                <tbody>
                  {known.map((e) => (
                    <tr key={`${e.a} ${e.b} ${e.what}`}>
                      <th scope="row" className="whitespace-nowrap">
                        {c.sides[e.a]?.letter}, {c.sides[e.b]?.letter}
                      </th>
                      <td>{e.what}</td>
                      <td className="num whitespace-nowrap">
                        {figure(e.between!.a_um)}, {figure(e.between!.b_um)} µm
                      </td>
                      <td className="num whitespace-nowrap">{figure(e.between!.within_mm)} mm</td>
                      {e.between!.seen.map((s) => (
                        <td key={s.name}>{seen[s.verdict]}</td>
                      ))}
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
          {c.eyes
            .filter((e) => e.between === null)
            .map((e) => (
              <p key={`${e.a} ${e.b} ${e.what}`}>{e.says}</p>
            ))}
          <p className="text-sm text-soft">
            Computed for raw surfaces, as steps of 0.2 arc-minutes with good sight. After primer or paint it is
            unproven, and no judge has seen it.
          </p>
        </>
      )}
    </section>
  )
}
