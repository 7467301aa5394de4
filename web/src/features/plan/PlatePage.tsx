import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { History } from '../../components/History'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type PlateSheet } from '../../lib/api'
import { day } from '../../lib/format'
import { usePlate } from '../../lib/queries'
import { CellsPanel, CostPanel, ResinPanel, TimePanel, WearPanel, WeekPanel } from './Panels'
import { Layout } from './Layout'
import { PlateSettings } from './PlateSettings'

export default function PlatePage() {
  const { id = '' } = useParams()
  const plate = usePlate(id)
  return <Ready of={plate}>{(s) => <Sheet key={id} sheet={s} />}</Ready>
}

function Sheet({ sheet: s }: { sheet: PlateSheet }) {
  const client = useQueryClient()
  const navigate = useNavigate()
  const printed = s.runs.length > 0
  const id = s.plate.id ?? ''
  const save = useMutation({
    mutationFn: (body: { plate: PlateSheet['plate']; placements: PlateSheet['placed'][number]['placement'][] }) =>
      answer(api.PUT('/api/v1/plates/{id}', { params: { path: { id } }, body })),
    onSuccess: (saved) => client.setQueryData(['plates', id], saved),
  })
  const copy = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/plates', {
          body: {
            plate: { ...s.plate, id: '', code: '', version: 0, name: `${s.plate.name} (again)` },
            placements: s.placed.map((l) => l.placement),
          },
        }),
      ),
    onSuccess: (made) => void navigate(`/plan/${made.plate.id}`),
  })
  const withdraw = useMutation({
    mutationFn: (why: string) =>
      answer(
        api.POST('/api/v1/plates/{id}/withdraw', {
          params: { path: { id } },
          body: { version: s.plate.version ?? 0, why },
        }),
      ),
    onSuccess: (saved) => client.setQueryData(['plates', id], saved),
  })
  const open = !printed && s.plate.archived_ms == null
  return (
    <Page
      title={`${s.plate.code}: ${s.plate.name}`}
      about={`${s.machine.name}, ${s.resin.name}, ${s.settings}`}
      actions={
        s.placed.length > 0 && (
          <>
            <a className="button" href={`/api/v1/plates/${id}/export?format=stl`} download>
              STL
            </a>
            <a className="button" href={`/api/v1/plates/${id}/export?format=3mf`} download>
              3MF
            </a>
            <Link className="button" to={`/plan/${id}/sheet`}>
              {s.series ? 'Reading sheet' : 'Plate sheet'}
            </Link>
            {s.profile && open && (
              <>
                <Link className="button" to={`/runs/new?machine=${s.machine.id}&plate=${id}`}>
                  Record it afterwards
                </Link>
                <Link className="button button-main" to={`/runs/prepare?plate=${id}`}>
                  Prepare the print
                </Link>
              </>
            )}
          </>
        )
      }
    >
      {printed && (
        <p className="sheet flex flex-wrap items-center gap-3">
          Printed as{' '}
          {s.runs.map((r, i) => (
            <Link key={r} to={`/runs/${s.run_ids[i]}`}>
              {r}
            </Link>
          ))}
          ; its specimens refer to it, so it stays as it was.
          <button className="button" onClick={() => copy.mutate()} disabled={copy.isPending}>
            Copy it to a new plate
          </button>
        </p>
      )}
      {s.plate.archived_ms != null && (
        <p className="sheet flex flex-wrap items-center gap-3">
          Withdrawn on {day(s.plate.archived_ms)}: {s.plate.archived_why}
          <button className="button" onClick={() => withdraw.mutate('')} disabled={withdraw.isPending}>
            Bring it back
          </button>
        </p>
      )}
      {s.plate.plan_turn != null && (
        <p className="sheet">
          Print {s.plate.plan_turn} of its machine in the drawn order of a review’s plan; print it in its turn.
        </p>
      )}
      {withdraw.isError && <Complaint>{withdraw.error.message}</Complaint>}
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      <Layout
        sheet={s}
        locked={printed}
        save={(placements) => save.mutate({ plate: s.plate, placements })}
        busy={save.isPending}
      />
      {s.placed.length > 0 && (
        <>
          <div className="grid gap-4 lg:grid-cols-2">
            <TimePanel s={s} />
            <ResinPanel s={s} />
            <WearPanel s={s} />
            <div className="grid content-start gap-4">
              <CostPanel s={s} />
              <CellsPanel s={s} />
            </div>
          </div>
          <WeekPanel s={s} />
        </>
      )}
      {!printed && (
        <PlateSettings
          key={s.plate.version}
          sheet={s}
          save={(plate) => save.mutate({ plate, placements: s.placed.map((l) => l.placement) })}
        />
      )}
      {open && <Withdraw busy={withdraw.isPending} withdraw={withdraw.mutate} />}
      <History kind="plate" id={id} />
    </Page>
  )
}

/** A plate that will not be printed leaves the cords; it stays on record with its reason. */
function Withdraw({ busy, withdraw }: { busy: boolean; withdraw: (why: string) => void }) {
  const [why, setWhy] = useState('')
  return (
    <details className="no-print">
      <summary className="min-h-(--tap) cursor-pointer">It will not be printed</summary>
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault()
          withdraw(why)
        }}
      >
        <label className="min-w-0 grow basis-60 text-sm font-semibold">
          Why not
          <input className="input font-normal" value={why} onChange={(e) => setWhy(e.target.value)} />
        </label>
        <button className="button" disabled={busy || why.trim() === ''}>
          Withdraw the plate
        </button>
      </form>
    </details>
  )
}
