import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Figure } from '../../components/Figure'
import { Complaint } from '../../components/Page'
import { isQuestion, Question } from '../../components/Question'
import { answer, api, type Schemas } from '../../lib/api'
import { duration, figure, grouped, moment } from '../../lib/format'
import { forPage, lettersOn } from '../../lib/keys'
import { Doings, type Doing } from './Doings'
import { Surroundings } from './Surroundings'
import { Preflight } from './Preflight'

type Live = Schemas['LiveRun']
type Kind = Schemas['RunEvent']['kind']

/** How long a key that ends a print waits for its second press, in ms. */
const armedFor = 4000

/** How often a print that runs is looked at again, in ms. */
const lookEvery = 2000

const kindWords: Record<Kind, string> = {
  start: 'start',
  pause: 'pause',
  resume: 'went on',
  top_up: 'top-up',
  note: 'seen',
  dial: 'a setting was changed',
  stop: 'stopped',
  finish: 'finished',
  undo: 'the end was taken back',
}

const stateWords: Record<Live['state'], string> = {
  recorded: 'recorded after the fact',
  prepared: 'prepared, not started',
  printing: 'printing',
  paused: 'paused',
  stopped: 'stopped before its end',
  finished: 'finished',
}

/** A print from preflight to its end. All of it is on record: closing the page loses nothing. */
export function LivePanel({ id }: { id: string }) {
  const client = useQueryClient()
  const live = useQuery({
    queryKey: ['runs', id, 'live'],
    queryFn: () => answer(api.GET('/api/v1/runs/{id}/live', { params: { path: { id } } })),
    refetchInterval: (q) => (q.state.data?.state === 'printing' ? lookEvery : false),
  })
  const happen = useMutation({
    mutationFn: (e: Doing) =>
      answer(
        api.POST('/api/v1/runs/{id}/events', {
          params: { path: { id } },
          body: {
            at_ms: 0,
            kind: e.kind,
            ml: e.ml ?? null,
            note: e.note ?? '',
            layer: e.layer ?? null,
            confirmed: e.confirmed ?? false,
          },
        }),
      ),
    onSuccess: (l) => {
      client.setQueryData(['runs', id, 'live'], l)
      void client.invalidateQueries({ queryKey: ['runs', id], exact: true })
    },
  })
  const l = live.data
  const [armed, setArmed] = useState<Kind>()
  useKeys(l?.state, (kind) => {
    // What ends a print is not undone: its key is pressed twice.
    if ((kind === 'finish' || kind === 'stop') && armed !== kind) setArmed(kind)
    else {
      setArmed(undefined)
      happen.mutate({ kind })
    }
  })
  useEffect(() => {
    if (!armed) return
    const calm = setTimeout(() => setArmed(undefined), armedFor)
    return () => clearTimeout(calm)
  }, [armed])
  useReminder(l)
  if (!l || l.state === 'recorded') return null
  return (
    <>
      {l.quirks.length > 0 && l.state === 'prepared' && <Quirks list={l.quirks} />}
      {l.state === 'prepared' && <Preflight id={id} live={l} />}
      <section className="sheet grid gap-3" aria-label="The print" aria-live="polite">
        <h2>
          The print: <span className="font-normal">{stateWords[l.state]}</span>
        </h2>
        {l.live && l.state !== 'prepared' && <Now l={l} />}
        {!l.live && l.reason && <p>{l.reason}</p>}
        {l.state === 'printing' && <Soon l={l} />}
        {isQuestion(happen.error) ? (
          <Question
            error={happen.error}
            busy={happen.isPending}
            confirm={() => happen.variables && happen.mutate({ ...happen.variables, confirmed: true })}
          />
        ) : (
          happen.isError && <Complaint>{happen.error.message}</Complaint>
        )}
        <Doings l={l} armed={armed} act={(e) => happen.mutate(e)} busy={happen.isPending} />
        {l.events.length > 0 && (
          <ol className="grid gap-1 text-sm">
            {l.events.map((e, i) => (
              <li key={e.id}>
                <span className="num">{moment(e.at_ms)}</span>
                {(l.events[i - 1]?.at_ms ?? 0) > e.at_ms && (
                  <span className="font-semibold text-bad"> (the clock went back)</span>
                )}{' '}
                {kindWords[e.kind]}
                {e.ml != null && <span className="num"> {figure(e.ml)} ml</span>}
                {e.layer != null && <span className="num"> at layer {grouped(e.layer)}</span>}
                {e.note && `: ${e.note}`}
              </li>
            ))}
          </ol>
        )}
        {l.predicted && <Predicted p={l.predicted} />}
      </section>
    </>
  )
}

/** The reminder on the page, and the way to allow one outside of it. */
function Soon({ l }: { l: Live }) {
  const [permission, setPermission] = useState('Notification' in window ? Notification.permission : 'denied')
  const topUp = l.top_up_ms != null && l.top_up_ms - l.now_ms <= ahead
  return (
    <>
      {topUp && (
        <p role="alert" className="border-l-4 border-bad pl-2 font-semibold text-bad">
          Top up now: the vat runs dry {moment(l.top_up_ms ?? 0)}, {figure(l.level?.short_ml)} ml are short.
        </p>
      )}
      {permission === 'default' && (
        <button
          className="button justify-self-start"
          onClick={() => void Notification.requestPermission().then(setPermission)}
        >
          Remind me outside this page
        </button>
      )}
    </>
  )
}

