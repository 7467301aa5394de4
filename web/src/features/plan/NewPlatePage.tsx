import { useMutation } from '@tanstack/react-query'
import { FormProvider, useWatch } from 'react-hook-form'
import { Link, useNavigate, useSearchParams } from 'react-router'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n } from '../../lib/input'
import { useBottles, useMachines, useProfiles, useResins, useSettings } from '../../lib/queries'

interface Values {
  name: string
  machine_id: string
  profile_id: string
  bottle_id: string
  spacing_mm: string
  margin_mm: string
}

export default function NewPlatePage() {
  const navigate = useNavigate()
  const [params] = useSearchParams()
  const machines = useMachines()
  const profiles = useProfiles()
  const resins = useResins()
  const bottles = useBottles()
  const usual = useSettings()
  const form = useDraftForm<Values>('draft-plate', {
    name: '',
    machine_id: params.get('machine') ?? '',
    profile_id: '',
    bottle_id: '',
    spacing_mm: '2',
    margin_mm: '2',
  })
  const v = useWatch({ control: form.control })
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/plates', {
          body: {
            plate: {
              name: v.name,
              machine_id: v.machine_id,
              profile_id: v.profile_id || null,
              bottle_id: v.bottle_id || null,
              spacing_mm: n(v.spacing_mm),
              margin_mm: n(v.margin_mm),
              overlap_allowed: false,
              drip_ml: 4,
              liquid_ratio: 1,
              software: usual.data?.usual_software ?? '',
            },
            placements: [],
          },
        }),
      ),
    onSuccess: (sheet) => {
      form.forget()
      void navigate(`/plan/${sheet.plate.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  const ours = (profiles.data ?? []).filter((p) => p.machine_id === v.machine_id)
  const resinID = ours.find((p) => p.id === v.profile_id)?.resin_id
  const resinName = (id: string) => resins.data?.find((r) => r.resin.id === id)?.resin.name ?? ''
  return (
    <Page title="Lay a plate" about="Choose the machine and the settings; the pieces come next.">
      <Ready of={machines}>
        {(list) =>
          list.length === 0 ? (
            <Empty title="A plate needs a machine">
              <Link to="/kit/machines/new">Enter a machine</Link>
            </Empty>
          ) : (
            <FormProvider {...form}>
              <form className="sheet grid gap-3" onSubmit={form.handleSubmit((v) => save.mutate(v))}>
                <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
                  <TextField name="name" label="Name" hint="such as Wardens, night print" />
                  <SelectField
                    name="machine_id"
                    label="Machine"
                    empty="choose"
                    options={list.map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
                  />
                  <SelectField
                    name="profile_id"
                    label="Settings"
                    empty="choose"
                    options={ours.map((p) => ({
                      value: p.id,
                      label: `${resinName(p.resin_id)}: ${p.label}`,
                    }))}
                  />
                  <SelectField
                    name="bottle_id"
                    label="Bottle"
                    empty="none chosen"
                    options={(bottles.data ?? [])
                      .filter((b) => b.resin_id === resinID)
                      .map((b) => ({ value: b.id, label: `${b.code} ${b.lot}` }))}
                  />
                  <NumberField name="spacing_mm" label="Between pieces" unit="mm" />
                  <NumberField name="margin_mm" label="From the edge" unit="mm" />
                </div>
                {v.machine_id && profiles.data && ours.length === 0 && (
                  <p>
                    This machine has no settings yet. <Link to="/dial-in/new">Dial one in</Link> or{' '}
                    <Link to="/kit?tab=settings">enter one by hand</Link>.
                  </p>
                )}
                {save.isError && <Complaint>{save.error.message}</Complaint>}
                <div>
                  <button className="button button-main" disabled={save.isPending}>
                    Go on to the pieces
                  </button>
                </div>
              </form>
            </FormProvider>
          )
        }
      </Ready>
    </Page>
  )
}
