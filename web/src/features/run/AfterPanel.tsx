import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, duration } from '../../lib/format'
import { n } from '../../lib/input'

type Step = Schemas['AfterStep']
type Body = Schemas['ProcessStep']

/** Drip, wash, dry, supports, cure: each with its timer, or its minutes entered afterwards. */
export function AfterPanel({ id }: { id: string }) {
  const client = useQueryClient()
  const after = useQuery({
    queryKey: ['runs', id, 'after'],
    queryFn: () => answer(api.GET('/api/v1/runs/{id}/after', { params: { path: { id } } })),
  })
  const save = useMutation({
    mutationFn: (body: Body) => answer(api.POST('/api/v1/runs/{id}/steps', { params: { path: { id } }, body })),
    onSuccess: (a) => client.setQueryData(['runs', id, 'after'], a),
  })
  const a = after.data
  if (after.isError)
    return <Complaint>What is done after the print could not be loaded: {after.error.message}</Complaint>
  if (!a) return null
  return (
    <section className="sheet grid gap-1" aria-label="After the print">
      <h2>After the print</h2>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      <ol className="grid">
        {a.steps.map((s) => (
          <StepRow
            key={s.kind}
            s={s}
            baths={a.baths}
            skew={a.now_ms - after.dataUpdatedAt}
            save={(b) => save.mutate(b)}
            busy={save.isPending}
          />
        ))}
      </ol>
      <p className="text-sm text-soft">
        Solvent, scrap and filters go into the{' '}
        <Link to="/upkeep#waste" className="underline">
          waste ledger
        </Link>
        ; local rules decide where they end.
      </p>
    </section>
  )
}

interface RowProps {
  s: Step
  baths: Schemas['BathCard'][]
  /** By how much the server's clock is ahead of this one, in ms. */
  skew: number
  save: (b: Body) => void
  busy: boolean
}

function StepRow({ s, baths, skew, save, busy }: RowProps) {
  const [bath, setBath] = useState(baths[0]?.bath.id ?? '')
  const [minutes, setMinutes] = useState('')
  const [correcting, setCorrecting] = useState(false)
  const kind = s.kind as Body['kind']
  const begin = () => save({ kind, planned_s: s.planned_s, bath_id: kind === 'wash' && bath ? bath : null })
  const chosen = baths.find((b) => b.bath.id === bath)
  return (
    <li className="grid gap-2 border-t border-line py-3 first:border-t-0 sm:grid-cols-[11rem_1fr]">
      <div>
        <h3>{s.title}</h3>
        <p className="text-sm text-soft">{s.planned_s == null ? s.from : `${duration(s.planned_s)}, ${s.from}`}</p>
      </div>
      <div className="grid gap-2">
        {s.took_s != null && (
          <p>
            <span className="num text-xl font-semibold">{duration(s.took_s)}</span>
            <span className="text-sm text-soft">
              {' '}
              ● measured{s.done.length > 1 && `, ${s.done.length} times`}
              {s.done.at(-1)?.how && `, ${s.done.at(-1)?.how}`}
              {s.done.at(-1)?.effort != null && `, effort ${s.done.at(-1)?.effort} of 5`}
              {s.done.at(-1)?.scars && `, scars: ${s.done.at(-1)?.scars}`}
              {s.done.at(-1)?.bath_id && `, in ${baths.find((b) => b.bath.id === s.done.at(-1)?.bath_id)?.bath.name}`}
            </span>
          </p>
        )}
        {s.says && (
          <p
            className={`border-l-4 pl-2 ${s.verdict === 'over' || s.verdict === 'short' ? 'border-act' : 'border-line'}`}
          >
            {s.says}
          </p>
        )}
        {s.running ? (
          <Timer
            step={s.running}
            title={s.title}
            skew={skew}
            end={(more) => save({ ...s.running!, ...more })}
            busy={busy}
          />
        ) : (
          <form
            className="flex flex-wrap items-end gap-2"
            onSubmit={(e) => {
              e.preventDefault()
              const lasted = Math.round(n(minutes) * 60_000)
              const last = s.done.at(-1)
              if (correcting && last) save({ ...last, ended_ms: (last.started_ms ?? 0) + lasted })
              else {
                const ended = Date.now() + skew
                save({
                  kind,
                  planned_s: s.planned_s,
                  bath_id: kind === 'wash' && bath ? bath : null,
                  started_ms: ended - lasted,
                  ended_ms: ended,
                })
              }
              setCorrecting(false)
              setMinutes('')
            }}
          >
            {kind === 'wash' && baths.length > 0 && (
              <label className="grid text-sm font-semibold">
                Bath
                <select className="input w-auto font-normal" value={bath} onChange={(e) => setBath(e.target.value)}>
                  <option value="">none noted</option>
                  {baths.map((b) => (
                    <option key={b.bath.id} value={b.bath.id}>
                      {b.bath.name}: {counted(b.prints, 'print')} since fresh
                    </option>
                  ))}
                </select>
              </label>
            )}
            <button type="button" className="button" disabled={busy} onClick={begin}>
              {s.done.length > 0 ? 'Start once more' : 'Start the timer'}
            </button>
            <label className="grid text-sm font-semibold">
              <span>
                {correcting ? 'the last took' : 'or it took'} <span className="num font-normal text-soft">min</span>
              </span>
              <input
                className="input num w-24 font-normal"
                inputMode="decimal"
                required
                aria-label={`${s.title}: minutes it took`}
                value={minutes}
                onChange={(e) => setMinutes(e.target.value)}
              />
            </label>
            <button className="button" disabled={busy}>
              {correcting ? 'Correct it' : 'Note it'}
            </button>
            {s.done.length > 0 && (
              <button
                type="button"
                className="button"
                aria-pressed={correcting}
                onClick={() => setCorrecting(!correcting)}
              >
                {correcting ? 'Leave it' : 'Correct the last'}
              </button>
            )}
          </form>
        )}
        {kind === 'wash' && chosen && (chosen.state === 'due' || chosen.state === 'soon') && (
          <p className="border-l-4 border-act pl-2 text-sm">
            {chosen.bath.name} has washed {counted(chosen.prints, 'print')} of {chosen.bath.life_prints}: a spent bath
            leaves a film of resin. <Link to="/upkeep">Fill it afresh</Link>
          </p>
        )}
      </div>
    </li>
  )
}

