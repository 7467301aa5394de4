import { useQuery } from '@tanstack/react-query'
import { Fragment } from 'react'
import { Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { useAddress } from '../../lib/address'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, percent } from '../../lib/format'
import { useMachines } from '../../lib/queries'
import { MachineFailures } from './MachineFailures'
import { Remedied } from './Remedied'

type Row = Schemas['FailureRow']
const groups = [
  { key: 'machines', label: 'By machine', what: 'Machine' },
  { key: 'resins', label: 'By resin', what: 'Resin' },
  { key: 'profiles', label: 'By settings', what: 'Settings' },
  { key: 'pieces', label: 'By piece', what: 'Piece' },
  { key: 'software', label: 'By software', what: 'Software' },
] as const

/** How often prints fail, where on the plate, and at what age of film and panel. */
export default function FailuresPage() {
  const [params, change] = useAddress()
  const rates = useQuery({ queryKey: ['failures'], queryFn: () => answer(api.GET('/api/v1/failures')) })
  const machines = useMachines()
  const by = groups.find((g) => g.key === params.get('by')) ?? groups[0]
  const machine = params.get('machine') ?? machines.data?.[0]?.machine.id ?? ''
  const set = (key: string, value: string) => change((next) => next.set(key, value))
  return (
    <Page
      title="Failures"
      about="Always two rates: all failures, and those attributed to what is judged. Accidents in washing or handling stand in a column of their own and count against neither."
    >
      <Ready of={rates}>
        {(r) =>
          r.machines.length === 0 ? (
            <Empty title="No judged print yet">
              <p>
                <Link to="/runs">Judge the plate of a print</Link>, and its failures count here.
              </p>
            </Empty>
          ) : (
            <>
              <section className="sheet grid gap-3">
                <div className="flex flex-wrap gap-2" role="group" aria-label="Counted by">
                  {groups.map((g) => (
                    <button
                      key={g.key}
                      className={`button ${g.key === by.key ? 'button-main' : ''}`}
                      aria-pressed={g.key === by.key}
                      onClick={() => set('by', g.key)}
                    >
                      {g.label}
                    </button>
                  ))}
                </div>
                <Rates rows={r[by.key]} what={by.what} />
              </section>
              <Remedied rows={r.fared} />
              <label className="max-w-80 text-sm font-semibold">
                Where and when prints fail on
                <select className="input font-normal" value={machine} onChange={(e) => set('machine', e.target.value)}>
                  {(machines.data ?? []).map((m) => (
                    <option key={m.machine.id} value={m.machine.id}>
                      {m.machine.name}
                    </option>
                  ))}
                </select>
              </label>
              {machine && <MachineFailures id={machine} />}
            </>
          )
        }
      </Ready>
    </Page>
  )
}

function Rates({ rows, what }: { rows: Row[]; what: string }) {
  const whose = rows[0]?.attributed_to ?? 'machine'
  return (
    <div className="overflow-x-auto" role="region" aria-label={`Failure rates: ${what}`} tabIndex={0}>
      <table className="rows">
        <thead>
          <tr>
            <th rowSpan={2}>{what}</th>
            <th colSpan={2}>Prints on which something failed</th>
            <th colSpan={2}>Specimens that failed</th>
            <th rowSpan={2}>Specimens marked in printing</th>
            <th rowSpan={2}>Accidents after printing</th>
          </tr>
          <tr>
            <th>all</th>
            <th>attributed to the {whose}</th>
            <th>all</th>
            <th>attributed to the {whose}</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <Fragment key={r.id}>
              <tr>
                <th scope="row" rowSpan={r.symptoms.length > 0 ? 2 : 1} className="text-left">
                  {r.name}
                  {r.few_runs && (
                    <span className="block text-sm font-normal text-soft">fewer than 3 prints: no rate yet</span>
                  )}
                </th>
                <Cell count={r.runs.failed} of={r.runs.tried} rate={r.runs.all} few={r.few_runs} />
                <Cell count={r.runs.attributed} of={r.runs.tried} rate={r.runs.attributed_rate} few={r.few_runs} />
                <Cell count={r.specimens.failed} of={r.specimens.tried} rate={r.specimens.all} few={r.few_runs} />
                <Cell
                  count={r.specimens.attributed}
                  of={r.specimens.tried}
                  rate={r.specimens.attributed_rate}
                  few={r.few_runs}
                />
                <Cell count={r.micro_n} of={r.specimens.tried} rate={r.micro_defects} few={r.few_runs} />
                <td className="num">{r.accidents}</td>
              </tr>
              {r.symptoms.length > 0 && (
                <tr>
                  <td colSpan={6} className="text-sm whitespace-normal text-soft">
                    Seen: {r.symptoms.map((s) => `${s.symptom} on ${counted(s.prints, 'print')}`).join(', ')}
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
        </tbody>
      </table>
      <p className="mt-2 text-sm text-soft">
        ◇ computed, 95 % intervals. Specimens of one plate fail together: intervals over specimens are as wide as their
        prints allow.
      </p>
    </div>
  )
}

function Cell({
  count,
  of,
  rate,
  few,
}: {
  count?: number
  of: number
  rate: Schemas['EvidenceRateResult']
  few: boolean
}) {
  return (
    <td className="num">
      {!few && (
        <span className={`block font-semibold ${rate.upper_if_none == null ? 'whitespace-nowrap' : ''}`}>
          {rate.upper_if_none != null ? (
            <>
              none; <span className="whitespace-nowrap">up to {percent(rate.upper_if_none)}</span>
            </>
          ) : (
            percent(rate.rate)
          )}
        </span>
      )}
      <span className="block text-sm whitespace-nowrap text-soft">
        {count === undefined ? `n = ${of}` : `${count} of ${of}`}
      </span>
      {!few && rate.ci && rate.upper_if_none == null && (
        <span className="block text-sm whitespace-nowrap text-soft">
          {percent(rate.ci[0])} to {percent(rate.ci[1])}
        </span>
      )}
    </td>
  )
}
