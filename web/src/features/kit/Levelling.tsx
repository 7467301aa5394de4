import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { day, figure, words } from '../../lib/format'
import { n, orNull } from '../../lib/input'

type FirstLayer = Exclude<Kind<'Levelling', 'first_layer'>, ''>

const layers = choices<FirstLayer>({ even: 'even', uneven: 'uneven', let_go: 'let go' })
const corners = ['back left', 'back right', 'front left', 'front right']
/** Where each corner stands in the record: from the front left to the right, then the back. */
const place = [2, 3, 0, 1]

/** How a machine is levelled: its recipe, its corners before and after, and whether a first layer verified that. */
export function Levelling({ machineID }: { machineID: string }) {
  const key = ['levellings', machineID]
  const client = useQueryClient()
  const list = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/machines/{id}/levellings', { params: { path: { id: machineID } } })),
  })
  if (list.isError) return <Complaint>{list.error.message}</Complaint>
  if (!list.data) return null
  const kept = (after: Schemas['Levellings']) => client.setQueryData(key, after)
  const { says, levellings, usual, ends } = list.data
  const last = levellings.find((l) => l.taken_back_ms == null)
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="Levelling">
      <h2>Levelling</h2>
      <p>{says}</p>
      {last && last.first_layer === '' && <FirstLayerSeen key={last.id} machineID={machineID} of={last} kept={kept} />}
      {levellings.length > 0 && (
        <ul className="grid gap-2" aria-label="Levelled so far">
          {levellings.map((l) => (
            <li key={l.id} className={`flex flex-wrap items-center gap-2 ${l.taken_back_ms ? 'text-soft' : ''}`}>
              <span className="min-w-0 flex-1">
                {day(l.at_ms ?? 0)}: {l.says}
                {l.how && <span className="text-soft"> · {l.how}</span>}
                {l.taken_back_ms && `. Taken back: ${l.taken_back_why}`}
                <Corners l={l} />
              </span>
              {!l.taken_back_ms && (
                <TakeBack
                  what={`the levelling of ${day(l.at_ms ?? 0)}`}
                  take={async (why) =>
                    kept(
                      await answer(
                        api.POST('/api/v1/machines/{id}/levellings/{levelling_id}/taking-back', {
                          params: { path: { id: machineID, levelling_id: l.id ?? '' } },
                          body: { why },
                        }),
                      ),
                    )
                  }
                />
              )}
            </li>
          ))}
        </ul>
      )}
      <Level
        key={levellings.length}
        machineID={machineID}
        how={last?.how ?? ''}
        usual={usual}
        every={ends}
        kept={kept}
      />
    </section>
  )
}

/** Its corners as they lie before you, before and after. */
function Corners({ l }: { l: Schemas['SaidLevelling'] }) {
  const rows = [
    ['before', l.before_mm ?? []],
    ['after', l.after_mm ?? []],
  ] as const
  const read = rows.filter(([, mm]) => mm.length === corners.length)
  if (read.length === 0) return null
  return (
    <span className="mt-1 flex flex-wrap gap-6 text-sm">
      {read.map(([name, mm]) => (
        <span key={name} className="grid grid-cols-2 gap-x-4">
          <span className="col-span-2 text-soft">{name}, mm; front below</span>
          {place.map((at) => (
            <span key={at} className="num text-right">
              {figure(mm[at])}
            </span>
          ))}
        </span>
      ))}
    </span>
  )
}

