import { How } from '../../components/How'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { useNavigate } from 'react-router'
import { Figure, Warnings } from '../../components/Figure'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas, type SeriesSheet } from '../../lib/api'
import { figure, micrometres } from '../../lib/format'
import { n, t } from '../../lib/input'

type Result = Schemas['ExposureSeriesResult']

/** What the three schools say, which is recommended and why, and what to print next. */
export function Answers({ sheet, result }: { sheet: SeriesSheet; result: Result }) {
  const judged = sheet.cells.filter((c) => c.reading).length
  const { fit, detail, survival, recommended: rec } = result
  return (
    <div className="grid gap-4 lg:grid-cols-2">
      <section className="sheet grid content-start gap-3">
        <div className="flex flex-wrap items-center justify-between gap-x-4">
          <h2>Three schools</h2>
          <How figure="exposure" of="Three schools" />
        </div>
        <dl className="grid gap-3">
          <Figure
            label="Detail: pins and gaps resolve alike"
            value={figure(detail?.exposure_s)}
            unit="s"
            n={judged}
            source="computed"
            note={detail ? `both down to ${figure(detail.resolved_mm)} mm` : 'needs pins and gaps at three exposures'}
          />
          <Figure
            label="Fit: dimensions come out right"
            value={figure(fit?.exposure_s)}
            unit="s"
            n={judged}
            interval={fit?.ci ? [`${figure(fit.ci[0])} s`, `${figure(fit.ci[1])} s`] : null}
            source="computed"
            note={
              fit
                ? [
                    fit.outer_at_mm !== null && `outer ${micrometres(fit.outer_at_mm)}`,
                    fit.inner_at_mm !== null && `inner ${micrometres(fit.inner_at_mm)}`,
                  ]
                    .filter(Boolean)
                    .join(', ')
                : 'needs errors at three exposures'
            }
          />
          <Figure
            label="Survival: all comes off whole"
            value={figure(survival?.exposure_s)}
            unit="s"
            n={judged}
            source="computed"
            note={survival?.lowest_s ? `whole from ${figure(survival.lowest_s)} s upward` : 'nothing whole yet'}
          />
        </dl>
      </section>
      <section className="sheet grid content-start gap-3" aria-live="polite">
        <h2>Recommended</h2>
        {rec ? (
          <>
            <dl>
              <Figure
                label={`Dial this, by ${rec.school}`}
                value={figure(rec.dial_s)}
                unit="s"
                source="computed"
                note={`exactly ${figure(rec.exposure_s, 4)} s`}
              />
            </dl>
            <p>{rec.reason}</p>
          </>
        ) : (
          <p>No choice can be made from these readings yet.</p>
        )}
        <Warnings list={result.warnings} />
        <NextPrint sheet={sheet} next={result.next} />
        <Accept key={rec?.dial_s ?? 0} sheet={sheet} dial={rec?.dial_s} />
      </section>
    </div>
  )
}

const reasons: Record<string, string> = {
  accept: 'The series carries this choice; accept it.',
  repeat: 'Too little is judged: print the same range again in five cells.',
  extend: 'The answer lies outside what was tested: go on there.',
  narrow: 'The range is right but coarse: print a finer one about the choice.',
}

function NextPrint({ sheet, next }: { sheet: SeriesSheet; next: Result['next'] }) {
  const navigate = useNavigate()
  const s = sheet.series
  const again = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/series', {
          body: {
            machine_id: s.machine_id,
            resin_id: s.resin_id,
            layer_um: s.layer_um,
            school: s.school,
            from_s: next.from_s ?? 0,
            step_s: next.step_s ?? 0,
            cells: 5,
            bottom_layers: s.bottom_layers,
            bottom_exposure_s: s.bottom_exposure_s,
            transition_layers: s.transition_layers,
            origin: `${next.action} of ${s.code}`,
          },
        }),
      ),
    onSuccess: (made) => void navigate(`/dial-in/${made.series.id}`),
  })
  return (
    <div className="border-t border-line pt-2">
      <h3>Next: {next.action}</h3>
      <p>{reasons[next.action]}</p>
      {next.action !== 'accept' && (
        <>
          <p className="num">
            {figure(next.from_s)} to {figure(next.to_s)} s in steps of {figure(next.step_s)} s
          </p>
          <button className="button mt-2" disabled={again.isPending} onClick={() => again.mutate()}>
            Plan these five cells
          </button>
          {again.isError && <Complaint>{again.error.message}</Complaint>}
        </>
      )}
    </div>
  )
}

function Accept({ sheet, dial }: { sheet: SeriesSheet; dial?: number }) {
  const [exposure, setExposure] = useState(t(dial === undefined ? '' : Number(dial.toFixed(3))))
  const [antialiasing, setAntialiasing] = useState('none')
  const accept = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/series/{id}/accept', {
          params: { path: { id: sheet.series.id ?? '' } },
          body: { exposure_s: n(exposure), antialiasing },
        }),
      ),
  })
  return (
    <form
      className="grid items-end gap-3 border-t border-line pt-2 sm:grid-cols-3"
      onSubmit={(e) => {
        e.preventDefault()
        accept.mutate()
      }}
    >
      <label className="text-sm font-semibold">
        Exposure <span className="num font-normal text-soft">s</span>
        <input
          className="input num font-normal"
          inputMode="decimal"
          value={exposure}
          onChange={(e) => setExposure(e.target.value)}
        />
      </label>
      <label className="text-sm font-semibold">
        Anti-aliasing
        <input className="input font-normal" value={antialiasing} onChange={(e) => setAntialiasing(e.target.value)} />
      </label>
      <button className="button button-main" disabled={accept.isPending || exposure === ''}>
        {sheet.profile ? 'Accept anew' : 'Accept as calibrated'}
      </button>
      {accept.isError && <Complaint>{accept.error.message}</Complaint>}
    </form>
  )
}
