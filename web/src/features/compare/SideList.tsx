import type { Schemas } from '../../lib/api'
import { counted } from '../../lib/format'
import { mostSides } from './ComparePage'

/** Which set-ups of a review stand against each other: folded to how many, opened to choose. */
export function SideList({
  list,
  chosen,
  choose,
}: {
  list: Schemas['SetUp'][]
  chosen: string[][]
  choose: (sides: string[][]) => void
}) {
  const key = (ids: string[]) => ids.join()
  const on = new Set(chosen.map(key))
  const toggle = (s: Schemas['SetUp']) =>
    choose(list.filter((x) => (key(x.run_ids) === key(s.run_ids)) !== on.has(key(x.run_ids))).map((x) => x.run_ids))
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {chosen.length} of {counted(list.length, 'set-up')} as sides
      </summary>
      <fieldset className="grid gap-1 sm:grid-cols-2">
        <legend className="sr-only">Sides</legend>
        {list.map((s) => (
          <label key={key(s.run_ids)} className="flex min-h-(--tap) items-center gap-2">
            <input
              type="checkbox"
              className="size-5"
              checked={on.has(key(s.run_ids))}
              disabled={!on.has(key(s.run_ids)) && chosen.length >= mostSides}
              onChange={() => toggle(s)}
            />
            <span>
              {s.label}{' '}
              <span className="text-soft">
                {s.reference_id ? counted(s.specimens, 'copy', 'copies') : counted(s.runs.length, 'print')}
              </span>
            </span>
          </label>
        ))}
      </fieldset>
    </details>
  )
}
