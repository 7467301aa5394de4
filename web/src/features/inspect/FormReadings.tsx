import { useMutation } from '@tanstack/react-query'
import { useState, type FormEvent } from 'react'
import { Complaint } from '../../components/Page'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, ProblemError, type Schemas } from '../../lib/api'
import { figure } from '../../lib/format'
import { useFormKinds } from '../../lib/forms'
import { n } from '../../lib/input'
import { FitEntry, FitMatrices } from './Fits'
import type { InHand } from './inHand'

interface Props {
  sheet: InHand
  specimen: Schemas['Specimen']
  instrument: string
}

/** Roundness, angles, warp, feet, fits and threads of the copy in hand. */
export function FormReadings({ sheet, specimen, instrument }: Props) {
  const kinds = useFormKinds()
  const forms = sheet.forms.filter((f) => f.retired_ms == null && f.piece_id === specimen.piece_id)
  if (forms.length === 0 || !kinds.data) return null
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-4" aria-label={`Forms of ${specimen.code}`}>
      <h2>Form, fits and threads of {specimen.code}</h2>
      {forms.map((f) => (
        <Reading
          key={`${specimen.id}-${f.id}`}
          sheet={sheet}
          specimen={specimen}
          instrument={instrument}
          form={f}
          kind={kinds.data.find((k) => k.key === f.kind)!}
        />
      ))}
      <FitMatrices sheet={sheet} />
    </section>
  )
}

const states = ['no', 'binds', 'goes'] as const

function Reading({
  sheet,
  specimen,
  instrument,
  form,
  kind,
}: Props & { form: Schemas['Form']; kind: Schemas['MetrologyFormKind'] }) {
  const asks = kind.asks ?? []
  const [typed, setTyped] = useState<string[]>(asks.map(() => ''))
  const [mate, setMate] = useState(() => sessionStorage.getItem(`mate-${form.id}`) ?? '')
  const keep = useMutation({
    mutationFn: ({ state = '', confirmed = false }: { state?: '' | (typeof states)[number]; confirmed?: boolean }) => {
      sessionStorage.setItem(`mate-${form.id}`, mate)
      return answer(
        api.POST('/api/v1/runs/{id}/form-readings', {
          params: { path: { id: sheet.id } },
          body: {
            confirmed,
            reading: {
              specimen_id: specimen.id ?? '',
              form_id: form.id ?? '',
              instrument_id: asks.length > 0 && kind.unit === 'mm' && instrument ? instrument : null,
              measured: typed.map(n),
              rungs: [],
              state,
              mate: kind.mates ? mate : '',
            },
          },
        }),
      )
    },
    onSuccess: () => setTyped(asks.map(() => '')),
  })
  const questioned = keep.error instanceof ProblemError && keep.error.problem.type === 'urn:ojime:questioned'
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault()
    const boxes = [...e.currentTarget.querySelectorAll<HTMLInputElement>('input[data-unit]')]
    const empty = boxes.find((b) => b.value.trim() === '')
    if (empty) empty.focus()
    else if (!keep.isPending) keep.mutate({ confirmed: questioned })
  }
  return (
    <form className="grid gap-2" aria-label={`${form.name} of ${specimen.code}`} onSubmit={submit}>
      <p className="font-semibold">
        {form.name}
        <span className="font-normal text-soft">
          , {kind.name.toLowerCase()}
          {form.place && `, ${form.place}`}
          {form.nominal != null && `, should be ${figure(form.nominal)}°`}
        </span>
      </p>
      {form.kind === 'thread' && (
        <label className="max-w-md text-sm font-semibold">
          Tried with
          <input
            className="input font-normal"
            autoComplete="off"
            placeholder="nut M3 of steel"
            value={mate}
            onChange={(e) => setMate(e.target.value)}
          />
        </label>
      )}
      {asks.length > 0 && (
        <div className="flex flex-wrap items-end gap-3">
          {asks.map((ask, i) => (
            <label key={ask} className="text-sm font-semibold">
              {ask} <span className="num font-normal text-soft">{kind.unit}</span>
              <input
                className="input num w-32 font-normal"
                inputMode="decimal"
                autoComplete="off"
                data-unit={kind.unit}
                value={typed[i]}
                onChange={(e) => {
                  setTyped(typed.map((old, j) => (j === i ? e.target.value : old)))
                  keep.reset()
                }}
              />
            </label>
          ))}
          <button className="button">Keep</button>
        </div>
      )}
      {form.kind === 'fit' && <FitEntry sheet={sheet} specimen={specimen} form={form} />}
      {form.kind === 'thread' && (
        <div className="flex flex-wrap gap-2">
          {states.map((state) => (
            <button
              key={state}
              type="button"
              className="button"
              disabled={keep.isPending}
              onClick={() => keep.mutate({ state })}
            >
              {state === 'no' ? 'does not go' : state}
            </button>
          ))}
        </div>
      )}
      {keep.isError &&
        (questioned ? (
          <p role="alert" className="font-semibold text-bad">
            {(keep.error as ProblemError).problem.errors?.[0]?.message ?? keep.error.message} Enter again keeps it.
          </p>
        ) : (
          <Complaint>{keep.error.message}</Complaint>
        ))}
      <Kept sheet={sheet} specimen={specimen} form={form} kind={kind} />
    </form>
  )
}

/** What was read of a form of this copy, and what it comes to. */
function Kept({
  sheet,
  specimen,
  form,
  kind,
}: Omit<Props, 'instrument'> & { form: Schemas['Form']; kind: Schemas['MetrologyFormKind'] }) {
  const own = sheet.form_readings
    .map((r, i) => ({ r, words: sheet.form_words[i] ?? '' }))
    .filter(({ r }) => r.specimen_id === specimen.id && r.form_id === form.id)
  if (own.length === 0) return null
  return (
    <ul className="grid gap-1" aria-label={`Readings of ${form.name}`}>
      {own.map(({ r, words }) => (
        <One key={r.id} run={sheet.id} r={r} words={words} unit={kind.unit} />
      ))}
    </ul>
  )
}

function One({ run, r, words, unit }: { run: string; r: Schemas['FormReading']; words: string; unit: string }) {
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span className={`num ${r.taken_back_ms == null ? '' : 'text-soft line-through'}`}>
        {(r.measured ?? []).length > 0 && `${r.measured!.map((v) => figure(v, 5)).join(', ')} ${unit} ● `}
        {words} {(r.measured ?? []).length > 0 ? '◇' : '●'}
      </span>
      {r.taken_back_ms != null ? (
        <>
          <span className="text-soft">taken back: {r.taken_back_why}</span>
          <PutAgain kind="form_reading" id={r.id} what={words} />
        </>
      ) : (
        <TakeBack
          what={words}
          take={(why) =>
            answer(
              api.POST('/api/v1/runs/{id}/form-readings/{reading_id}/taking-back', {
                params: { path: { id: run, reading_id: r.id ?? '' } },
                body: { why },
              }),
            )
          }
        />
      )}
    </li>
  )
}
