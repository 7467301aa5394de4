import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, api, type Schemas } from '../../lib/api'
import { faults, origins, severities } from '../../lib/defects'
import { moment } from '../../lib/format'
import { n, t } from '../../lib/input'

type Defect = Schemas['Defect']

export const blankDefect: Defect = { symptom: '', severity: '', origin: 'printed', fault: 'unknown', note: '' }

/** All that is wrong with one specimen. What was taken back stays on record, struck out. */
export function Defects({
  code,
  open,
  list,
  set,
}: {
  code: string
  open: boolean
  list: Defect[]
  set: (list: Defect[]) => void
}) {
  const back = list.filter((d) => d.taken_back_ms != null)
  const standing = list.filter((d) => d.taken_back_ms == null)
  const change = (i: number, c: Partial<Defect>) =>
    set([...back, ...standing.map((d, j) => (i === j ? { ...d, ...c } : d))])
  return (
    <div className="grid gap-2">
      {open &&
        standing.map((d, i) => (
          <One
            key={d.id ?? `new-${i}`}
            name={standing.length > 1 ? ` ${i + 1}` : ''}
            code={code}
            d={d}
            set={(c) => change(i, c)}
            remove={standing.length > 1 ? () => set([...back, ...standing.filter((_, j) => j !== i)]) : undefined}
          />
        ))}
      {open && (
        <button
          type="button"
          className="button justify-self-start"
          onClick={() => set([...back, ...standing, blankDefect])}
          aria-label={`${code}, another defect`}
        >
          Another defect
        </button>
      )}
      {back.length > 0 && (
        <ul className="text-sm text-soft" aria-label={`${code}, taken back`}>
          {back.map((d) => (
            <li key={d.id}>
              <s>{d.symptom}</s> taken back {moment(d.taken_back_ms ?? 0)}
              {d.taken_back_why && `: ${d.taken_back_why}`}
            </li>
          ))}
        </ul>
      )}
    </div>
  )
}

/** One defect: what, whence, whose, how bad, and where it began, by layer or height; the other of the two is worked out. */
function One({
  code,
  name,
  d,
  set,
  remove,
}: {
  code: string
  name: string
  d: Defect
  set: (change: Partial<Defect>) => void
  remove?: () => void
}) {
  const symptoms = useQuery({
    queryKey: ['symptoms'],
    staleTime: Infinity,
    queryFn: () => answer(api.GET('/api/v1/symptoms')),
  })
  const [layer, setLayer] = useState(t(d.began_layer))
  const [mm, setMM] = useState(t(d.began_mm))
  const choice = <K extends string>(label: string, value: K, options: Record<K, string>, pick: (v: K) => void) => (
    <label className="grid text-sm">
      {label}
      <select
        className="input w-auto max-w-full"
        aria-label={`${code}, ${label.toLowerCase()}${name}`}
        value={value}
        onChange={(e) => pick(e.target.value as K)}
      >
        {(Object.entries(options) as [K, string][]).map(([v, l]) => (
          <option key={v} value={v}>
            {l}
          </option>
        ))}
      </select>
    </label>
  )
  const known = symptoms.data ?? []
  const list = Object.fromEntries(
    ['', ...(known.includes(d.symptom) || d.symptom === '' ? known : [d.symptom, ...known])].map((s) => [
      s,
      s || 'choose',
    ]),
  )
  return (
    <div className="flex flex-wrap items-end gap-2 border-t border-line pt-1">
      {choice('Symptom', d.symptom, list, (symptom) => set({ symptom }))}
      {choice('Came from', d.origin, origins, (origin) => set({ origin }))}
      {choice('Attributed to', d.fault, faults, (fault) => set({ fault }))}
      {choice('How bad', d.severity ?? '', severities, (severity) => set({ severity }))}
      <label className="grid text-sm">
        Began at layer
        <input
          className="input num w-24"
          inputMode="numeric"
          aria-label={`${code}, began at layer${name}`}
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
          aria-label={`${code}, began at height${name}`}
          value={mm}
          onChange={(e) => {
            setMM(e.target.value)
            setLayer('')
            set({ began_mm: n(e.target.value), began_layer: null })
          }}
        />
      </label>
      <label className="grid min-w-32 flex-1 text-sm">
        About it
        <input
          className="input"
          aria-label={`${code}, about the defect${name}`}
          value={d.note ?? ''}
          onChange={(e) => set({ note: e.target.value })}
        />
      </label>
      {remove && (
        <button type="button" className="button" onClick={remove} aria-label={`${code}, take back defect${name}`}>
          Take back
        </button>
      )}
    </div>
  )
}
