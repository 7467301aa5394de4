import type { Comparison } from '../../lib/api'
import { words } from '../../lib/format'

const grades: Record<string, string> = {
  fair: 'A fair comparison',
  with_caveats: 'Comparable, with caveats',
  not_comparable: 'Not comparable as it stands',
}

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

/** The fairness audit stands before any figure, in sentences. */
export function Audit({ c }: { c: Comparison }) {
  const weighed = c.audit.rows.filter((r) => r.weight !== 'none' || r.state === 'under_test')
  const rest = c.audit.rows.filter((r) => !weighed.includes(r))
  return (
    <section className="sheet grid gap-3" aria-label="Fairness audit">
      <h2 className="text-xl">
        {grades[c.audit.grade]} <span className="font-normal text-soft">for {c.question}</span>
      </h2>
      <p>
        <strong>A</strong> {c.a.label} ({c.a.runs.join(', ')})<br />
        <strong>B</strong> {c.b.label} ({c.b.runs.join(', ')})
      </p>
      {weighed.length === 0 && <p>Every condition on record is the same or too close to matter.</p>}
      <ul className="grid gap-1.5">
        {weighed.map((r) => (
          <li key={r.factor} className="grid grid-cols-[1.25rem_5.5rem_1fr] items-baseline gap-2">
            <Mark weight={r.weight} />
            <span className="font-semibold">
              {r.weight === 'none' ? 'under test' : r.state === 'unknown' ? `${r.weight}?` : r.weight}
            </span>
            <span>{r.sentence}</span>
          </li>
        ))}
        {c.policy_notes.map((p) => (
          <li key={p} className="border-l-4 border-act pl-2">
            {p}
          </li>
        ))}
        {c.audit.warnings.map((w) => (
          <li key={w.code} className="border-l-4 border-act pl-2">
            {w.message}
          </li>
        ))}
        {c.knots.map((k) => (
          <li key={k} className="border-l-4 border-line pl-2">
            Changed between these prints: {k}.
          </li>
        ))}
      </ul>
      <details>
        <summary className="min-h-(--tap) cursor-pointer font-semibold">
          {rest.length} conditions that do not stand in the way
        </summary>
        <ul className="mt-1 grid gap-1 text-sm">
          {rest.map((r) => (
            <li key={r.factor}>
              <span className="text-soft">{words(r.state)}:</span> {r.sentence}
            </li>
          ))}
        </ul>
      </details>
    </section>
  )
}
