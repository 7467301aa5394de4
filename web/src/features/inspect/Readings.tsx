import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { Empty, Ready } from '../../components/Page'
import { type Schemas } from '../../lib/api'
import { measuresLengths } from '../../lib/instruments'
import { useInstruments } from '../../lib/queries'
import { keepWay, keptWay, nextCopy, type Way } from './advance'
import { Caliper, type Last } from './Caliper'
import { DefectsSeen } from './DefectsSeen'
import { Eye } from './Eye'
import { FormReadings } from './FormReadings'
import { readOf, type InHand } from './inHand'
import { PlateGrid } from './PlateGrid'
import { Photographs } from './Photographs'
import { Ratings } from './Ratings'
import { Stages } from './Stages'
import { StressTests } from './StressTests'
import { Summary } from './Summary'

/** The copies of a print or a reference, as soon as it is known what they can be read with. */
export function Readings({ sheet, of }: { sheet: InHand; of: string }) {
  return (
    <Ready of={useInstruments()}>
      {(all) => <Copies sheet={sheet} of={of} lengths={all.filter((i) => measuresLengths(i.kind))} />}
    </Ready>
  )
}

/** One copy in hand: its sizes, ladders and checkpoints, and what all say together. */
function Copies({ sheet, of, lengths }: { sheet: InHand; of: string; lengths: Schemas['Instrument'][] }) {
  const [params, setParams] = useSearchParams()
  const whole = params.get('as') === 'table'
  const [specimenID, setSpecimen] = useState(
    params.get('specimen') ?? sheet.specimens.find((s) => s.outcome !== 'lost')?.id ?? '',
  )
  const [instrument, setInstrument] = useState('')
  const [way, setWay] = useState(keptWay)
  const [begin, setBegin] = useState(params.get('specimen') ? '' : undefined)
  const [turn, setTurn] = useState(0)
  const [last, setLast] = useState<Last>()
  const inHand = sheet.specimens.find((s) => s.id === specimenID)
  const piece = sheet.pieces.find((p) => p.id === inHand?.piece_id) ?? sheet.pieces[0]
  const features = sheet.features.filter((f) => f.retired_ms == null && f.piece_id === piece?.id)
  const tool = instrument || (lengths[0]?.id ?? '')
  const specimen = sheet.specimens.find((s) => s.id === specimenID)
  const read = (id?: string, pieceID?: string) =>
    sheet.features
      .filter((f) => f.retired_ms == null && f.kind === 'dimension' && f.piece_id === pieceID)
      .map((f) => readOf(sheet, id, f.id).length)
  /** Takes the next copy that still has a size to be read into hand. */
  const copyDone = () => {
    const copies = sheet.specimens
      .filter((s) => s.outcome !== 'lost' && !sheet.set_aside.includes(s.code ?? ''))
      .map((s) => ({ id: s.id ?? '', read: read(s.id, s.piece_id) }))
    const to = nextCopy(copies, specimenID, way)
    if (!to) return false
    setBegin('')
    setSpecimen(to)
    return true
  }
  const changeWay = (next: Way) => {
    setWay(next)
    keepWay(next)
  }
  return (
    <>
      <div className="sheet flex flex-wrap items-end gap-4">
        <label className="text-sm font-semibold">
          Read
          <select
            className="input font-normal"
            aria-label="Read"
            value={whole ? 'table' : 'copy'}
            onChange={(e) => setParams(e.target.value === 'table' ? { as: 'table' } : {}, { replace: true })}
          >
            <option value="copy">one copy at a time</option>
            <option value="table">all copies, as a table</option>
          </select>
        </label>
        <fieldset hidden={whole}>
          <legend className="text-sm font-semibold">Specimen in hand</legend>
          <div className="flex flex-wrap gap-2">
            {sheet.specimens.map((s) => (
              <button
                key={s.id}
                className={`button num ${s.id === specimenID ? 'button-main' : ''}`}
                aria-pressed={s.id === specimenID}
                disabled={s.outcome === 'lost'}
                title={s.outcome === 'lost' ? 'Lost: set aside, counted under failures' : undefined}
                onClick={() => {
                  setBegin(undefined)
                  setSpecimen(s.id ?? '')
                }}
              >
                {s.code}
                {sheet.pieces.length > 1 && ` ${sheet.pieces.find((p) => p.id === s.piece_id)?.name ?? ''}`}
                {s.outcome === 'lost' && ' lost'}
              </button>
            ))}
          </div>
        </fieldset>
        <label className="text-sm font-semibold">
          Instrument
          <select className="input font-normal" value={tool} onChange={(e) => setInstrument(e.target.value)}>
            {lengths.map((i) => (
              <option key={i.id} value={i.id}>
                {i.name}
              </option>
            ))}
          </select>
        </label>
        <label className="text-sm font-semibold" hidden={whole}>
          Each size is read
          <select
            className="input font-normal"
            value={way.times}
            onChange={(e) => changeWay({ ...way, times: Number(e.target.value) })}
          >
            <option value={1}>once, then the next copy</option>
            <option value={2}>twice, then the next copy</option>
            <option value={3}>3 times, then the next copy</option>
            <option value={5}>5 times, then the next copy</option>
            <option value={0}>on and on, on this copy</option>
          </select>
        </label>
        {!whole && way.times !== 1 && (
          <label className="text-sm font-semibold">
            Order
            <select
              className="input font-normal"
              value={way.inARow ? 'row' : 'rounds'}
              onChange={(e) => changeWay({ ...way, inARow: e.target.value === 'row' })}
            >
              <option value="rounds">in rounds: all sizes, then again</option>
              <option value="row">in a row: one size, then the next</option>
            </select>
          </label>
        )}
        {lengths.length === 0 && (
          <p>
            Sizes need an instrument for their uncertainty. <Link to="/kit?tab=instruments">Enter your caliper</Link>
          </p>
        )}
      </div>
      {whole && <PlateGrid sheet={sheet} instrument={tool} />}
      {!whole && specimen && features.length === 0 && (
        <Empty title="Nothing is defined to be measured on this piece">
          <Link to={`/kit/pieces/${piece?.id}`}>Say what is measured on {piece?.name}</Link>
        </Empty>
      )}
      {whole ? null : specimen ? (
        <>
          <Caliper
            key={`caliper-${specimen.id}-${turn}`}
            sheet={sheet}
            specimen={specimen}
            features={features.filter((f) => f.kind === 'dimension')}
            instrument={tool}
            way={way}
            begin={begin}
            last={last}
            kept={setLast}
            undone={(slip) => {
              setLast(undefined)
              setBegin(slip.featureID)
              setSpecimen(slip.specimenID)
              setTurn(turn + 1)
            }}
            copyDone={copyDone}
          />
          <Eye
            key={`eye-${specimen.id}`}
            sheet={sheet}
            specimen={specimen}
            features={features.filter((f) => f.kind !== 'dimension')}
          />
          <FormReadings sheet={sheet} specimen={specimen} instrument={tool} />
          {of === 'plate' && <DefectsSeen specimen={specimen} run={sheet.id} photographs={sheet.photographs} />}
          <Photographs sheet={sheet} specimen={specimen} />
          {of === 'plate' && (
            <Stages key={`stages-${specimen.id}-${sheet.stages.length}`} sheet={sheet} specimen={specimen} />
          )}
          <StressTests
            stressed={sheet.stressed.filter((s) => s.specimen_id === specimen.id)}
            code={specimen.code ?? ''}
          />
          <Ratings key={`ratings-${specimen.id}`} sheet={sheet} specimen={specimen} />
        </>
      ) : (
        <p className="text-soft">
          Every specimen of this {of} is lost; they count under failures, and no detail is judged on them.
        </p>
      )}
      <Summary sheet={sheet} of={of} />
    </>
  )
}