/** What the first layer looked like, once it was printed. */
function FirstLayerSeen({
  machineID,
  of,
  kept,
}: {
  machineID: string
  of: Schemas['SaidLevelling']
  kept: (after: Schemas['Levellings']) => void
}) {
  const [note, setNote] = useState('')
  const say = useMutation({
    mutationFn: (layer: FirstLayer) =>
      answer(
        api.POST('/api/v1/machines/{id}/levellings/{levelling_id}/first-layer', {
          params: { path: { id: machineID, levelling_id: of.id ?? '' } },
          body: { first_layer: layer, first_layer_note: note },
        }),
      ),
    onSuccess: kept,
  })
  return (
    <div role="group" aria-label="The first layer" className="grid gap-2 border-l-4 border-act pl-3">
      <p className="font-semibold">The first layer after the levelling of {day(of.at_ms ?? 0)} was</p>
      <div className="flex flex-wrap items-end gap-2">
        {layers.map((l) => (
          <button key={l.value} className="button" disabled={say.isPending} onClick={() => say.mutate(l.value)}>
            {l.label}
          </button>
        ))}
        <label className="min-w-60 flex-1 text-sm font-semibold">
          How it was looked at
          <input className="input font-normal" value={note} onChange={(e) => setNote(e.target.value)} />
        </label>
      </div>
      {say.isError && <Complaint>{say.error.message}</Complaint>}
    </div>
  )
}

const four = () => ['', '', '', '']

function Level({
  machineID,
  how: howBefore,
  usual,
  every,
  kept,
}: {
  machineID: string
  how: string
  usual: string[]
  every: string[]
  kept: (after: Schemas['Levellings']) => void
}) {
  const [how, setHow] = useState(howBefore)
  const [zero, setZero] = useState('')
  const [before, setBefore] = useState(four)
  const [after, setAfter] = useState(four)
  const [ends, setEnds] = useState(usual)
  const save = useMutation({
    mutationFn: () => {
      // Corners are typed as they lie, and kept from the front left on.
      const read = (typed: string[]) => (typed.every((v) => orNull(v) === null) ? [] : place.map((at) => n(typed[at])!))
      return answer(
        api.POST('/api/v1/machines/{id}/levellings', {
          params: { path: { id: machineID } },
          body: { how, zero_mm: n(zero), before_mm: read(before), after_mm: read(after), ends },
        }),
      )
    },
    onSuccess: kept,
  })
  const grid = (name: string, values: string[], set: (v: string[]) => void) => (
    <fieldset className="grid max-w-80 grid-cols-2 gap-2">
      <legend className="mb-1 text-sm font-semibold">
        Corners {name} <span className="num font-normal text-soft">mm, as they lie before you</span>
      </legend>
      {corners.map((corner, i) => (
        <input
          key={corner}
          className="input num"
          inputMode="decimal"
          aria-label={`${name}, ${corner}, mm`}
          placeholder={corner}
          value={values[i]}
          onChange={(e) => set(values.map((v, j) => (j === i ? e.target.value : v)))}
        />
      ))}
    </fieldset>
  )
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">Level it</summary>
      <form
        className="grid gap-3"
        aria-label="Level it"
        onSubmit={(e) => {
          e.preventDefault()
          save.mutate()
        }}
      >
        <label className="text-sm font-semibold">
          How it is levelled
          <textarea
            className="input font-normal"
            rows={2}
            placeholder="loosen the four screws, a card under the plate, press, tighten crosswise"
            value={how}
            onChange={(e) => setHow(e.target.value)}
          />
        </label>
        <div className="flex flex-wrap gap-6">
          {grid('before', before, setBefore)}
          {grid('after', after, setAfter)}
          <label className="max-w-40 self-start text-sm font-semibold">
            Zero moved by <span className="num font-normal text-soft">mm</span>
            <input
              className="input num font-normal"
              inputMode="decimal"
              value={zero}
              onChange={(e) => setZero(e.target.value)}
            />
          </label>
        </div>
        <fieldset className="flex flex-wrap gap-x-4">
          <legend className="text-sm font-semibold">Once verified, it ends with</legend>
          {every.map((end) => (
            <label key={end} className="flex min-h-(--tap) items-center gap-2">
              <input
                type="checkbox"
                className="size-5 accent-(--act)"
                checked={ends.includes(end)}
                onChange={(e) => setEnds(every.filter((x) => (x === end ? e.target.checked : ends.includes(x))))}
              />
              {words(end)}
            </label>
          ))}
        </fieldset>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={save.isPending}>
            It is levelled
          </button>
        </div>
      </form>
    </details>
  )
}
