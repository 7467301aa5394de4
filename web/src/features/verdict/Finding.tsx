import { Link } from 'react-router'
import type { Schemas } from '../../lib/api'

export type Row = Schemas['FoundRow']

/** The grades, the strongest first, each with what it allows to say. */
export const grades: { grade: Row['grade']; word: string; means: string }[] = [
  { grade: 'showed', word: 'showed', means: 'The prints showed it' },
  { grade: 'suggests', word: 'suggests', means: 'The prints suggest it' },
  { grade: 'looked', word: 'looked', means: 'It looked so' },
  { grade: 'cannot_tell', word: 'cannot be told', means: 'It cannot be told' },
  { grade: 'not_tested', word: 'not tested', means: 'It was not tested' },
]

const rank = (grade: string) => grades.findIndex((g) => g.grade === grade)

/** A grade as a word, with as many filled knots of a cord as it is strong. */
export function Grade({ grade }: { grade: Row['grade'] }) {
  const filled = 3 - rank(grade)
  return (
    <span className="inline-flex items-center gap-2 font-semibold whitespace-nowrap">
      <svg viewBox="0 0 35 12" className="h-3 w-[2.2rem]" aria-hidden="true">
        <line x1="0" x2="35" y1="6" y2="6" stroke="var(--ink)" strokeWidth="1.5" />
        {(grade === 'not_tested' ? [] : [0, 1, 2]).map((i) => (
          <circle
            key={i}
            cx={6 + 11.3 * i}
            cy="6"
            r="4"
            fill={i < filled ? 'var(--ink)' : 'var(--sheet)'}
            stroke="var(--ink)"
            strokeWidth="1.5"
          />
        ))}
      </svg>
      {grades[rank(grade)]?.word}
    </span>
  )
}

/** What a finding rests on, one click away: why its grade, on what it was found, its prints, and what weighs against it. */
export function RestsOn({ r }: { r: Row }) {
  return (
    <details className="text-sm">
      <summary className="min-h-(--tap) cursor-pointer content-center text-soft wrap-anywhere">{r.scope}</summary>
      <dl className="grid gap-2 pb-2 sm:grid-cols-[9rem_1fr]">
        <dt className="font-semibold">Its grade</dt>
        <dd>
          <Grade grade={r.grade} />
          {r.because.length > 0 && `: ${r.because.join('; ')}`}
        </dd>
        {r.rests.map((s) => (
          <Side key={s.name} s={s} />
        ))}
        {r.beside.length > 0 && (
          <>
            <dt className="font-semibold">Beside</dt>
            <dd>
              <ul className="grid gap-1">
                {r.beside.map((b) => (
                  <li key={b}>{b}</li>
                ))}
              </ul>
            </dd>
          </>
        )}
        <dt className="font-semibold">The machines</dt>
        <dd className="wrap-anywhere">{r.disclosure.join('; ') || 'none'}</dd>
        <dt className="font-semibold">Figures</dt>
        <dd>
          <Link to={r.link}>{r.question === 'panel' ? 'Open the panel' : `Open the comparison for ${r.question}`}</Link>
        </dd>
      </dl>
    </details>
  )
}

function Side({ s }: { s: Schemas['FoundSide'] }) {
  return (
    <>
      <dt className="font-semibold wrap-anywhere">{s.name}</dt>
      <dd className="wrap-anywhere">
        {s.figure && (
          <>
            <span className="num">{s.figure}</span>.{' '}
          </>
        )}
        {s.label !== s.name && `${s.label}. `}
        Prints:{' '}
        {s.run_ids.map((id, i) => (
          <span key={id}>
            {i > 0 && ', '}
            <Link className="num whitespace-nowrap" to={`/runs/${id}`}>
              {s.runs[i]}
            </Link>
          </span>
        ))}
        {s.run_ids.length === 0 && 'none on record'}
      </dd>
    </>
  )
}
