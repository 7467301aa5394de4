import { useState } from 'react'
import { Link, useSearchParams } from 'react-router'
import { Empty } from '../../components/Page'
import { useInstruments } from '../../lib/queries'
import { Caliper } from './Caliper'
import { Eye } from './Eye'
import type { InHand } from './inHand'
import { Photographs } from './Photographs'
import { Ratings } from './Ratings'
import { Summary } from './Summary'

/** The copies of a print or a reference, one in hand: its sizes, ladders and checkpoints, and what they say together. */
export function Readings({ sheet, of }: { sheet: InHand; of: string }) {
  const instruments = useInstruments()
  const [params] = useSearchParams()
  const [specimenID, setSpecimen] = useState(
    params.get('specimen') ?? sheet.specimens.find((s) => s.outcome !== 'lost')?.id ?? '',
  )
  const [instrument, setInstrument] = useState('')
  const inHand = sheet.specimens.find((s) => s.id === specimenID)
  const piece = sheet.pieces.find((p) => p.id === inHand?.piece_id) ?? sheet.pieces[0]
  const features = sheet.features.filter((f) => f.retired_ms == null && f.piece_id === piece?.id)
  const tool = instrument || (instruments.data?.[0]?.id ?? '')
  const specimen = sheet.specimens.find((s) => s.id === specimenID)
  return (
    <>
      <div className="sheet flex flex-wrap items-end gap-4">
        <fieldset>
          <legend className="text-sm font-semibold">Specimen in hand</legend>
          <div className="flex flex-wrap gap-2">
            {sheet.specimens.map((s) => (
              <button
                key={s.id}
                className={`button num ${s.id === specimenID ? 'button-main' : ''}`}
                aria-pressed={s.id === specimenID}
                disabled={s.outcome === 'lost'}
                title={s.outcome === 'lost' ? 'Lost: set aside, counted under failures' : undefined}
                onClick={() => setSpecimen(s.id ?? '')}
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
            {(instruments.data ?? []).map((i) => (
              <option key={i.id} value={i.id}>
                {i.name}
              </option>
            ))}
          </select>
        </label>
        {instruments.data?.length === 0 && (
          <p>
            Sizes need an instrument for their uncertainty. <Link to="/kit?tab=instruments">Enter your caliper</Link>
          </p>
        )}
      </div>
      {specimen && features.length === 0 && (
        <Empty title="Nothing is defined to be measured on this piece">
          <Link to={`/kit/pieces/${piece?.id}`}>Say what is measured on {piece?.name}</Link>
        </Empty>
      )}
      {specimen ? (
        <>
          <Caliper
            key={`caliper-${specimen.id}`}
            sheet={sheet}
            specimen={specimen}
            features={features.filter((f) => f.kind === 'dimension')}
            instrument={tool}
          />
          <Eye
            key={`eye-${specimen.id}`}
            sheet={sheet}
            specimen={specimen}
            features={features.filter((f) => f.kind !== 'dimension')}
          />
          <Photographs sheet={sheet} specimen={specimen} />
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
