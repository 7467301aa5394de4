import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { PutAgain } from '../../components/PutAgain'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, day, figure, words } from '../../lib/format'
import { forPage, lettersOn } from '../../lib/keys'
import type { InHand } from './inHand'
import { SittingForm } from './SittingForm'

type Scale = Schemas['RatingScale']
type Sitting = Schemas['Sitting']

/** Judged by eye and hand: the sitting once, then a step of each scale, by key, by finger or in gloves. */
export function Ratings({ sheet, specimen }: { sheet: InHand; specimen: Schemas['Specimen'] }) {
  const scales = useQuery({
    queryKey: ['rating-scales'],
    queryFn: () => answer(api.GET('/api/v1/rating-scales')),
  })
  const latest = useQuery({
    queryKey: ['sittings', 'latest'],
    queryFn: () => answer(api.GET('/api/v1/sittings/latest')),
  })
  const [another, setAnother] = useState(false)
  return (
    <section className="sheet grid gap-3" aria-labelledby="ratings">
      <h2 id="ratings">Judged by eye and hand: {specimen.code}</h2>
      <Ready of={scales}>
        {(all) => (
          <Ready of={latest}>
            {({ sitting }) =>
              sitting && !another ? (
                <>
                  <p>
                    <Seat s={sitting} /> <span className="num text-soft">since {day(sitting.created_ms ?? 0)}</span>{' '}
                    <button className="button" onClick={() => setAnother(true)}>
                      Another sitting
                    </button>
                  </p>
                  <Steps sheet={sheet} specimen={specimen} sitting={sitting} scales={all} />
                </>
              ) : (
                <SittingForm
                  scales={all}
                  before={sitting ?? undefined}
                  done={() => setAnother(false)}
                  leave={sitting ? () => setAnother(false) : undefined}
                />
              )
            }
          </Ready>
        )}
      </Ready>
      <Before sheet={sheet} specimen={specimen} scales={scales.data ?? []} />
    </section>
  )
}

/** From where, in which stage and light, and by whom. */
function Seat({ s }: { s: Sitting }) {
  return (
    <>
      <strong>
        {words(s.station)}
        {s.magnification != null && ` of ${figure(s.magnification)} ×`}, {s.stage}
      </strong>
      , under {s.light}, by {s.rater}
      {s.note && <span className="text-soft"> ({s.note})</span>}
    </>
  )
}

/** A row of five anchored steps a scale; the digits 0 to 4 rate the row whose turn it is. */
function Steps({
  sheet,
  specimen,
  sitting,
  scales,
}: {
  sheet: InHand
  specimen: Schemas['Specimen']
  sitting: Sitting
  scales: Scale[]
}) {
  const rate = useMutation({
    mutationFn: (v: { scale: string; score: number }) =>
      answer(
        api.POST('/api/v1/ratings', {
          body: { ...v, sitting_id: sitting.id ?? '', of_id: sheet.id, specimen_id: specimen.id ?? '' },
        }),
      ),
  })
  const rows = sitting.scales.flatMap((key) => scales.filter((s) => s.key === key))
  const given = (key: string) =>
    sheet.ratings.find(
      (r) => r.scale === key && r.sitting_id === sitting.id && ratedSpecimen(sheet, r)?.id === specimen.id,
    )
  const [turn, setTurn] = useState(0)
  const { mutate } = rate
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      const row = rows[turn]
      if (!lettersOn() || !forPage(e) || !/^[0-4]$/.test(e.key) || !row) return
      e.preventDefault()
      mutate({ scale: row.key, score: Number(e.key) })
      setTurn(Math.min(turn + 1, rows.length))
    }
    window.addEventListener('keydown', press)
    return () => window.removeEventListener('keydown', press)
  }, [rows, turn, mutate])
  return (
    <div className="grid gap-3">
      {rows.map((scale, i) => {
        const old = given(scale.key)
        return (
          <fieldset key={scale.key} className={`border-l-4 pl-3 ${i === turn ? 'border-act' : 'border-line'}`}>
            <legend className="font-semibold">
              {scale.name}
              {i === turn && <span className="font-normal text-soft"> press 0 to 4</span>}
            </legend>
            <div className="grid gap-2 sm:grid-cols-5">
              {scale.anchors.map((anchor, score) => (
                <button
                  key={anchor}
                  className={`button flex-col items-start gap-0 text-left ${old?.score === score ? 'button-main' : ''}`}
                  aria-pressed={old?.score === score}
                  disabled={rate.isPending}
                  onClick={() => {
                    mutate({ scale: scale.key, score })
                    setTurn(i + 1)
                  }}
                >
                  <span className="num">{score}</span>
                  <span className="text-sm font-normal">{anchor}</span>
                </button>
              ))}
            </div>
          </fieldset>
        )
      })}
      {turn >= rows.length && rows.length > 0 && (
        <p role="status">All {counted(rows.length, 'scale')} are rated here: take the next specimen.</p>
      )}
      {rate.isError && <Complaint>{rate.error.message}</Complaint>}
    </div>
  )
}

