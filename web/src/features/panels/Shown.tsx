import { How } from '../../components/How'
import type { Schemas } from '../../lib/api'
import { figure, percent } from '../../lib/format'

type S = Schemas['Shown']

const sureness = ['a guess', 'hardly', 'fairly', 'sure', 'certain']

/** What a closed panel showed: sentences first, then its figures and the key. */
export function Shown({ shown, opening }: { shown: S; opening: string }) {
  const arm = (i: number) => shown.panel.arms[i]?.label ?? ''
  const r = shown.result
  return (
    <>
      <section className="sheet grid gap-2" aria-label="What they said">
        <div className="flex flex-wrap items-center justify-between gap-x-4">
          <h2>What they said</h2>
          <How figure="panels" of="What they said" />
        </div>
        <ul className="grid gap-1">
          {shown.says.map((s, i) => (
            <li key={s} className={`wrap-anywhere ${i === 0 ? 'text-lg font-semibold' : ''}`}>
              {s}
            </li>
          ))}
        </ul>
        <p className="text-soft">How blind: {shown.grade}.</p>
        {r.pairs.length > 0 && (
          <div className="overflow-x-auto">
            <table className="rows">
              <caption className="sr-only">Votes by pair</caption>
              <thead>
                <tr>
                  <th scope="col">Pair</th>
                  <th scope="col">For the first</th>
                  <th scope="col">For the second</th>
                  <th scope="col">No difference</th>
                  <th scope="col">Share of the first, 95 % over judges</th>
                  <th scope="col">p</th>
                  <th scope="col">Judges</th>
                </tr>
              </thead>
              <tbody>
                {r.pairs.map(({ pair, ballots: b }) => (
                  <tr key={pair.join()}>
                    <th scope="row">
                      {arm(pair[0]!)}, {arm(pair[1]!)}
                    </th>
                    <td className="num">{b.a}</td>
                    <td className="num">{b.b}</td>
                    <td className="num">{b.none}</td>
                    <td className="num whitespace-nowrap">
                      <ShareBar share={b.share} low={b.ci[0]!} high={b.ci[1]!} />
                      {percent(b.share)} ({figure(100 * b.ci[0]!)} to {percent(b.ci[1])})
                    </td>
                    <td className="num">{figure(b.p, 2)}</td>
                    <td className="num">{b.judges}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
        {r.sure.length > 0 && (
          <div className="overflow-x-auto">
            <table className="rows">
              <caption className="sr-only">How sure judges were</caption>
              <thead>
                <tr>
                  <th scope="col">How sure</th>
                  {r.sure.map((s) => (
                    <th key={s.sure} scope="col">
                      {sureness[s.sure]}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                <tr>
                  <th scope="row">Answers</th>
                  {r.sure.map((s) => (
                    <td key={s.sure} className="num">
                      {s.answers}
                    </td>
                  ))}
                </tr>
                {r.guessed && (
                  <tr>
                    <th scope="row">of them right</th>
                    {r.sure.map((s) => (
                      <td key={s.sure} className="num">
                        {s.right}
                      </td>
                    ))}
                  </tr>
                )}
              </tbody>
            </table>
          </div>
        )}
      </section>
      <details className="sheet">
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">The key</summary>
        <ul className="grid gap-1 sm:grid-cols-2">
          {shown.key.map((k) => (
            <li key={k.code}>
              <strong className="num">{k.code}</strong> was <span className="num whitespace-nowrap">{k.item}</span>,{' '}
              {arm(k.arm)}
            </li>
          ))}
        </ul>
        <p className="mt-2 text-sm text-soft">
          Dealt by seed <span className="num">{shown.seed}</span>. A record that took this panel over while it was
          sealed is opened by <span className="num wrap-anywhere">{opening}</span>.
        </p>
      </details>
    </>
  )
}

/** A share on a line from none to all, with its interval; the tick is at half, where neither is preferred. */
function ShareBar({ share, low, high }: { share: number; low: number; high: number }) {
  return (
    <svg viewBox="-4 0 108 16" className="h-5 w-40" aria-hidden="true">
      <path d="M0 8H100" className="stroke-line" strokeWidth="1" />
      <path d="M50 1V15" className="stroke-soft" strokeWidth="1" />
      <path d={`M${100 * low} 8H${100 * high}`} className="stroke-ink" strokeWidth="2.5" />
      <circle cx={100 * share} cy="8" r="3.5" className="fill-act" />
    </svg>
  )
}
