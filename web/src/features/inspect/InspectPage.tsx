import { useState } from 'react'
import { Link, useParams, useSearchParams } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import type { RunSheet } from '../../lib/api'
import { useInstruments, useRunSheet } from '../../lib/queries'
import { Caliper } from './Caliper'
import { Eye } from './Eye'
import { Summary } from './Summary'

export default function InspectPage() {
  const { id = '' } = useParams()
  const sheet = useRunSheet(id)
  return (
    <Ready of={sheet}>
      {(s) => (
        <Page
          title={`Inspect ${s.run.code}`}
          about={`${s.printed} from ${s.machine.name} in ${s.resin.name}`}
          actions={
            <Link className="button" to={`/runs/${s.run.id}`}>
              Back to the run
            </Link>
          }
        >
          <Readings sheet={s} />
        </Page>
      )}
    </Ready>
  )
}

function Readings({ sheet }: { sheet: RunSheet }) {
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
  if (features.length === 0) {
    return (
      <Empty title="Nothing is defined to be measured on this piece">
        <Link to={`/kit/pieces/${piece?.id}`}>Say what is measured on {piece?.name}</Link>
      </Empty>
    )
  }
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
        </>
      ) : (
        <p className="text-soft">
          Every specimen of this plate is lost; they count under failures, and no detail is judged on them.
        </p>
      )}
      <Summary sheet={sheet} />
    </>
  )
}
