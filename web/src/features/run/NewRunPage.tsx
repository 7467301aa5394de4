import { useQuery } from '@tanstack/react-query'
import { useSearchParams, Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { answer, api, type PlateSheet, type Schemas } from '../../lib/api'
import { useMachines, usePieces, usePlate } from '../../lib/queries'
import { RunForm } from './RunForm'

export default function NewRunPage() {
  const [params, setParams] = useSearchParams()
  const machines = useMachines()
  const pieces = usePieces()
  const machineID = params.get('machine') ?? ''
  const plateID = params.get('plate') ?? ''
  const plate = usePlate(plateID)
  const draft = useQuery({
    queryKey: ['draft', machineID],
    enabled: machineID !== '',
    // A draft is taken anew each time the page opens, since a print or a knot may
    // have come between, and once: it must not change under the hands.
    staleTime: Infinity,
    gcTime: 0,
    queryFn: () => answer(api.GET('/api/v1/run-draft', { params: { query: { machine_id: machineID } } })),
  })
  const from = draft.data?.carried_from
  const never = machines.data?.find((m) => m.machine.id === machineID)?.machine.not_known
  return (
    <Page
      title="Record a print"
      about={
        from
          ? `Carried over from ${from}; the condition of the machine is computed. Temperatures, weight and times are measured anew.`
          : 'What carries over from the last print will stand here from the second one on.'
      }
    >
      <Ready of={machines}>
        {(list) =>
          list.length === 0 || pieces.data?.length === 0 ? (
            <Empty title="A print needs a machine and a piece">
              <Link to="/kit/machines/new">Enter a machine</Link>
              <Link to="/kit/pieces/new">Import a piece</Link>
            </Empty>
          ) : (
            <label className="sheet block text-sm font-semibold">
              Machine
              <select
                className="input font-normal"
                value={machineID}
                onChange={(e) => setParams(e.target.value ? { machine: e.target.value } : {}, { replace: true })}
              >
                <option value="">choose the machine that printed</option>
                {list.map((m) => (
                  <option key={m.machine.id} value={m.machine.id}>
                    {m.machine.code} {m.machine.name}
                  </option>
                ))}
              </select>
            </label>
          )
        }
      </Ready>
      {machineID !== '' && (
        <Ready of={draft}>
          {(d) =>
            plateID === '' ? (
              <RunForm
                key={machineID}
                draft={d.run}
                pieces={d.pieces}
                condition={d.condition}
                never={never}
                draftKey={`draft-run-${machineID}`}
              />
            ) : (
              <Ready of={plate}>
                {(p) => (
                  <RunForm
                    key={plateID}
                    draft={fromPlate(d.run, p)}
                    pieces={[]}
                    condition={d.condition}
                    never={never}
                    plate={p}
                    draftKey={`draft-run-plate-${plateID}`}
                  />
                )}
              </Ready>
            )
          }
        </Ready>
      )}
    </Page>
  )
}

/** What a plate says of the run: its settings, bottle, software and copies. */
const fromPlate = (run: Schemas['Run'], s: PlateSheet): Schemas['Run'] => ({
  ...run,
  plate_id: s.plate.id,
  profile_id: s.profile?.id ?? run.profile_id,
  resin_id: s.resin.id ?? run.resin_id,
  bottle_id: s.plate.bottle_id ?? null,
  software: s.plate.software || run.software,
  software_estimate_s: s.plate.software_estimate_s ?? null,
})
