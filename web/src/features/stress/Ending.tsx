import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api } from '../../lib/api'
import { counted, day } from '../../lib/format'
import type { StressSheet } from './StressPage'

const useKept = () => {
  const client = useQueryClient()
  return (after: StressSheet) => client.setQueryData(['stress', after.series.id], after)
}

/** A series may end before all of it is tested; its reason stands wherever the series is named. */
export function EndEarly({ s }: { s: StressSheet }) {
  const [why, setWhy] = useState('')
  const kept = useKept()
  const end = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/stress-series/{id}/ending', {
          params: { path: { id: s.series.id ?? '' } },
          body: { why },
        }),
      ),
    onSuccess: kept,
  })
  return (
    <details className="sheet">
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        End it before all is tested
      </summary>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          end.mutate()
        }}
      >
        <label className="text-sm font-semibold">
          Why it ends
          <input className="input font-normal" value={why} onChange={(e) => setWhy(e.target.value)} />
        </label>
        <button className="button" disabled={end.isPending}>
          End this series
        </button>
        <p className="w-full text-sm text-soft">
          What was tested counts. Specimens that were not stay fresh for another series.
        </p>
        {end.isError && <Complaint>{end.error.message}</Complaint>}
      </form>
    </details>
  )
}

/** That a series was ended, and why. */
export function Ended({ s }: { s: StressSheet }) {
  const kept = useKept()
  const goOn = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/stress-series/{id}/going-on', { params: { path: { id: s.series.id ?? '' } } })),
    onSuccess: kept,
  })
  const tested = s.steps.filter((step) => step.test).length
  return (
    <section className="sheet flex flex-wrap items-center justify-between gap-3" aria-label="Its end">
      <p>
        <strong>Ended</strong> on {day(s.series.ended_ms ?? 0)} after {counted(tested, 'test')} of {s.steps.length}:{' '}
        {s.series.ended_why}
      </p>
      <button type="button" className="button" disabled={goOn.isPending} onClick={() => goOn.mutate()}>
        Go on with it
      </button>
      {goOn.isError && <Complaint>{goOn.error.message}</Complaint>}
    </section>
  )
}
