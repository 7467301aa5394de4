import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider, useWatch } from 'react-hook-form'
import { Link } from 'react-router'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint, Ready } from '../../components/Page'
import { answer, api } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure } from '../../lib/format'
import { n } from '../../lib/input'
import { useMachines, useProfiles, useResins } from '../../lib/queries'

/** Settings by machine, resin and layer height. Those used by a print never change. */
export function ProfilePanel() {
  const profiles = useProfiles()
  const machines = useMachines()
  const resins = useResins()
  const [adding, setAdding] = useState(false)
  const machine = (id: string) => machines.data?.find((m) => m.machine.id === id)?.machine.name
  const resin = (id: string) => resins.data?.find((r) => r.resin.id === id)?.resin.name
  return (
    <section className="grid justify-items-start gap-3">
      <div className="flex flex-wrap gap-2">
        <Link to="/dial-in/new" className="button button-main">
          Dial in an exposure
        </Link>
        <button className="button" onClick={() => setAdding(!adding)} aria-expanded={adding}>
          Enter settings by hand
        </button>
      </div>
      {adding && <ProfileForm done={() => setAdding(false)} />}
      <Ready of={profiles}>
        {(list) => (
          <div className="sheet w-full overflow-x-auto">
            <table className="rows">
              <thead>
                <tr>
                  <th>Set-up</th>
                  <th>Layer, µm</th>
                  <th>Exposure, s</th>
                  <th>Bottom</th>
                  <th>Basis</th>
                  <th>Note</th>
                </tr>
              </thead>
              <tbody>
                {list.map((p) => (
                  <tr key={p.id}>
                    <td>
                      <span className="num text-soft">{p.code}</span> {machine(p.machine_id)}, {resin(p.resin_id)}
                    </td>
                    <td className="num">{p.layer_um}</td>
                    <td className="num">{p.exposure_s === null ? 'hidden' : figure(p.exposure_s)}</td>
                    <td className="num">
                      {p.bottom_layers} × {figure(p.bottom_exposure_s)}
                    </td>
                    <td>{p.basis === 'sealed' ? `sealed: ${p.sealed_name}` : p.basis}</td>
                    <td className="text-sm text-soft">{p.note}</td>
                  </tr>
                ))}
                {list.length === 0 && (
                  <tr>
                    <td colSpan={6}>
                      No settings yet. A series finds them; a maker's default or a sealed profile is entered by hand.
                    </td>
                  </tr>
                )}
              </tbody>
            </table>
          </div>
        )}
      </Ready>
    </section>
  )
}

const blank = {
  machine_id: '',
  resin_id: '',
  basis: 'default',
  sealed_name: '',
  layer_um: '50',
  exposure_s: '',
  bottom_layers: '5',
  bottom_exposure_s: '30',
  transition_layers: '0',
  antialiasing: 'none',
  note: '',
}

function ProfileForm({ done }: { done: () => void }) {
  const machines = useMachines()
  const resins = useResins()
  const form = useDraftForm('draft-profile', blank)
  const basis = useWatch({ control: form.control, name: 'basis' })
  const save = useMutation({
    mutationFn: (v: typeof blank) =>
      answer(
        api.POST('/api/v1/profiles', {
          body: {
            machine_id: v.machine_id,
            resin_id: v.resin_id,
            basis: v.basis as 'default',
            sealed_name: v.sealed_name,
            layer_um: n(v.layer_um),
            exposure_s: basis === 'sealed' ? null : n(v.exposure_s),
            bottom_layers: n(v.bottom_layers),
            bottom_exposure_s: basis === 'sealed' ? null : n(v.bottom_exposure_s),
            transition_layers: n(v.transition_layers),
            antialiasing: v.antialiasing,
            note: v.note,
          },
        }),
      ),
    onSuccess: () => {
      form.forget()
      done()
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="sheet grid w-full gap-3"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
        aria-label="Settings by hand"
      >
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <SelectField
            name="machine_id"
            label="Machine"
            empty="choose"
            options={(machines.data ?? []).map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
          />
          <SelectField
            name="resin_id"
            label="Resin"
            empty="choose"
            options={(resins.data ?? []).map((r) => ({ value: r.resin.id ?? '', label: r.resin.name }))}
          />
          <SelectField
            name="basis"
            label="Basis"
            options={[
              { value: 'default', label: "maker's default" },
              { value: 'borrowed', label: 'borrowed from another machine' },
              { value: 'sealed', label: 'sealed: the maker hides it' },
            ]}
          />
          <NumberField name="layer_um" label="Layer height" unit="µm" />
          {basis === 'sealed' ? (
            <TextField name="sealed_name" label="Name of the sealed profile" />
          ) : (
            <>
              <NumberField name="exposure_s" label="Exposure" unit="s" />
              <NumberField name="bottom_layers" label="Bottom layers" />
              <NumberField name="bottom_exposure_s" label="Bottom exposure" unit="s" />
              <NumberField name="transition_layers" label="Transition layers" />
            </>
          )}
          <TextField name="antialiasing" label="Anti-aliasing" />
          <TextField name="note" label="Where it comes from" />
        </div>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={save.isPending}>
            Keep these settings
          </button>
        </div>
      </form>
    </FormProvider>
  )
}
