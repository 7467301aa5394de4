import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { OwnScale } from '../../components/OwnScale'
import { Complaint } from '../../components/Page'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { newTurn } from '../../lib/command'
import { day } from '../../lib/format'

type Scale = Schemas['RatingMachineScale']

/** What living with a machine is like: one scale after the other, an anchor is one press. */
export function Living({ machineID }: { machineID: string }) {
  const key = ['living', machineID]
  const client = useQueryClient()
  const living = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/machines/{id}/living', { params: { path: { id: machineID } } })),
  })
  const [at, setAt] = useState(0)
  if (living.isError) return <Complaint>{living.error.message}</Complaint>
  if (!living.data) return null
  const { scales, ratings } = living.data
  const rated = scales.filter((s) => s.lived)
  const kept = (after: Schemas['Living']) => client.setQueryData(key, after)
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-4" aria-label="Living with it">
      <h2>Living with it</h2>
      <p className="text-soft">
        What annoys or pleases every day, by whoever used it. It stands in comparisons and write-ups beside the figures,
        never among them.
      </p>
      <Rate
        key={at}
        machineID={machineID}
        scales={scales.map((s) => s.scale)}
        at={at}
        go={setAt}
        kept={(after) => {
          kept(after)
          setAt((at + 1) % scales.length)
        }}
      />
      <OwnScale
        conditions="from how far, with what resin …"
        keep={(v) => answer(api.POST('/api/v1/machine-scales', { body: { ...v, about: 'machines' } }))}
      />
      {rated.length > 0 && (
        <div className="relative overflow-x-auto">
          <table className="rows">
            <caption className="text-left font-semibold">So far ●</caption>
            <tbody>
              {rated.map((s) => (
                <tr key={s.scale.key}>
                  <th scope="row">{s.scale.name}</th>
                  <td>{s.lived?.says}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      {ratings.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center">
            Every rating, and how to take one back
          </summary>
          <ul className="grid gap-1" aria-label="Ratings of this machine">
            {ratings.map((r) => (
              <One
                key={r.id}
                machineID={machineID}
                r={r}
                scale={scales.find((s) => s.scale.key === r.scale)?.scale}
                kept={kept}
              />
            ))}
          </ul>
        </details>
      )}
    </section>
  )
}

const raterKey = 'machine-rater'

function Rate({
  machineID,
  scales,
  at,
  go,
  kept,
}: {
  machineID: string
  scales: Scale[]
  at: number
  go: (at: number) => void
  kept: (after: Schemas['Living']) => void
}) {
  const scale = scales[at]!
  const [rater, setRater] = useState(() => sessionStorage.getItem(raterKey) ?? '')
  const [conditions, setConditions] = useState('')
  const [note, setNote] = useState('')
  const [turn] = useState(newTurn)
  const rate = useMutation({
    mutationFn: (score: number) =>
      answer(
        api.POST('/api/v1/machines/{id}/ratings', {
          params: { path: { id: machineID } },
          body: { scale: scale.key, score, rater, conditions, note },
          headers: turn,
        }),
      ),
    onSuccess: kept,
  })
  return (
    <div className="grid gap-3">
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <label className="text-sm font-semibold">
          Judged by
          <input
            className="input font-normal"
            value={rater}
            onChange={(e) => {
              setRater(e.target.value)
              sessionStorage.setItem(raterKey, e.target.value)
            }}
          />
        </label>
        <label className="text-sm font-semibold">
          What is judged
          <select className="input font-normal" value={at} onChange={(e) => go(Number(e.target.value))}>
            {scales.map((s, i) => (
              <option key={s.key} value={i}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        {scale.under && (
          <label className="text-sm font-semibold">
            Under which conditions
            <input
              className="input font-normal"
              placeholder={scale.under}
              value={conditions}
              onChange={(e) => setConditions(e.target.value)}
            />
          </label>
        )}
        <label className="text-sm font-semibold">
          Note <span className="font-normal text-soft">optional</span>
          <input className="input font-normal" value={note} onChange={(e) => setNote(e.target.value)} />
        </label>
      </div>
      <fieldset>
        <legend className="mb-1 font-semibold">{scale.name}: which is nearest?</legend>
        <div className="grid gap-2 sm:grid-cols-5">
          {scale.anchors.map((anchor, score) => (
            <button
              key={score}
              type="button"
              className="button flex-col items-start text-left"
              disabled={rate.isPending}
              onClick={() => rate.mutate(score)}
            >
              <span className="num">{score}</span>
              <span className="font-normal">{anchor}</span>
            </button>
          ))}
        </div>
      </fieldset>
      {rate.isError && <Complaint>{rate.error.message}</Complaint>}
    </div>
  )
}

function One({
  machineID,
  r,
  scale,
  kept,
}: {
  machineID: string
  r: Schemas['MachineRating']
  scale?: Scale
  kept: (after: Schemas['Living']) => void
}) {
  const words = [
    `${scale?.name ?? r.scale}: ${r.score}, ${scale?.anchors[r.score] ?? ''}`,
    r.rater,
    r.conditions,
    r.note,
  ]
    .filter(Boolean)
    .join(', ')
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className={r.taken_back_ms == null ? '' : 'text-soft line-through'}>
        {day(r.at_ms ?? 0)}: {words}
      </span>
      {r.taken_back_ms != null ? (
        <>
          <span className="text-soft">taken back: {r.taken_back_why}</span>
          <PutAgain kind="machine_rating" id={r.id} what={words} />
        </>
      ) : (
        <TakeBack
          what={words}
          take={(why) =>
            answer(
              api.POST('/api/v1/machines/{id}/ratings/{rating_id}/taking-back', {
                params: { path: { id: machineID, rating_id: r.id ?? '' } },
                body: { why },
              }),
            ).then(kept)
          }
        />
      )}
    </li>
  )
}
