import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { Fragment, useEffect, useEffectEvent, useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, ProblemError, type RunSheet, type Schemas } from '../../lib/api'
import { words } from '../../lib/format'
import { n, t } from '../../lib/input'
import { forPage, lettersOn } from '../../lib/keys'
import { OutcomeMap } from './OutcomeMap'
import { Swap } from './Swap'

type Specimen = Schemas['Specimen']
const outcomes = ['pending', 'whole', 'micro_defect', 'lost'] as const
const origins = {
  printed: 'printed so',
  removal: 'plate removal',
  wash: 'wash',
  supports: 'support removal',
  handling: 'handling',
  unknown: 'unknown',
}
const faults = ['machine', 'resin', 'file', 'operator', 'unknown'] as const
const severities = {
  '': 'not said',
  slight: 'slight: seen when looked for',
  plain: "plain: seen at arm's length",
  grave: 'grave: spoils the piece',
}

/** What became of each specimen. Only what was printed so counts against machine or resin. */
export function Outcomes({ sheet }: { sheet: RunSheet }) {
  const client = useQueryClient()
  // What was entered and not yet kept stands over what is on record, which may change meanwhile.
  const [edits, setEdits] = useState<Record<string, Partial<Specimen>>>({})
  const list = sheet.specimens.map((s) => {
    const edit = edits[s.id ?? '']
    return { ...s, ...edit, version: edit?.version ?? s.version }
  })
  const [at, setAt] = useState<number>()
  const symptoms = useQuery({
    queryKey: ['symptoms'],
    staleTime: Infinity,
    queryFn: () => answer(api.GET('/api/v1/symptoms')),
  })
  const save = useMutation({
    mutationFn: (judged: Specimen[]) =>
      answer(api.PUT('/api/v1/runs/{id}/outcomes', { params: { path: { id: sheet.run.id ?? '' } }, body: judged })),
    onSuccess: (_, judged) =>
      setEdits((e) => Object.fromEntries(Object.entries(e).filter(([id]) => !judged.some((s) => s.id === id)))),
    // Once it was said what changed meanwhile, saving again means it.
    onError: (e) => {
      if (!(e instanceof ProblemError) || e.problem.status !== 409) return
      void client.invalidateQueries({ queryKey: ['runs', sheet.run.id], exact: true })
      setEdits((all) => Object.fromEntries(Object.entries(all).map(([id, e]) => [id, { ...e, version: undefined }])))
    },
  })
  const pending = list.filter((s) => s.outcome === 'pending')
  const edited = list.filter((s) => edits[s.id ?? ''])
  // Only what is not judged yet: a loss that was entered stays one.
  const allWhole = () => save.mutate(pending.map((s) => ({ ...s, outcome: 'whole' as const })))
  const wholeByKey = useEffectEvent((e: KeyboardEvent) => {
    if (e.key === 'w' && lettersOn() && forPage(e) && pending.length > 0 && !save.isPending) allWhole()
  })
  useEffect(() => {
    const press = (e: KeyboardEvent) => wholeByKey(e)
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [])
  const set = (i: number, change: Partial<Specimen>) => {
    const s = list[i]
    if (!s?.id) return
    const id = s.id
    setEdits((e) => ({ ...e, [id]: { version: s.version, ...e[id], ...change } }))
  }
  const placed = list.some((s) => s.x_mm != null)
  return (
    <section className="sheet grid gap-3" aria-label="What became of the specimens">
      <div className="flex flex-wrap items-center justify-between gap-2">
        <h2>What became of the specimens</h2>
        {pending.length > 0 && (
          <button className="button" onClick={allWhole} disabled={save.isPending}>
            {pending.length === list.length ? 'All whole' : `The other ${pending.length} whole`}{' '}
            <kbd className="num">w</kbd>
          </button>
        )}
      </div>
      <div className={`grid gap-4 ${placed ? 'lg:grid-cols-[minmax(0,20rem)_minmax(0,1fr)]' : ''}`}>
        {placed && (
          <OutcomeMap
            machine={sheet.machine}
            list={list}
            at={at}
            select={(i) => {
              setAt(i)
              document.getElementById(`outcome-${list[i]?.id}`)?.focus()
            }}
          />
        )}
        <div className="overflow-x-auto">
          <table className="rows">
            <thead>
              <tr>
                <th>Specimen</th>
                <th>Outcome</th>
                <th>Symptom</th>
                <th>Came from</th>
                <th>Laid to</th>
              </tr>
            </thead>
            <tbody>
              {list.map((s, i) => {
                const bad = s.outcome === 'micro_defect' || s.outcome === 'lost'
                return (
                  <Fragment key={s.id}>
                    <tr className={i === at ? 'bg-plate' : ''} onFocus={() => setAt(i)}>
                      <td className="num font-bold whitespace-nowrap">
                        {s.code}
                        {s.swapped_with && (
                          <span className="block text-sm font-normal text-bad">swapped with {s.swapped_with}?</span>
                        )}
                      </td>
                      <td>
                        <select
                          id={`outcome-${s.id}`}
                          className="input min-w-32"
                          aria-label={`${s.code}, outcome`}
                          value={s.outcome}
                          onChange={(e) =>
                            set(i, {
                              outcome: e.target.value as Specimen['outcome'],
                              fault:
                                e.target.value === 'lost' || e.target.value === 'micro_defect' ? 'unknown' : 'none',
                            })
                          }
                        >
                          {outcomes.map((o) => (
                            <option key={o} value={o}>
                              {o === 'pending' ? 'not judged' : words(o)}
                            </option>
                          ))}
                        </select>
                      </td>
                      <td>
                        {bad && (
                          <select
                            className="input min-w-40"
                            aria-label={`${s.code}, symptom`}
                            value={s.symptom}
                            onChange={(e) => set(i, { symptom: e.target.value })}
                          >
                            <option value="">choose</option>
                            {(symptoms.data ?? []).map((x) => (
                              <option key={x}>{x}</option>
                            ))}
                          </select>
                        )}
                      </td>
                      <td>
                        {bad && (
                          <select
                            className="input min-w-32"
                            aria-label={`${s.code}, came from`}
                            value={s.origin}
                            onChange={(e) => set(i, { origin: e.target.value as Specimen['origin'] })}
                          >
                            {Object.entries(origins).map(([value, label]) => (
                              <option key={value} value={value}>
                                {label}
                              </option>
                            ))}
                          </select>
                        )}
                      </td>
                      <td>
                        {bad && (
                          <select
                            className="input min-w-32"
                            aria-label={`${s.code}, laid to`}
                            value={s.fault}
                            onChange={(e) => set(i, { fault: e.target.value as Specimen['fault'] })}
                          >
                            {faults.map((f) => (
                              <option key={f}>{f}</option>
                            ))}
                          </select>
                        )}
                      </td>
                    </tr>
                    {bad && (
                      <tr>
                        <td />
                        <td colSpan={4}>
                          <Details s={s} set={(change) => set(i, change)} />
                        </td>
                      </tr>
                    )}
                  </Fragment>
                )
              })}
            </tbody>
          </table>
        </div>
      </div>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      <div className="flex flex-wrap items-end gap-4">
        {edited.length > 0 && (
          <button className="button button-main" disabled={save.isPending} onClick={() => save.mutate(edited)}>
            Keep these outcomes
          </button>
        )}
        <Swap list={sheet.specimens} />
      </div>
    </section>
  )
}

/** How bad it is and where it began, by layer or height; the other of the two is worked out. */
function Details({ s, set }: { s: Specimen; set: (change: Partial<Specimen>) => void }) {
  const [layer, setLayer] = useState(t(s.began_layer))
  const [mm, setMM] = useState(t(s.began_mm))
  return (
    <div className="flex flex-wrap items-end gap-2 pb-2">
      <label className="grid text-sm">
        How bad
        <select
          className="input w-auto"
          aria-label={`${s.code}, how bad`}
          value={s.severity ?? ''}
          onChange={(e) => set({ severity: e.target.value as Specimen['severity'] })}
        >
          {Object.entries(severities).map(([value, label]) => (
            <option key={value} value={value}>
              {label}
            </option>
          ))}
        </select>
      </label>
      <label className="grid text-sm">
        Began at layer
        <input
          className="input num w-24"
          inputMode="numeric"
          aria-label={`${s.code}, began at layer`}
          value={layer}
          onChange={(e) => {
            setLayer(e.target.value)
            setMM('')
            set({ began_layer: n(e.target.value), began_mm: null })
          }}
        />
      </label>
      <label className="grid text-sm">
        <span>
          or height <span className="num text-soft">mm</span>
        </span>
        <input
          className="input num w-24"
          inputMode="decimal"
          aria-label={`${s.code}, began at height`}
          value={mm}
          onChange={(e) => {
            setMM(e.target.value)
            setLayer('')
            set({ began_mm: n(e.target.value), began_layer: null })
          }}
        />
      </label>
      <label className="grid min-w-40 flex-1 text-sm">
        Note
        <input
          className="input"
          aria-label={`${s.code}, note`}
          value={s.note}
          onChange={(e) => set({ note: e.target.value })}
        />
      </label>
    </div>
  )
}
