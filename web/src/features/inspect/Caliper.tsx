import { useMutation } from '@tanstack/react-query'
import { useLayoutEffect, useRef, useState, type KeyboardEvent } from 'react'
import { Complaint } from '../../components/Page'
import { PutAgain } from '../../components/PutAgain'
import { PieceDrawing } from '../../components/PieceDrawing'
import { ProblemError, type Schemas } from '../../lib/api'
import { counted, reading } from '../../lib/format'
import { n } from '../../lib/input'
import { dropKeys, holdKeys, pourKeys } from '../../lib/typeAhead'
import { nextSize, type Way } from './advance'
import { readOf, type InHand, type Read } from './inHand'

/** The reading that was kept last: one key takes it back. */
export interface Last {
  id: string
  specimenID: string
  featureID: string
}

interface Props {
  sheet: InHand
  specimen: Schemas['Specimen']
  features: Schemas['Feature'][]
  instrument: string
  way: Way
  /** Which size waits as soon as the copy is in hand: one by its id, or the first that is to be read; undefined for none. */
  begin?: string
  last?: Last
  kept: (last: Last) => void
  /** A reading was taken back: its copy comes into hand again. */
  undone: (last: Last) => void
  /** All sizes of this copy are read: what is next. Says whether there is another copy. */
  copyDone: () => boolean
}

/** Sizes by keyboard alone: type, Enter, the value is kept and the next box waits, on this copy or on the next. */
export function Caliper({ sheet, specimen, features, instrument, way, begin, last, kept, undone, copyDone }: Props) {
  const table = useRef<HTMLTableSectionElement>(null)
  const [correcting, setCorrecting] = useState<Schemas['Reading']>()
  const [done, setDone] = useState(false)
  const [inTurn, setInTurn] = useState<string>()
  const piece = sheet.pieces.find((p) => p.id === specimen.piece_id)
  const boxes = () => [...(table.current?.querySelectorAll<HTMLInputElement>('input') ?? [])]
  const focus = (i: number) => {
    boxes()[i]?.focus()
    boxes()[i]?.select()
  }
  useLayoutEffect(() => {
    if (begin === undefined) return
    const read = features.map((f) => readOf(sheet, specimen.id, f.id).length)
    const first = way.times === 0 ? 0 : read.findIndex((count) => count < way.times)
    const named = features.findIndex((f) => f.id === begin)
    focus(Math.max(0, named < 0 ? first : named))
    // Only when a copy comes into hand.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [specimen.id])
  if (features.length === 0) return null
  /** After a reading was kept, or a box was left empty, the next box waits. */
  const next = (at: number, after?: Read) => {
    // By what the answer holds: the page may not have read yet what was kept before it.
    const to = after
      ? nextSize(
          features.map((f) => readOf(after, specimen.id, f.id).length),
          at,
          way,
        )
      : (at + 1) % features.length
    setDone(false)
    if (to !== undefined) focus(to)
    else if (!copyDone()) setDone(true)
  }
  return (
    <section className="sheet overflow-x-auto" aria-label={`Sizes of ${specimen.code}`}>
      <h2>Sizes of {specimen.code}</h2>
      <p className="mb-2 text-sm text-soft">
        Enter, or a foot switch that presses it, keeps a value and goes on. Comma or point. Backspace in an empty box
        takes the last reading back; click a value to correct it.
      </p>
      {piece && <PieceDrawing piece={piece} feature={features.find((f) => f.id === inTurn)} />}
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
          {features.map((f, i) => (
            <Row
              key={f.id}
              sheet={sheet}
              specimen={specimen}
              feature={f}
              instrument={instrument}
              correcting={correcting?.feature_id === f.id ? correcting : undefined}
              correct={setCorrecting}
              kept={kept}
              undone={undone}
              last={last}
              done={(after) => next(i, after)}
              inTurn={() => setInTurn(f.id)}
            />
          ))}
        </tbody>
      </table>
      {done && (
        <p role="status" className="mt-2 font-semibold">
          Every size of every copy here is read {counted(way.times, 'time')}.
        </p>
      )}
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
  kept: (last: Last) => void
  undone: (last: Last) => void
  last?: Last
  /** It goes on: after a reading was kept with what is on record then, else with nothing. */
  done: (after?: Read) => void
  /** Its box has the focus. */
  inTurn: () => void
}

function Row({
  sheet,
  specimen,
  feature,
  instrument,
  correcting,
  correct,
  kept,
  undone,
  last,
  done,
  inTurn,
}: RowProps) {
  const [typed, setTyped] = useState('')
  const box = useRef<HTMLInputElement>(null)
  const save = useMutation({
    mutationFn: ({ text, confirmed }: { text: string; confirmed: boolean }) =>
      sheet.keep(
        [
          {
            specimen_id: specimen.id ?? '',
            feature_id: feature.id ?? '',
            instrument_id: instrument || null,
            value_mm: n(text),
            corrects_id: correcting?.id ?? null,
          },
        ],
        confirmed,
      ),
    onSuccess: (after, sent) => {
      const now = readOf(after, specimen.id, feature.id).at(-1)
      if (now) kept({ id: now.id ?? '', specimenID: specimen.id ?? '', featureID: feature.id ?? '' })
      setTyped((t) => (t === sent.text ? '' : t))
      correct(undefined)
      done(correcting ? undefined : after)
      pourKeys()
    },
    onError: dropKeys,
  })
  const undo = useMutation({
    mutationFn: (slip: Last) => sheet.takeBack(slip.id, 'a slip, undone at once'),
    onSuccess: (_, slip) => undone(slip),
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
    if (e.key === 'Backspace' && typed === '' && last && !undo.isPending) {
      e.preventDefault()
      undo.mutate(last)
      return
    }
    if (e.key !== 'Enter' || save.isPending) return
    e.preventDefault()
    if (typed.trim() === '') done()
    else {
      holdKeys()
      save.mutate({ text: typed, confirmed: questioned })
    }
  }
  const counting = readOf(sheet, specimen.id, feature.id)
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
        {counting.map((r) => (
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
        {counting.some((r) => sheet.doubtful.includes(r.id ?? '')) && (
          <span className="block text-sm font-semibold text-bad">
            ? taken while the instrument was out of tolerance: read it again
          </span>
        )}
        {old().some((r) => r.taken_back_ms == null) && (
          <span className="block text-sm text-soft">
            corrected:{' '}
            {old()
              .filter((r) => r.taken_back_ms == null)
              .map((r) => reading(r.value_mm))
              .join(', ')}
          </span>
        )}
        {old()
          .filter((r) => r.taken_back_ms != null)
          .map((r) => (
            <span key={r.id} className="block font-sans text-sm text-soft">
              taken back: {reading(r.value_mm)}, {r.taken_back_why}{' '}
              <PutAgain kind={sheet.reading} id={r.id} what={`${reading(r.value_mm)} of ${feature.name}`} />
            </span>
          ))}
      </td>
      <td>
        <input
          ref={box}
          onFocus={inTurn}
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
          {undo.isError && <Complaint>{undo.error.message}</Complaint>}
        </div>
      </td>
    </tr>
  )
}