const ratedSpecimen = (sheet: InHand, r: Schemas['Rated']) =>
  sheet.specimens.find((s) => (r.specimen_id ? s.id === r.specimen_id : s.copy === r.copy))

/** What was rated of this specimen before, in any sitting, and what was taken back. */
function Before({ sheet, specimen, scales }: { sheet: InHand; specimen: Schemas['Specimen']; scales: Scale[] }) {
  const takeBack = useMutation({
    mutationFn: ({ id, why }: { id: string; why: string }) =>
      answer(api.POST('/api/v1/ratings/{id}/taking-back', { params: { path: { id } }, body: { why } })),
  })
  const [taking, setTaking] = useState('')
  const [why, setWhy] = useState('')
  const mine = (list: Schemas['Rated'][]) => list.filter((r) => ratedSpecimen(sheet, r)?.id === specimen.id)
  const counts = mine(sheet.ratings)
  const gone = mine(sheet.rerated)
  if (counts.length + gone.length === 0) return null
  const says = (r: Schemas['Rated']) => {
    const scale = scales.find((s) => s.key === r.scale)
    return `${scale?.name ?? r.scale}: ${r.score}, ${scale?.anchors[r.score] ?? ''}`
  }
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {counted(counts.length, 'rating')} of {specimen.code} on record
      </summary>
      <ul className="grid gap-1" aria-label={`Ratings of ${specimen.code}`}>
        {counts.map((r) => (
          <li key={r.id} className="flex flex-wrap items-center gap-2">
            <span className="min-w-0 flex-1">
              {says(r)}{' '}
              <span className="text-soft">
                (<Seat s={r.sitting} />)
              </span>
            </span>
            {taking === r.id ? (
              <form
                className="flex flex-wrap items-end gap-2"
                onSubmit={(e) => {
                  e.preventDefault()
                  takeBack.mutate({ id: r.id ?? '', why })
                  setTaking('')
                  setWhy('')
                }}
              >
                <label className="text-sm font-semibold">
                  Why it is taken back
                  <input className="input font-normal" required value={why} onChange={(e) => setWhy(e.target.value)} />
                </label>
                <button className="button">Take it back</button>
              </form>
            ) : (
              <button className="button" aria-label={`Take back ${says(r)}`} onClick={() => setTaking(r.id ?? '')}>
                Take back
              </button>
            )}
          </li>
        ))}
        {gone.map((r) => (
          <li key={r.id} className="text-soft">
            <s>{says(r)}</s>{' '}
            {r.taken_back_why ? (
              <>
                taken back: {r.taken_back_why} <PutAgain kind="rating" id={r.id} what={says(r)} />
              </>
            ) : (
              'corrected'
            )}
          </li>
        ))}
      </ul>
      {takeBack.isError && <Complaint>{takeBack.error.message}</Complaint>}
    </details>
  )
}
