import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import type { Schemas } from '../../lib/api'
import { figure } from '../../lib/format'
import type { InHand } from './inHand'
import { valuesOf, type Kind } from '../../lib/choices'

interface Props {
  sheet: InHand
  specimen: Schemas['Specimen']
  features: Schemas['Feature'][]
}

const states = valuesOf<Kind<'Reading', 'state'>>({ present: true, damaged: true, missing: true })

/** Ladders and checkpoints: one press each, by key, by finger or in gloves. A second press corrects the first. */
export function Eye({ sheet, specimen, features }: Props) {
  const save = useMutation({
    mutationFn: (readings: Schemas['Reading'][]) => sheet.keep(readings, false),
  })
  if (features.length === 0) return null
  const of = (featureID: string | undefined, rung?: number) =>
    sheet.readings.find(
      (r) => r.specimen_id === specimen.id && r.feature_id === featureID && (rung === undefined || r.rung_mm === rung),
    )
  const base = (f: Schemas['Feature'], old?: Schemas['Reading']) => ({
    specimen_id: specimen.id ?? '',
    feature_id: f.id ?? '',
    corrects_id: old?.id ?? null,
  })
  return (
    <section className="sheet grid gap-4">
      <h2>Ladders and checkpoints of {specimen.code}</h2>
      {features.map((f) => (
        <fieldset key={f.id}>
          <legend className="font-semibold">
            {f.name}
            {f.place && <span className="font-normal text-soft">, {f.place}</span>}
            {f.kind !== 'checkpoint' && (
              <span className="font-normal text-soft">
                , {f.kind === 'pins' ? 'which pins stand' : 'which gaps are open'}, mm
              </span>
            )}
          </legend>
          {f.kind === 'checkpoint' ? (
            <div className="flex flex-wrap gap-2">
              {states.map((s) => {
                const old = of(f.id)
                return (
                  <button
                    key={s}
                    className={`button ${old?.state === s ? 'button-main' : ''}`}
                    aria-pressed={old?.state === s}
                    disabled={save.isPending || old?.state === s}
                    onClick={() => save.mutate([{ ...base(f, old), state: s }])}
                  >
                    {s}
                  </button>
                )
              })}
            </div>
          ) : (
            <div className="flex flex-wrap items-start gap-2">
              {f.rungs_mm.map((rung) => {
                const old = of(f.id, rung)
                const says = old ? (old.intact ? 'whole' : 'failed') : 'not read'
                return (
                  <button
                    key={rung}
                    className={`button num flex-col gap-0 ${old?.intact ? 'button-main' : ''} ${old && !old.intact ? 'line-through decoration-2' : ''}`}
                    aria-label={`${f.name} ${rung} mm: ${says}`}
                    disabled={save.isPending}
                    onClick={() => save.mutate([{ ...base(f, old), rung_mm: rung, intact: !old?.intact }])}
                  >
                    {figure(rung)}
                    <span className="font-sans text-xs font-normal">{says}</span>
                  </button>
                )
              })}
              {f.rungs_mm.some((r) => !of(f.id, r)) && (
                <button
                  className="button"
                  disabled={save.isPending}
                  onClick={() =>
                    save.mutate(
                      f.rungs_mm
                        .filter((r) => !of(f.id, r))
                        .map((rung) => ({ ...base(f), rung_mm: rung, intact: true })),
                    )
                  }
                >
                  The rest is whole
                </button>
              )}
            </div>
          )}
          <TakeBack
            takeBack={sheet.takeBack}
            name={f.name}
            readings={sheet.readings.filter((r) => r.specimen_id === specimen.id && r.feature_id === f.id)}
          />
        </fieldset>
      ))}
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </section>
  )
}

/** Takes back what was read by mistake, with the reason: it stays on record, and counts no more. */
function TakeBack({
  takeBack,
  name,
  readings,
}: {
  takeBack: InHand['takeBack']
  name: string
  readings: Schemas['Reading'][]
}) {
  const [why, setWhy] = useState<string>()
  const back = useMutation({
    mutationFn: async (reason: string) => {
      for (const r of readings) {
        await takeBack(r.id ?? '', reason)
      }
    },
    onSuccess: () => setWhy(undefined),
  })
  if (readings.length === 0) return null
  if (why === undefined) {
    return (
      <button type="button" className="mt-1 text-sm underline" onClick={() => setWhy('')}>
        take back {name}
      </button>
    )
  }
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        back.mutate(why)
      }}
    >
      <label className="min-w-40 flex-1 text-sm font-semibold">
        Why {name} is taken back
        <input className="input font-normal" required value={why} onChange={(e) => setWhy(e.target.value)} />
      </label>
      <button className="button" disabled={back.isPending}>
        Take it back
      </button>
      {back.isError && <Complaint>{back.error.message}</Complaint>}
    </form>
  )
}
