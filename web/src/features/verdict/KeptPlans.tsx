import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Complaint } from '../../components/Page'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { counted, day } from '../../lib/format'

type Kept = Schemas['KeptPlan']

const states: Record<string, string> = {
  planned: 'planned',
  under_way: 'under way',
  printed: 'printed',
  withdrawn: 'withdrawn',
}

/** The plans of a review, each with what was said when it was drawn and where its prints stand. */
export function KeptPlans({ review, sheet }: { review: Review; sheet: Schemas['PlanSheet'] }) {
  if (sheet.plans.length === 0) return null
  return (
    <section className="sheet grid gap-3" aria-label="Planned">
      <h2>Planned: {sheet.left === 0 ? 'nothing is left to print' : `${counted(sheet.left, 'print')} left`}</h2>
      {sheet.plans.map((p) => (
        <Plan key={p.plan.id} p={p} open={p.left > 0} />
      ))}
      {sheet.left > 0 && <Withdraw review={review} left={sheet.left} />}
    </section>
  )
}

function Plan({ p, open }: { p: Kept; open: boolean }) {
  const next = p.prints.find((one) => one.state === 'planned')
  return (
    <details open={open}>
      <summary className="min-h-(--tap) cursor-pointer font-semibold">
        Of {day(p.plan.created_ms ?? 0)}: {counted(p.prints.length, 'print')}, seed{' '}
        <span className="num">{p.plan.seed}</span>
        {p.left > 0 && `, ${p.left} left`}
      </summary>
      {next && (
        <p className="mt-1">
          Next on {next.machine}:{' '}
          <Link className="font-semibold text-act underline" to={`/plan/${next.plate_id}`}>
            {next.plate} {next.name}
          </Link>
        </p>
      )}
      <div
        className="mt-2 max-h-96 overflow-auto"
        tabIndex={0}
        role="group"
        aria-label={`Prints of the plan of ${day(p.plan.created_ms ?? 0)}`}
      >
        <table className="rows w-full">
          <thead>
            <tr>
              <th scope="col">Turn</th>
              <th scope="col">Machine</th>
              <th scope="col">Plate</th>
              <th scope="col">Settings</th>
              <th scope="col">State</th>
            </tr>
          </thead>
          <tbody>
            {p.prints.map((one) => (
              <tr key={one.plate_id}>
                <td className="num">{one.turn}</td>
                <td>{one.machine}</td>
                <td>
                  <Link to={`/plan/${one.plate_id}`}>
                    <span className="num">{one.plate}</span> {one.name}
                  </Link>
                </td>
                <td>{one.settings}</td>
                <td>
                  {states[one.state]}
                  {one.run && (
                    <>
                      {' '}
                      as{' '}
                      <Link className="num" to={`/runs/${one.run_id}`}>
                        {one.run}
                      </Link>
                    </>
                  )}
                  {one.early && <span className="block text-sm font-semibold">before its turn</span>}
                  {one.state === 'withdrawn' && <span className="block text-sm text-soft">{one.why}</span>}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <details className="mt-2">
        <summary className="min-h-(--tap) cursor-pointer">What was said when it was drawn</summary>
        <ul className="grid gap-1">
          {p.plan.says.map((s) => (
            <li key={s}>{s}</li>
          ))}
        </ul>
      </details>
    </details>
  )
}

function Withdraw({ review, left }: { review: Review; left: number }) {
  const [why, setWhy] = useState('')
  const withdraw = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/reviews/{id}/plan/withdraw', { params: { path: { id: review.id } }, body: { why } })),
    onSuccess: () => setWhy(''),
  })
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer">Withdraw what is left</summary>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          withdraw.mutate()
        }}
      >
        <label className="min-w-0 grow basis-60 text-sm font-semibold">
          Why these prints are not made
          <input className="input font-normal" value={why} onChange={(e) => setWhy(e.target.value)} />
        </label>
        <button className="button" disabled={why.trim() === '' || withdraw.isPending}>
          Withdraw {counted(left, 'print')}
        </button>
        {withdraw.isError && <Complaint>{withdraw.error.message}</Complaint>}
      </form>
    </details>
  )
}
