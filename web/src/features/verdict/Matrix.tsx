import { Link } from 'react-router'
import { Ready } from '../../components/Page'
import type { Review, Schemas } from '../../lib/api'
import { counted } from '../../lib/format'
import { useMatrix } from '../../lib/queries'

type MatrixData = Schemas['Matrix']

/** What a review put to the test: combinations by pieces, what they tell, and what is missing. */
export function Matrix({ review }: { review: Review }) {
  const matrix = useMatrix(review.id)
  return (
    <section className="sheet grid gap-3" aria-label="What was put to the test">
      <div className="flex flex-wrap items-center justify-between gap-3">
        <h2>What was put to the test</h2>
        {review.under_test.length > 0 && review.piece_ids.length > 0 && (
          <Link className="button" to={`/verdict/${review.id}/plan`}>
            {matrix.data?.rows.length === 0 ? 'Plan its prints' : 'Plan what is missing'}
          </Link>
        )}
      </div>
      <Ready of={matrix}>{(m) => <Combinations m={m} />}</Ready>
    </section>
  )
}

function Combinations({ m }: { m: MatrixData }) {
  if (m.pieces.length === 0) return <p>Name the pieces of this review above: each is a column here.</p>
  if (m.rows.length === 0)
    return <p>No print of this review’s machines, resins and pieces is on record or planned yet.</p>
  if (m.factors.length === 0)
    return <p>Nothing is under test. Choose above what varies on purpose: each factor is a column here.</p>
  // What is the same in all is said once; a column is for what differs.
  const all = m.factors.map((f, i) => ({ f, i }))
  const same = ({ f, i }: (typeof all)[number]) =>
    f.levels.length === 1 && m.rows.every((r) => r.levels[i] === f.levels[0])
  const [held, varied] = [all.filter(same), all.filter((x) => !same(x))]
  const shown = varied.length > 0 ? varied : all
  return (
    <>
      {m.tells.length > 0 && (
        <ul className="grid gap-1">
          {m.tells.map((t) => (
            <li key={t}>{t}</li>
          ))}
        </ul>
      )}
      {m.with_plan.length > 0 && (
        <div>
          <h3>Once what is planned is printed</h3>
          <ul className="grid gap-1">
            {m.with_plan.map((t) => (
              <li key={t}>{t}</li>
            ))}
          </ul>
        </div>
      )}
      {varied.length > 0 && held.length > 0 && (
        <p className="text-soft">
          The same in all: {held.map(({ f }) => `${f.name.toLowerCase()} ${f.levels[0]}`).join(', ')}.
        </p>
      )}
      <div className="overflow-x-auto">
        <table className="rows w-full">
          <caption className="sr-only">Prints of each combination, by piece</caption>
          <thead>
            <tr>
              {shown.map(({ f }) => (
                <th key={f.key} scope="col">
                  {f.name}
                </th>
              ))}
              {m.pieces.map((p) => (
                <th key={p.id} scope="col">
                  {p.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {m.rows.map((row) => (
              <tr key={row.levels.join('|')}>
                {shown.map(({ f, i }) => (
                  <td key={f.key}>{row.levels[i] || <span className="text-soft">not known</span>}</td>
                ))}
                {row.cells.map((cell, i) => (
                  <td key={m.pieces[i]?.id}>
                    <Cell cell={cell} />
                  </td>
                ))}
              </tr>
            ))}
            {m.missing.map((levels) => (
              <tr key={levels.join('|')} className="border-dashed">
                {shown.map(({ f, i }) => (
                  <td key={f.key}>{levels[i]}</td>
                ))}
                <td colSpan={m.pieces.length} className="text-soft">
                  missing: with prints of this combination, all of the above could be told
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  )
}

function Cell({ cell }: { cell: MatrixData['rows'][number]['cells'][number] }) {
  const left = cell.left_out > 0 && <span className="block text-sm text-soft">{cell.left_out} left out</span>
  const planned = cell.planned > 0 && <span className="block text-sm">{cell.planned} planned</span>
  if (cell.prints + cell.open === 0)
    return (
      <span className="text-soft">
        none{planned}
        {left}
      </span>
    )
  return (
    <>
      <span className="font-semibold">{counted(cell.prints, 'print')}</span>
      {cell.open > 0 && `, ${cell.open} not ended`}
      <span className="block text-sm text-soft">
        {cell.judged === 0 ? 'none judged' : `${cell.failed} of ${cell.judged} judged failed`}
        {cell.judged > 0 && cell.judged < cell.specimens && `; ${cell.specimens - cell.judged} not judged`}
      </span>
      {planned}
      {left}
    </>
  )
}
