import { Link } from 'react-router'
import type { Comparison, Schemas } from '../../lib/api'
import { useAddress } from '../../lib/address'
import { counted, day } from '../../lib/format'
import { FaultLine } from './FaultLine'

/** Symptoms over the sides, the commonest first: on how many prints of each, and what that says. */
export function Faults({ c }: { c: Comparison }) {
  const [params, change] = useAddress()
  if (c.faults.length === 0) return null
  const chosen = c.faults_by.find((g) => g.by === params.get('faults'))
  const by = (word: string, key: string) => (
    <button
      key={key}
      className={`button ${(chosen?.by ?? '') === key ? 'button-main' : ''}`}
      aria-pressed={(chosen?.by ?? '') === key}
      onClick={() => change((next) => (key ? next.set('faults', key) : next.delete('faults')))}
    >
      {word}
    </button>
  )
  return (
    <section className="grid gap-2" aria-label="Faults">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h3>Faults, by symptom ●</h3>
        {c.faults_by.length > 0 && (
          <div className="flex flex-wrap gap-2" role="group" aria-label="Faults counted by">
            {by('By side', '')}
            {c.faults_by.map((g) => by(`By ${g.by}`, g.by))}
          </div>
        )}
      </div>
      <FaultTable names={chosen?.names ?? c.sides.map((s) => s.letter)} faults={chosen?.faults ?? c.faults} />
      <FaultLine c={c} />
      <Remedies c={c} />
      <p className="text-sm text-soft">
        Specimens with the symptom, as printed so or not known; accidents afterwards are left out.
      </p>
    </section>
  )
}

function FaultTable({ names, faults }: { names: string[]; faults: Schemas['ContestFault'][] }) {
  const most = Math.max(1, ...faults.flatMap((f) => f.sides.map((s) => s.specimens)))
  return (
    <div className="overflow-x-auto" role="region" aria-label="Faults, by symptom" tabIndex={0}>
      <table className="rows w-full">
        <caption className="sr-only">Specimens and prints of each on which a symptom was seen</caption>
        <thead>
          <tr>
            <th scope="col">Symptom</th>
            {names.map((name) => (
              <th key={name} scope="col">
                {name}
              </th>
            ))}
            <th scope="col">What that says</th>
          </tr>
        </thead>
        <tbody>
          {faults.map((f) => (
            <tr key={f.symptom}>
              <th scope="row">{f.symptom}</th>
              {f.sides.map((s, i) => (
                <td key={i} className="min-w-24">
                  {s.of === 0 ? (
                    <span className="text-soft">not judged</span>
                  ) : (
                    <>
                      <span className="num">{s.specimens === 0 ? 'none' : s.specimens}</span>
                      <svg
                        viewBox="0 0 100 6"
                        preserveAspectRatio="none"
                        className="block h-1.5 w-full"
                        aria-hidden="true"
                      >
                        <rect width={(100 * s.specimens) / most} height="6" className="fill-ink" />
                      </svg>
                      <span className="block text-sm text-soft">
                        {s.prints === 0 ? '' : `on ${s.prints} `}of {counted(s.of, 'print')}
                      </span>
                    </>
                  )}
                </td>
              ))}
              <td>{f.says}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}

/** What was tried against the faults, each with the print that told what came of it. */
function Remedies({ c }: { c: Comparison }) {
  if (c.remedies.length === 0) return null
  return (
    <section className="grid gap-2" aria-label="What was tried against them">
      <h3>What was tried against them</h3>
      {c.remedies.map((r) => (
        <div key={r.symptom} className="border-l-4 border-line pl-3">
          <p>
            <strong>{r.symptom}</strong>: {r.fared.says}{' '}
            <span className="text-soft">On these machines, all prints.</span>
          </p>
          <ul className="list-disc pl-5">
            {r.tried.map((t) => (
              <li key={t.id}>
                <span className="num text-soft">{day(t.at_ms ?? 0)}</span> <Link to={`/runs/${t.run_id}`}>{t.run}</Link>
                , {t.title}: “{t.note}” It {t.says}.
              </li>
            ))}
          </ul>
        </div>
      ))}
    </section>
  )
}
