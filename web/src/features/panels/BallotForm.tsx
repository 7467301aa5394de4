import { useMutation } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'

type Ballot = Schemas['JudgesBallot']

const asks: Record<Ballot['kind'], string> = {
  preference: 'Which one?',
  odd_one_out: 'Which one is the odd one out?',
  ranking: 'From best to worst',
  matching: 'Which is this?',
}
const sureness = ['a guess', 'hardly', 'fairly', 'sure', 'certain']

interface Said {
  place?: number
  order: string[]
  sure?: number
}

interface Draft {
  at: number
  said: Said[]
  knew?: boolean
  by: string
  name: string
}

/** One trial after the other, then the ballot is cast whole. What was answered stays over a reload. */
export function BallotForm({
  token,
  ballot,
  way,
  done,
}: {
  token: string
  ballot: Ballot
  way: 'table' | 'link'
  done: () => void
}) {
  const key = `draft-ballot-${token}`
  const [d, setDraft] = useState<Draft>(() => {
    const kept = sessionStorage.getItem(key)
    return kept
      ? (JSON.parse(kept) as Draft)
      : { at: 0, said: ballot.trials.map(() => ({ order: [] })), by: '', name: '' }
  })
  useEffect(() => sessionStorage.setItem(key, JSON.stringify(d)), [key, d])
  const cast = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/ballots/{token}', {
          params: { path: { token } },
          body: {
            way,
            name: d.name,
            knew: d.knew ?? null,
            knew_by: d.by,
            answers: d.said.map((s) => ({
              place: ballot.kind === 'matching' || ballot.kind === 'ranking' ? 0 : (s.place ?? 0),
              arm: ballot.kind === 'matching' ? (s.place ?? 0) : 0,
              order: s.order.map(Number),
              sure: s.sure ?? null,
            })),
          },
        }),
      ),
    onSuccess: () => {
      sessionStorage.removeItem(key)
      done()
    },
  })
  const heading = useRef<HTMLHeadingElement>(null)
  const go = (at: number) => {
    setDraft({ ...d, at })
    window.scrollTo({ top: 0 })
    heading.current?.focus()
  }
  const last = d.at === ballot.trials.length
  return (
    <div className="grid gap-4">
      <header>
        <h1 ref={heading} tabIndex={-1} className="outline-none">
          {ballot.question}
        </h1>
        <p className="text-soft">
          {ballot.looks_at && `Look at ${ballot.looks_at}. `}
          {ballot.shows === 'specimens' && `Look ${ballot.station}, under ${ballot.light}.`}
        </p>
      </header>
      {last ? (
        <form
          className="sheet grid gap-4"
          aria-label="At the end"
          onSubmit={(e) => {
            e.preventDefault()
            cast.mutate()
          }}
        >
          <h2>At the end</h2>
          <fieldset>
            <legend className="font-semibold">Did you believe to know which was which?</legend>
            <Choice name="knew" on={d.knew === false} choose={() => setDraft({ ...d, knew: false })} label="No" />
            <Choice name="knew" on={d.knew === true} choose={() => setDraft({ ...d, knew: true })} label="Yes" />
          </fieldset>
          {d.knew && (
            <label className="text-sm font-semibold">
              By what?
              <input
                className="input font-normal"
                maxLength={300}
                value={d.by}
                onChange={(e) => setDraft({ ...d, by: e.target.value })}
              />
            </label>
          )}
          <label className="text-sm font-semibold">
            Your name, if you like
            <input
              className="input font-normal"
              maxLength={80}
              autoComplete="off"
              value={d.name}
              onChange={(e) => setDraft({ ...d, name: e.target.value })}
            />
          </label>
          <p className="text-soft">Whoever put the codes on knows which is which, and does not vote.</p>
          {cast.isError && <Complaint>{cast.error.message}</Complaint>}
          <div className="flex flex-wrap gap-2">
            <button type="button" className="button" onClick={() => go(d.at - 1)}>
              Back
            </button>
            <button className="button button-main" disabled={cast.isPending || d.knew === undefined}>
              Cast the ballot
            </button>
          </div>
        </form>
      ) : (
        <Trial
          key={d.at}
          token={token}
          ballot={ballot}
          at={d.at}
          said={d.said[d.at]!}
          say={(s) => setDraft({ ...d, said: d.said.map((o, i) => (i === d.at ? s : o)) })}
          back={d.at > 0 ? () => go(d.at - 1) : undefined}
          next={() => go(d.at + 1)}
        />
      )}
    </div>
  )
}