/** Counts on by itself; closing the page stops nothing, since the start is on record. */
function Timer({
  step,
  title,
  skew,
  end,
  busy,
}: {
  step: Body
  title: string
  skew: number
  end: (more: Partial<Body>) => void
  busy: boolean
}) {
  const [now, setNow] = useState(() => Date.now() + skew)
  const [how, setHow] = useState('')
  const [effort, setEffort] = useState('')
  const [scars, setScars] = useState<'' | 'none' | 'light' | 'deep'>('')
  const told = useRef(false)
  useEffect(() => {
    const tick = setInterval(() => setNow(Date.now() + skew), 1000)
    return () => clearInterval(tick)
  }, [skew])
  const gone = Math.max(0, (now - (step.started_ms ?? now)) / 1000)
  const left = step.planned_s == null ? null : step.planned_s - gone
  useEffect(() => {
    if (left === null || left > 0 || told.current) return
    told.current = true
    if ('Notification' in window && Notification.permission === 'granted')
      new Notification('Ojime', { body: `${title}: the time is over.` })
  }, [left, title])
  return (
    <div className="grid gap-2" role="group" aria-label={`${title}, timer`}>
      <p>
        <span className="num text-2xl font-semibold">{clock(left ?? gone)}</span>{' '}
        <span className="text-soft">{left === null ? 'gone by' : left >= 0 ? 'left' : 'over the planned time'}</span>
      </p>
      {step.planned_s != null && (
        <progress
          className="h-2 w-full max-w-96"
          value={Math.min(1, gone / step.planned_s)}
          aria-label={`${title}: share of the planned time`}
        />
      )}
      {step.kind === 'supports' && (
        <div className="flex flex-wrap items-end gap-2">
          <label className="grid text-sm font-semibold">
            How
            <select className="input w-auto font-normal" value={how} onChange={(e) => setHow(e.target.value)}>
              {['', 'by hand, cold', 'by hand, in warm water', 'with cutters', 'with warm air'].map((o) => (
                <option key={o} value={o}>
                  {o || 'not noted'}
                </option>
              ))}
            </select>
          </label>
          <label className="grid text-sm font-semibold">
            How hard
            <select className="input w-auto font-normal" value={effort} onChange={(e) => setEffort(e.target.value)}>
              {['', '1 falls off', '2 easy', '3 some force', '4 hard', '5 only with cutters'].map((o) => (
                <option key={o} value={o.slice(0, 1)}>
                  {o || 'not noted'}
                </option>
              ))}
            </select>
          </label>
          <label className="grid text-sm font-semibold">
            Scars
            <select
              className="input w-auto font-normal"
              value={scars}
              onChange={(e) => setScars(e.target.value as typeof scars)}
            >
              {['', 'none', 'light', 'deep'].map((o) => (
                <option key={o} value={o}>
                  {o || 'not noted'}
                </option>
              ))}
            </select>
          </label>
        </div>
      )}
      <button
        className="button button-main justify-self-start"
        disabled={busy}
        onClick={() => end({ ended_ms: Date.now() + skew, how, effort: effort ? Number(effort) : null, scars })}
      >
        {title}: done
      </button>
    </div>
  )
}

function clock(s: number) {
  const all = Math.abs(Math.round(s))
  return `${Math.floor(all / 60)}:${String(all % 60).padStart(2, '0')}`
}
