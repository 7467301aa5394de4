import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type RunSheet, type Schemas } from '../../lib/api'
import { words } from '../../lib/format'

type Specimen = Schemas['Specimen']
const outcomes = ['pending', 'whole', 'micro_defect', 'lost'] as const
const origins = ['printed', 'removal', 'wash', 'supports', 'handling', 'unknown'] as const
const faults = ['none', 'machine', 'resin', 'file', 'operator', 'unknown'] as const

/** What became of each specimen. Only what was printed so counts against machine or resin. */
export function Outcomes({ sheet }: { sheet: RunSheet }) {
  const [list, setList] = useState<Specimen[]>(sheet.specimens)
  const symptoms = useQuery({
    queryKey: ['symptoms'],
    staleTime: Infinity,
    queryFn: () => answer(api.GET('/api/v1/symptoms')),
  })
  const save = useMutation({
    mutationFn: (all: Specimen[]) =>
      answer(api.PUT('/api/v1/runs/{id}/outcomes', { params: { path: { id: sheet.run.id ?? '' } }, body: all })),
  })
  const pending = sheet.specimens.some((s) => s.outcome === 'pending')
  const dirty = JSON.stringify(list) !== JSON.stringify(sheet.specimens)
  const allWhole = () => save.mutate(sheet.specimens.map((s) => ({ ...s, outcome: 'whole' as const })))
  useEffect(() => {
    if (!pending) return
    const press = (e: KeyboardEvent) => {
      const target = e.target as HTMLElement
      if (e.key === 'w' && !e.ctrlKey && !e.metaKey && !/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) {
        save.mutate(sheet.specimens.map((s) => ({ ...s, outcome: 'whole' as const })))
      }
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [pending, save, sheet])
  const set = (i: number, change: Partial<Specimen>) =>
    setList(list.map((s, at) => (at === i ? { ...s, ...change } : s)))
  return (
    <section className="sheet overflow-x-auto">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-2">
        <h2>What became of the specimens</h2>
        {pending && (
          <button className="button" onClick={allWhole} disabled={save.isPending}>
            All whole <kbd className="num">w</kbd>
          </button>
        )}
      </div>
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
              <tr key={s.id}>
                <td className="num font-bold">{s.code}</td>
                <td>
                  <select
                    className="input min-w-32"
                    aria-label={`${s.code}, outcome`}
                    value={s.outcome}
                    onChange={(e) =>
                      set(i, {
                        outcome: e.target.value as Specimen['outcome'],
                        fault: e.target.value === 'lost' || e.target.value === 'micro_defect' ? 'unknown' : 'none',
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
                      {origins.map((o) => (
                        <option key={o}>{o}</option>
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
                      {faults
                        .filter((f) => f !== 'none')
                        .map((f) => (
                          <option key={f}>{f}</option>
                        ))}
                    </select>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      {dirty && (
        <button className="button button-main mt-3" disabled={save.isPending} onClick={() => save.mutate(list)}>
          Keep these outcomes
        </button>
      )}
    </section>
  )
}