function Choice({ name, on, choose, label }: { name: string; on: boolean; choose: () => void; label: string }) {
  return (
    <label className="mr-5 inline-flex min-h-(--tap) items-center gap-2">
      <input type="radio" name={name} className="size-5 accent-(--act)" checked={on} onChange={choose} />
      {label}
    </label>
  )
}

function Trial({
  token,
  ballot,
  at,
  said,
  say,
  back,
  next,
}: {
  token: string
  ballot: Ballot
  at: number
  said: Said
  say: (s: Said) => void
  back?: () => void
  next: () => void
}) {
  const codes = ballot.trials[at]!
  const ordered = new Set(said.order.filter((o) => o !== '')).size === codes.length
  const whole = said.sure !== undefined && (ballot.kind === 'ranking' ? ordered : said.place !== undefined)
  const side = (i: number) => (codes.length === 1 ? '' : i === 0 ? 'left' : i === codes.length - 1 ? 'right' : 'middle')
  return (
    <form
      className="sheet grid gap-4"
      aria-label={`${at + 1} of ${ballot.trials.length}`}
      onSubmit={(e) => {
        e.preventDefault()
        if (whole) next()
      }}
    >
      <h2>
        <span className="num">{at + 1}</span> of <span className="num">{ballot.trials.length}</span>
      </h2>
      <ul
        className={`grid gap-3 ${ballot.shows === 'photographs' ? 'grid-cols-[repeat(auto-fit,minmax(min(100%,13rem),1fr))]' : 'grid-cols-[repeat(auto-fit,minmax(6rem,1fr))]'}`}
        aria-label="Shown, from the left"
      >
        {codes.map((code, i) => (
          <li key={code} className="border border-line bg-plate p-2 text-center">
            {ballot.shows === 'photographs' && (
              <img className="w-full" src={`/api/v1/ballots/${token}/pictures/${code}`} alt={`Picture ${code}`} />
            )}
            <strong className="num block text-2xl">{code}</strong>
            {ballot.shows === 'specimens' && codes.length <= 3 && <span className="text-sm text-soft">{side(i)}</span>}
          </li>
        ))}
      </ul>
      {ballot.kind === 'ranking' ? (
        <fieldset className="grid gap-2 sm:grid-cols-2">
          <legend className="font-semibold">{asks.ranking}</legend>
          {codes.map((_, place) => (
            <label key={place} className="text-sm font-semibold">
              {place === 0 ? 'Best' : place === codes.length - 1 ? 'Worst' : `Place ${place + 1}`}
              <select
                className="input num font-normal"
                value={said.order[place] ?? ''}
                onChange={(e) =>
                  say({ ...said, order: codes.map((_, i) => (i === place ? e.target.value : (said.order[i] ?? ''))) })
                }
              >
                <option value="">choose</option>
                {codes.map((code, i) => (
                  <option key={code} value={String(i)}>
                    {code}
                  </option>
                ))}
              </select>
            </label>
          ))}
          {!ordered && said.order.filter((o) => o !== '').length === codes.length && (
            <p className="text-bad">One of them stands in two places.</p>
          )}
        </fieldset>
      ) : (
        <fieldset>
          <legend className="font-semibold">{asks[ballot.kind]}</legend>
          {(ballot.kind === 'matching' ? ballot.arms : codes).map((name, i) => (
            <Choice
              key={name}
              name="place"
              on={said.place === i}
              choose={() => say({ ...said, place: i })}
              label={name}
            />
          ))}
          {ballot.kind === 'preference' && (
            <Choice
              name="place"
              on={said.place === -1}
              choose={() => say({ ...said, place: -1 })}
              label="No difference"
            />
          )}
        </fieldset>
      )}
      <fieldset>
        <legend className="font-semibold">How sure are you?</legend>
        {sureness.map((word, i) => (
          <Choice key={word} name="sure" on={said.sure === i} choose={() => say({ ...said, sure: i })} label={word} />
        ))}
      </fieldset>
      <div className="flex flex-wrap gap-2">
        {back && (
          <button type="button" className="button" onClick={back}>
            Back
          </button>
        )}
        <button className="button button-main" disabled={!whole}>
          Next
        </button>
      </div>
    </form>
  )
}