function Quirks({ list }: { list: Schemas['Quirk'][] }) {
  return (
    <section className="sheet border-l-4 border-l-act">
      <h2>Quirks of this machine</h2>
      <dl className="mt-1 grid gap-x-6 gap-y-1 sm:grid-cols-2">
        {list.map((q) => (
          <div key={q.title}>
            <dt className="text-sm text-soft">{q.title}</dt>
            <dd>{q.text}</dd>
          </div>
        ))}
      </dl>
    </section>
  )
}

function Now({ l }: { l: Live }) {
  const live = l.live!
  return (
    <>
      <progress className="h-3 w-full" value={live.share} aria-label="Share of the time that is over" />
      <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <Figure
          label={l.feed?.layer == null ? 'Layer, by the clock' : `Layer, says ${l.feed_by}`}
          value={grouped(live.layer)}
          source={l.feed?.layer == null || l.speed_up != null ? 'estimated' : 'measured'}
          note={`of ${grouped(live.layers)}`}
        />
        <Figure
          label="Left"
          value={duration(live.left_s)}
          interval={live.left_pi ? [duration(live.left_pi[0]), duration(live.left_pi[1])] : null}
          source="estimated"
          note={l.ends_ms == null ? `printed for ${duration(l.running_s)}` : `ends ${moment(l.ends_ms)}`}
        />
        {l.level && (
          <Figure
            label="In the vat"
            value={figure(l.level.level_ml)}
            unit="ml"
            source="estimated"
            note={l.added_ml > 0 ? `${figure(l.added_ml)} ml poured in since` : undefined}
          />
        )}
        {l.level && (
          <Figure
            label="Top up"
            value={l.level.dry_layer == null ? 'not needed' : `before layer ${grouped(l.level.dry_layer)}`}
            source="estimated"
            note={
              l.level.dry_layer == null
                ? undefined
                : `${figure(l.level.short_ml)} ml in all${l.top_up_ms == null ? '' : `, by ${moment(l.top_up_ms)}`}; room for ${figure(l.level.room_ml)} ml now`
            }
          />
        )}
      </dl>
      <Surroundings l={l} />
      {[...live.warnings, ...(l.level?.warnings ?? [])].map((w) => (
        <p key={w.code} className="border-l-4 border-act pl-2">
          {w.message}
        </p>
      ))}
    </>
  )
}

function Predicted({ p }: { p: Schemas['PredictionScore'] }) {
  return (
    <p className="border-t border-line pt-2">
      Foretold{p.what && `: ${p.what}`}
      {p.fail_pct != null && <span className="num"> (something fails: {figure(p.fail_pct)} %)</span>}.{' '}
      {p.failed == null
        ? 'It is scored once the plate is judged.'
        : `${p.failed ? 'Something failed' : 'Nothing failed'}${p.score == null ? '' : `; Brier score ${figure(p.score)} (0 is best, 1 worst, 0.25 a coin)`}.`}
    </p>
  )
}

/** One key each, outside of boxes to type in. */
function useKeys(state: Live['state'] | undefined, act: (kind: Kind) => void) {
  const latest = useRef(act)
  useEffect(() => {
    latest.current = act
  })
  useEffect(() => {
    const keys: Partial<Record<Live['state'], Record<string, Kind>>> = {
      prepared: { s: 'start' },
      printing: { p: 'pause', f: 'finish', x: 'stop' },
      paused: { p: 'resume', f: 'finish', x: 'stop' },
      finished: { u: 'undo' },
      stopped: { u: 'undo' },
    }
    const press = (e: KeyboardEvent) => {
      if (!lettersOn() || !forPage(e)) return
      const kind = state && keys[state]?.[e.key]
      const field = document.querySelector<HTMLInputElement>(`input[data-key="${CSS.escape(e.key)}"]`)
      if (kind) latest.current(kind)
      else if (field) {
        e.preventDefault()
        field.focus()
      }
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [state])
}

/** How long before a top-up or the end one is reminded, in ms. */
const ahead = 10 * 60_000

/** A browser notification where it is allowed, once for the top-up and once for the end. */
function useReminder(l: Live | undefined) {
  const said = useRef(new Set<string>())
  useEffect(() => {
    if (!l || l.state !== 'printing' || !('Notification' in window) || Notification.permission !== 'granted') return
    const tell = (key: string, at: number | null | undefined, text: string) => {
      if (at == null || said.current.has(key) || at - l.now_ms > ahead) return
      said.current.add(key)
      new Notification('Ojime', { body: text })
    }
    tell('top-up', l.top_up_ms, `Top up soon: ${figure(l.level?.short_ml)} ml are short.`)
    tell('end', l.ends_ms, 'The print ends soon.')
  }, [l])
}
