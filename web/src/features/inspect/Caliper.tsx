import { useMutation } from '@tanstack/react-query'
import { useRef, useState, type KeyboardEvent } from 'react'
import { Complaint } from '../../components/Page'
import { ProblemError, type Schemas } from '../../lib/api'
import { reading } from '../../lib/format'
import { n } from '../../lib/input'
import type { InHand } from './inHand'

interface Props {
  sheet: InHand
  specimen: Schemas['Specimen']
  features: Schemas['Feature'][]
  instrument: string
}

/** Sizes by keyboard alone: type, Enter, the value is kept and the next box waits. */
export function Caliper({ sheet, specimen, features, instrument }: Props) {
  const table = useRef<HTMLTableSectionElement>(null)
  const [correcting, setCorrecting] = useState<Schemas['Reading']>()
  if (features.length === 0) return null
  const next = (from: HTMLElement) => {
    const boxes = [...(table.current?.querySelectorAll<HTMLInputElement>('input') ?? [])]
    const after = boxes[(boxes.indexOf(from as HTMLInputElement) + 1) % boxes.length]
    after?.focus()
    after?.select()
  }
  return (
    <section className="sheet overflow-x-auto">
      <h2>Sizes of {specimen.code}</h2>
      <p className="mb-2 text-sm text-soft">
        Enter keeps a value and goes on; from the last box it goes round again for the next reading. Comma or point.
        Click a value to correct it.
      </p>
      <table className="rows">
        <thead>
          <tr>
            <th>Feature</th>
            <th>Nominal, mm</th>
            <th>Read so far, mm ●</th>
            <th>Next reading, mm</th>
          </tr>
        </thead>
        <tbody ref={table}>
          {features.map((f) => (
            <Row
              key={f.id}
              sheet={sheet}
              specimen={specimen}
              feature={f}
              instrument={instrument}
              correcting={correcting?.feature_id === f.id ? correcting : undefined}
              correct={setCorrecting}
              done={next}
            />
          ))}
        </tbody>
      </table>
    </section>
  )
}

interface RowProps {
  sheet: InHand
  specimen: Schemas['Specimen']
  feature: Schemas['Feature']
  instrument: string
  correcting?: Schemas['Reading']
  correct: (r: Schemas['Reading'] | undefined) => void
  done: (from: HTMLElement) => void
}

function Row({ sheet, specimen, feature, instrument, correcting, correct, done }: RowProps) {
  const [typed, setTyped] = useState('')
  const box = useRef<HTMLInputElement>(null)
  const save = useMutation({
    mutationFn: (confirmed: boolean) =>
      sheet.keep(
        [
          {
            specimen_id: specimen.id ?? '',
            feature_id: feature.id ?? '',
            instrument_id: instrument || null,
            value_mm: n(typed),
            corrects_id: correcting?.id ?? null,
          },
        ],
        confirmed,
      ),
    onSuccess: () => {
      setTyped('')
      correct(undefined)
      if (box.current) done(box.current)
    },
  })
  const questioned = save.error instanceof ProblemError && save.error.problem.type === 'urn:ojime:questioned'
  const detail =
    save.error instanceof ProblemError
      ? (save.error.problem.errors?.[0]?.message ?? save.error.message)
      : save.error?.message
  const press = (e: KeyboardEvent<HTMLInputElement>) => {
    if (e.key === 'Escape') {
      correct(undefined)
      save.reset()
      setTyped('')
    }
    if (e.key !== 'Enter' || save.isPending) return
    e.preventDefault()
    if (typed.trim() === '') done(e.currentTarget)
    else save.mutate(questioned)
  }
  const kept = sheet.readings.filter((r) => r.specimen_id === specimen.id && r.feature_id === feature.id)
  const old = (id?: string) =>
    sheet.corrected.filter((r) => r.id !== id && r.specimen_id === specimen.id && r.feature_id === feature.id)
  const note = `note-${feature.id}`
  return (
    <tr>
      <td>
        {feature.name}
        <span className="block text-sm text-soft">
          {feature.axis}, {feature.face}
        </span>
      </td>
      <td className="num text-lg">{feature.nominal_mm?.toFixed(2)}</td>
      <td className="num text-lg">
        {kept.map((r) => (
          <button
            key={r.id}
            className={`mr-1 min-h-(--tap) px-1 underline decoration-dotted underline-offset-4 ${correcting?.id === r.id ? 'bg-plate font-bold' : ''}`}
            aria-label={`Correct ${r.value_mm} of ${feature.name}`}
            onClick={() => {
              correct(r)
              setTyped(String(r.value_mm))
              box.current?.focus()
            }}
          >
            {reading(r.value_mm)}
            {sheet.doubtful.includes(r.id ?? '') && <sup className="font-bold text-bad">?</sup>}
          </button>
        ))}
        {kept.some((r) => sheet.doubtful.includes(r.id ?? '')) && (
          <span className="block text-sm font-semibold text-bad">
            ? taken while the instrument was out of tolerance: read it again
          </span>
        )}
        {old().length > 0 && (
          <span className="block text-sm text-soft">
            corrected:{' '}
            {old()
              .map((r) => reading(r.value_mm))
              .join(', ')}
          </span>
        )}
      </td>
      <td>
        <input
          ref={box}
          className="input num max-w-32 text-lg"
          inputMode="decimal"
          autoComplete="off"
          data-unit="mm"
          data-advance=""
          aria-label={`${feature.name}, next reading in mm`}
          aria-invalid={save.isError}
          aria-describedby={save.isError || correcting ? note : undefined}
          value={typed}
          onChange={(e) => {
            setTyped(e.target.value)
            if (save.isError) save.reset()
          }}
          onKeyDown={press}
        />
        <div id={note}>
          {correcting && !save.isError && (
            <p className="text-sm">
              Correcting {reading(correcting.value_mm)}; the old value stays on record. Esc leaves it.
            </p>
          )}
          {questioned && (
            <p role="alert" className="text-sm font-semibold text-bad">
              {detail} Enter again keeps it, or type anew.
            </p>
          )}
          {save.isError && !questioned && <Complaint>{detail}</Complaint>}
        </div>
      </td>
    </tr>
  )
}
