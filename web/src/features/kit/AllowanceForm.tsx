import { useMutation } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { DraftOffer } from '../../components/DraftOffer'
import { NumberField } from '../../components/Field'
import { Figure } from '../../components/Figure'
import { Complaint } from '../../components/Page'
import { ProgressBar } from '../../components/ProgressBar'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure } from '../../lib/format'
import { n, t } from '../../lib/input'
import { useTask } from '../../lib/task'

const keys = ['support_pct', 'support_ml', 'raft_ml', 'hollow_wall_mm', 'finest_mm', 'relief_mm'] as const
type Values = Record<(typeof keys)[number], string>

/** What a print of the piece needs beyond it, and what only the reviewer knows of it. */
export function AllowanceForm({ piece: p }: { piece: Schemas['Piece'] }) {
  const form = useDraftForm<Values>(
    `draft-allowances-${p.id}`,
    Object.fromEntries(keys.map((k) => [k, t(p[k])])) as Values,
    p.version,
  )
  const task = useTask()
  const save = useMutation({
    mutationFn: (v: Values) =>
      task.run({ stage: 'working it out', share: null }, ({ job, signal, ask }) => {
        ask()
        return answer(
          api.PUT('/api/v1/pieces/{id}/allowances', {
            params: { path: { id: p.id ?? '' }, query: { job } },
            signal,
            body: {
              version: p.version ?? 0,
              support_pct: n(v.support_pct) ?? 0,
              support_ml: n(v.support_ml) ?? 0,
              raft_ml: n(v.raft_ml) ?? 0,
              hollow_wall_mm: n(v.hollow_wall_mm),
              finest_mm: n(v.finest_mm),
              relief_mm: n(v.relief_mm),
            },
          }),
        )
      }),
    onSuccess: () => form.forget(),
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form className="sheet grid gap-3" onSubmit={form.handleSubmit((v) => save.mutate(v))} aria-label="Allowances">
        <h2>What a print of it needs besides</h2>
        <DraftOffer old={form.old} />
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          <NumberField name="support_pct" label="Supports" unit="% of the volume" />
          <NumberField name="support_ml" label="and supports" unit="ml" />
          <NumberField name="raft_ml" label="Raft" unit="ml" />
          <NumberField name="hollow_wall_mm" label="Hollowed to a wall of" unit="mm" optional />
          <NumberField name="finest_mm" label="Finest feature, as you know it" unit="mm" optional />
          <NumberField name="relief_mm" label="which stands out by" unit="mm" optional />
        </div>
        {p.hollow_wall_mm != null && (
          <dl>
            <Figure
              label={`Hollowing to ${figure(p.hollow_wall_mm)} mm leaves out`}
              value={figure(p.hollow_ml)}
              unit="ml"
              source="estimated"
              note={`of ${figure(p.volume_ml)} ml, on a grid of cubes; drain holes are not in it`}
            />
          </dl>
        )}
        {task.progress && <ProgressBar of={task.progress} name={p.name} stop={task.stop} />}
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div>
          <button className="button" disabled={save.isPending}>
            Save what it needs
          </button>
        </div>
      </form>
    </FormProvider>
  )
}
