import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useEffectEvent, useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, ProblemError, type RunSheet, type Schemas } from '../../lib/api'
import { words } from '../../lib/format'
import { forPage, lettersOn } from '../../lib/keys'
import { Defects, blankDefect } from './Defects'
import { OutcomeMap } from './OutcomeMap'
import { Swap } from './Swap'
import { valuesOf, type Kind } from '../../lib/choices'

type Specimen = Schemas['Specimen']
const outcomes = valuesOf<Kind<'Specimen', 'outcome'>>({ pending: true, whole: true, micro_defect: true, lost: true })
const spoilt = (outcome: Specimen['outcome']) => outcome === 'micro_defect' || outcome === 'lost'

/** What became of each specimen, by its piece. Only what was printed so counts against machine or resin. */
export function Outcomes({ sheet }: { sheet: RunSheet }) {
  const client = useQueryClient()
  // What was entered and not yet kept stands over what is on record, which may change meanwhile.
  const [edits, setEdits] = useState<Record<string, Partial<Specimen>>>({})
  const list = sheet.specimens.map((s) => {
    const edit = edits[s.id ?? '']
    return { ...s, ...edit, version: edit?.version ?? s.version }
  })
  const [at, setAt] = useState<number>()
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
  const judge = (i: number, outcome: Specimen['outcome']) => {
    const standing = (list[i]?.defects ?? []).filter((d) => d.taken_back_ms == null)
    set(i, spoilt(outcome) && standing.length === 0 ? { outcome, defects: [blankDefect] } : { outcome })
  }
  const placed = list.some((s) => s.x_mm != null)
  const pieceOf = (s: Specimen) => sheet.pieces.find((p) => p.id === s.piece_id)?.name
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
      <Counts sheet={sheet} />
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
        <ul className="grid content-start">
          {list.map((s, i) => (
            <li
              key={s.id}
              className={`grid gap-2 border-t border-line py-2 ${i === at ? 'bg-plate' : ''}`}
              onFocus={() => setAt(i)}
            >
              <div className="grid grid-cols-[minmax(7rem,1fr)_auto] items-center gap-x-3 gap-y-1 sm:grid-cols-[minmax(8rem,14rem)_9rem_minmax(0,1fr)]">
                <p className="min-w-0">
                  <span className="num font-bold whitespace-nowrap">{s.code}</span>
                  <span className="block text-sm text-soft wrap-anywhere">{pieceOf(s)}</span>
                  {s.swapped_with && <span className="block text-sm text-bad">swapped with {s.swapped_with}?</span>}
                </p>
                <select
                  id={`outcome-${s.id}`}
                  className="input w-36"
                  aria-label={`${s.code}, outcome`}
                  value={s.outcome}
                  onChange={(e) => judge(i, e.target.value as Specimen['outcome'])}
                >
                  {outcomes.map((o) => (
                    <option key={o} value={o}>
                      {o === 'pending' ? 'not judged' : words(o)}
                    </option>
                  ))}
                </select>
                <input
                  className="input max-sm:col-span-2"
                  aria-label={`${s.code}, note`}
                  placeholder="note"
                  value={s.note}
                  onChange={(e) => set(i, { note: e.target.value })}
                />
              </div>
              {(spoilt(s.outcome) || (s.defects ?? []).length > 0) && (
                <div className="sm:pl-6">
                  <Defects
                    code={s.code ?? ''}
                    open={spoilt(s.outcome)}
                    list={s.defects ?? []}
                    set={(defects) => set(i, { defects })}
                  />
                </div>
              )}
            </li>
          ))}
        </ul>
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

/** What the judgements count as, piece by piece; accidents stand apart and count against nobody. */
function Counts({ sheet }: { sheet: RunSheet }) {
  const judged = sheet.counts.specimens - sheet.counts.pending
  if (judged === 0) return null
  return (
    <div className="overflow-x-auto">
      <table className="rows">
        <thead>
          <tr>
            <th>Piece</th>
            <th>Judged</th>
            <th>Whole</th>
            <th>Failed in printing</th>
            <th>Marked in printing</th>
            <th>Accidents after</th>
          </tr>
        </thead>
        <tbody>
          {sheet.contents.map((c) => (
            <tr key={c.piece_id}>
              <th scope="row" className="text-left">
                {c.piece}
              </th>
              <td className="num">
                {c.counts.specimens - c.counts.pending} of {c.counts.specimens}
              </td>
              <td className="num">{c.counts.whole}</td>
              <td className="num">
                {c.counts.failed}
                {c.counts.failed > 0 && (
                  <span className="text-soft">
                    {' '}
                    ({c.counts.by_machine} by machine, {c.counts.by_resin} by resin)
                  </span>
                )}
              </td>
              <td className="num">{c.counts.micro_printed}</td>
              <td className="num">{c.counts.accidents}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
