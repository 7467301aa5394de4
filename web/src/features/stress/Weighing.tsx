import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { figure } from '../../lib/format'
import { n, t } from '../../lib/input'
import type { StressSheet } from './StressPage'

type Measure = keyof Schemas['Weighed'] & ('mass_g' | 'width_mm' | 'thickness_mm')

const names: Record<Measure, { label: string; unit: string }> = {
  mass_g: { label: 'Mass', unit: 'g' },
  width_mm: { label: 'Width', unit: 'mm' },
  thickness_mm: { label: 'Thickness', unit: 'mm' },
}

/** What is measured of each specimen for its series: its mass for the energy of a fall, or the section of a bar. */
export function Weighing({ s }: { s: StressSheet }) {
  const asked: Measure[] = s.measured ? ['width_mm', 'thickness_mm'] : ['mass_g']
  const missing = s.members.filter((m) => asked.some((a) => m[a] === null)).length
  return (
    <details className="sheet" open={s.measured && missing > 0}>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {s.measured ? 'Width and thickness of each bar' : 'Mass of each specimen, for the energy of its fall'}
        <span className="ml-2 font-normal text-soft">{missing === 0 ? 'all measured' : `${missing} still to do`}</span>
      </summary>
      <div className="relative overflow-x-auto">
        <table className="rows">
          <caption className="sr-only">Enter goes to the next</caption>
          <thead>
            <tr>
              <th scope="col">Specimen</th>
              {asked.map((a) => (
                <th key={a} scope="col">
                  {names[a].label}, {names[a].unit} ●
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {s.members.map((m) => (
              <tr key={m.id}>
                <th scope="row" className="num font-normal whitespace-nowrap">
                  {m.code}
                </th>
                {asked.map((a) => (
                  <Cell key={a} s={s} m={m} what={a} />
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {!s.measured && s.set_ups.some((u) => u.mean_mass_g !== null) && (
        <p className="mt-2 text-sm text-soft">
          {s.set_ups
            .filter((u) => u.mean_mass_g !== null)
            .map((u) => `${u.label}: ${figure(u.mean_mass_g)} g in the mean`)
            .join('; ')}
          .
        </p>
      )}
    </details>
  )
}

/** One box; Enter keeps it and goes to the next. */
function Cell({ s, m, what }: { s: StressSheet; m: StressSheet['members'][number]; what: Measure }) {
  const id = s.series.id ?? ''
  const client = useQueryClient()
  const [typed, setTyped] = useState(t(m[what]))
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/stress-series/{id}/specimens/{member_id}', {
          params: { path: { id, member_id: m.id } },
          body: { [what]: n(typed) },
        }),
      ),
    onMutate: () => client.cancelQueries({ queryKey: ['stress', id] }),
    onSuccess: (after) => client.setQueryData(['stress', id], after),
  })
  const keep = () => {
    if (typed.trim() !== '' && n(typed) !== m[what]) save.mutate()
  }
  return (
    <td>
      <input
        className="input num w-28"
        inputMode="decimal"
        autoComplete="off"
        aria-label={`${names[what].label} of ${m.code}, ${names[what].unit}`}
        data-unit={names[what].unit}
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={keep}
        onKeyDown={(e) => {
          if (e.key !== 'Enter') return
          e.preventDefault()
          const boxes = [...(e.currentTarget.closest('table')?.querySelectorAll('input') ?? [])]
          const next = boxes[boxes.indexOf(e.currentTarget) + 1]
          if (next) next.focus()
          else e.currentTarget.blur()
        }}
      />
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </td>
  )
}
