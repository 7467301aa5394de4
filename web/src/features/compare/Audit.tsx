import type { Schemas } from '../../lib/api'
import { How } from '../../components/How'
import { counted, words } from '../../lib/format'

type Audit = Schemas['Audit']
type Side = Schemas['Side']
type Row = Audit['result']['rows'][number]

const grades: Record<string, string> = {
  fair: 'A fair comparison',
  not_fully_known: 'Fair as far as is known',
  with_caveats: 'Comparable, with caveats',
  not_comparable: 'Not comparable as it stands',
}

export const gradeOf = (a: Audit) => grades[a.result.grade] ?? a.result.grade

/** A weight by shape and word, never by colour alone. */
function Mark({ weight }: { weight: string }) {
  return (
    <svg viewBox="-8 -8 16 16" className="size-4" aria-hidden="true">
      <circle r="6" fill="none" stroke="var(--ink)" strokeWidth="2" />
      {weight === 'minor' && <path d="M0 -6A6 6 0 0 0 0 6Z" fill="var(--ink)" />}
      {weight === 'major' && <circle r="6" fill="var(--act)" stroke="var(--act)" strokeWidth="2" />}
    </svg>
  )
}

/** What is tested besides what the review says, and how to say so of a factor or take it back. */
export interface Tested {
  here: string[]
  all: string[]
  turn: (factor: string) => void
}

/** The fairness audits stand before any figure, each side against the one that all are held against. */
export function Audits({
  audits,
  sides,
  question,
  tested,
}: {
  audits: Audit[]
  sides: Side[]
  question: string
  tested: Tested
}) {
  const one = audits.length === 1 && audits[0]
  return (
    <section className="sheet grid gap-3" aria-label="Fairness audit">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2 className="text-xl">
          {one && !one.reference ? gradeOf(one) : 'How fair it is'}{' '}
          <span className="font-normal text-soft">for {question}</span>
        </h2>
        <How figure="fair" of="How fair it is" />
      </div>
      <ul className="grid gap-1">
        {sides.map((s) => (
          <li key={s.letter} className="grid grid-cols-[1.5rem_1fr] gap-1">
            <strong>{s.letter}</strong>
            <span>
              {s.label} <span className="text-soft">({s.runs.join(', ')})</span>
            </span>
          </li>
        ))}
      </ul>
      {one ? (
        one.reference ? (
          <p>
            <Beside />
          </p>
        ) : (
          <Rows a={one} tested={tested} />
        )
      ) : (
        audits.map((a) =>
          a.reference ? (
            <p key={a.a} className="border-t border-line pt-2">
              <strong>
                {sides[a.a]?.letter} against {sides[a.b]?.letter}:
              </strong>{' '}
              <Beside />
            </p>
          ) : (
            <details key={a.a} className="border-t border-line pt-1">
              <summary className="min-h-(--tap) cursor-pointer content-center">
                <strong>
                  {sides[a.a]?.letter} against {sides[a.b]?.letter}:
                </strong>{' '}
                {gradeOf(a)} <span className="text-soft">{tally(a.result.rows)}</span>
              </summary>
              <Rows a={a} tested={tested} />
            </details>
          ),
        )
      )}
    </section>
  )
}

/** A reference is no contender: nothing of how it was made is weighed. */
function Beside() {
  return <>a reference stands beside the prints; how it was made is not weighed.</>
}

const tally = (rows: Row[]) => {
  const n = (weight: string, unknown: boolean) =>
    rows.filter((r) => r.weight === weight && (r.state === 'unknown') === unknown).length
  const known = [
    [n('major', false), 'major'],
    [n('minor', false), 'minor'],
  ].filter(([count]) => count !== 0)
  const unknown = n('major', true) + n('minor', true)
  return [...known.map(([count, weight]) => `${count} ${weight}`), unknown > 0 && `${unknown} not known`]
    .filter(Boolean)
    .join(', ')
}

function Rows({ a, tested }: { a: Audit; tested: Tested }) {
  const rows = a.result.rows
  const along = rows.filter((r) => r.state === 'under_test' && !tested.all.includes(r.factor))
  const weighed = rows.filter(
    (r) => r.state !== 'unknown' && (r.weight !== 'none' || (r.state === 'under_test' && !along.includes(r))),
  )
  const unknown = rows.filter((r) => r.state === 'unknown' && r.weight !== 'none')
  const rest = rows.filter((r) => !weighed.includes(r) && !unknown.includes(r) && !along.includes(r))
  return (
    <div className="grid gap-3">
      {weighed.length === 0 && <p>Every condition on record is the same or too close to matter.</p>}
      <ul className="grid gap-1.5">
        {weighed.map((r) => (
          <li key={r.factor} className="grid grid-cols-[1.25rem_5.5rem_1fr] items-baseline gap-2">
            <Mark weight={r.weight} />
            <span className="font-semibold">{r.weight === 'none' ? 'under test' : r.weight}</span>
            <span>
              {r.sentence} <Turn row={r} tested={tested} />
            </span>
          </li>
        ))}
        {a.result.warnings.map((w) => (
          <li key={w.code} className="border-l-4 border-act pl-2">
            {w.message}
          </li>
        ))}
        {a.tells && <li className="border-l-4 border-act pl-2">{a.tells}</li>}
        {a.knots.map((k) => (
          <li key={k} className="border-l-4 border-line pl-2">
            Changed between these prints: {k}.
          </li>
        ))}
        {a.threads.map((k) => (
          <li key={k} className="border-l-4 border-line pl-2">
            {k}.
          </li>
        ))}
      </ul>
      {along.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center">
            <strong>{counted(along.length, 'condition comes', 'conditions come')} with what is tested</strong>
          </summary>
          <ul className="mt-1 grid gap-1 text-sm">
            {along.map((r) => (
              <li key={r.factor}>{r.sentence}</li>
            ))}
          </ul>
        </details>
      )}
      {unknown.length > 0 && <Unknown rows={unknown} />}
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
          {counted(rest.length, 'condition that does', 'conditions that do')} not stand in the way
        </summary>
        <ul className="mt-1 grid gap-1 text-sm">
          {rest.map((r) => (
            <li key={r.factor}>
              <span className="text-soft">{words(r.state)}:</span> {r.sentence}
            </li>
          ))}
        </ul>
      </details>
    </div>
  )
}

/** Whether a factor is what is tested can be said here, for this look; the review says it for good. */
function Turn({ row, tested }: { row: Row; tested: Tested }) {
  const here = tested.here.includes(row.factor)
  if (row.factor === 'prints' || (!here && row.state === 'under_test')) return null
  return (
    <button type="button" className="text-sm underline" onClick={() => tested.turn(row.factor)}>
      {here ? 'it is not what is tested' : 'this is what is tested'}
    </button>
  )
}

/** What is not known folds to one line, with the two answers that would matter most. */
function Unknown({ rows }: { rows: Row[] }) {
  const heaviest = [...rows].sort((x, y) => Number(y.weight === 'major') - Number(x.weight === 'major')).slice(0, 2)
  const label = (r: Row) => r.sentence.split(':')[0]?.toLowerCase() ?? r.factor
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center">
        <strong>{counted(rows.length, 'condition is', 'conditions are')} not known.</strong> What would matter most:{' '}
        {heaviest.map(label).join(' and ')}
      </summary>
      <ul className="mt-1 grid gap-1 text-sm">
        {rows.map((r) => (
          <li key={r.factor}>{r.sentence}</li>
        ))}
      </ul>
    </details>
  )
}
