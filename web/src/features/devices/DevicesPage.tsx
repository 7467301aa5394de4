import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { SelectField, TextField } from '../../components/Field'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { duration, grouped, words } from '../../lib/format'
import { orNull } from '../../lib/input'
import { useMachines } from '../../lib/queries'
import { unitOf } from '../../lib/reading'
import { StandIns } from './StandIns'
import { valuesOf, type Kind } from '../../lib/choices'

/** How often what devices sent is looked at, in ms. */
const lookEvery = 2000
const kinds = valuesOf<Kind<'Device', 'kind'>>({
  printer: true,
  caliper: true,
  scale: true,
  thermometer: true,
  light_meter: true,
  noise_meter: true,
})

/** What sends readings and progress in, how well its messages arrive, and stand-ins to try it with. */
export default function DevicesPage() {
  const devices = useQuery({
    queryKey: ['devices'],
    refetchInterval: lookEvery,
    queryFn: () => answer(api.GET('/api/v1/devices')),
  })
  const [made, setMade] = useState<Schemas['DeviceMade']>()
  return (
    <Page
      title="Devices"
      about="Printers tell their state and layer, instruments their readings. A caliper or scale that types like a keyboard needs no entry here."
    >
      {made && (
        <section className="sheet border-l-4 border-l-act" aria-live="polite">
          <h2>The token of {made.device.name}</h2>
          <p className="num my-2 text-lg break-all select-all">{made.token}</p>
          <p className="text-soft">
            It is shown this once; the program keeps only a hash of it. The device sends it with every message, as
            docs/devices.md says.
          </p>
        </section>
      )}
      <Ready of={devices}>
        {(list) => (
          <section className="sheet grid gap-4">
            <h2>On record</h2>
            {list.length === 0 && <p className="text-soft">No device yet. Enter one below, or start a stand-in.</p>}
            {list.map((d) => (
              <Device key={d.device.id} d={d} setMade={setMade} />
            ))}
          </section>
        )}
      </Ready>
      <NewDevice setMade={setMade} />
      <StandIns />
    </Page>
  )
}

function Device({ d, setMade }: { d: Schemas['DeviceCard']; setMade: (m: Schemas['DeviceMade']) => void }) {
  const [all, setAll] = useState(false)
  const id = d.device.id ?? ''
  const renew = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/devices/{id}/tokens', { params: { path: { id } } })),
    onSuccess: setMade,
  })
  const retire = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/devices/{id}/retirement', { params: { path: { id } } })),
  })
  const last = d.last[0]
  const s = d.sessions[0]
  return (
    <article className="grid gap-2 border-t border-line pt-3 first-of-type:border-t-0 first-of-type:pt-0">
      <h3>
        <span className="num font-normal text-soft">{d.device.code}</span> {d.device.name}{' '}
        <span className="font-normal text-soft">
          {words(d.device.kind)}
          {d.machine && ` of ${d.machine}`}
          {d.device.stand_in && ', a stand-in: nothing it says is measured'}
          {d.device.retired_ms != null && ', retired'}
        </span>
      </h3>
      {last ? (
        <p>
          <span className="num text-xl font-semibold">
            {last.kind === 'reading' ? `${last.value} ${unitOf(last)}` : words(last.state)}
          </span>
          {last.layer != null && <span className="num"> layer {grouped(last.layer)}</span>}
          {last.note && ` (${last.note})`}
          <span className="text-soft">, {duration(d.silent_s)} ago</span>
        </p>
      ) : (
        <p className="text-soft">Nothing came in yet.</p>
      )}
      {s && (
        <p className="text-sm">
          This session: <span className="num">{grouped(s.received)}</span> received,{' '}
          <strong className={s.lost > 0 ? 'text-bad' : 'font-normal'}>
            <span className="num">{s.lost}</span> lost
          </strong>
          , <span className="num">{s.doubled}</span> doubled (kept once), <span className="num">{s.late}</span> late,{' '}
          <span className="num">{s.disordered}</span> out of order.
          {d.sessions.length > 1 && ` ${d.sessions.length - 1} earlier sessions.`}
        </p>
      )}
      {(d.device.set_aside ?? 0) > 0 && (
        <p className="border-l-4 border-bad pl-2">
          <span className="num">{grouped(d.device.set_aside ?? 0)}</span> messages made no sense and were set aside. The
          last: {d.device.set_aside_why}.
        </p>
      )}
      {all && (
        <div className="overflow-x-auto">
          <table className="rows">
            <thead>
              <tr>
                <th>Message</th>
                <th>Sent, by its clock</th>
                <th>On the way</th>
                <th>Says</th>
              </tr>
            </thead>
            <tbody>
              {d.last.map((m) => (
                <tr key={`${m.session}-${m.seq}`}>
                  <td className="num">{m.seq}</td>
                  <td className="num">{new Date(m.at_ms).toLocaleTimeString('en-GB')}</td>
                  <td className="num">{grouped(m.received_ms - m.at_ms)} ms</td>
                  <td>
                    {m.kind === 'reading' ? `${m.value} ${unitOf(m)}` : words(m.state)}
                    {m.layer != null && ` layer ${m.layer}`} {m.note}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <div className="flex flex-wrap gap-2">
        {last && (
          <button className="button" aria-expanded={all} onClick={() => setAll(!all)}>
            {all ? 'Hide its messages' : 'Its last messages'}
          </button>
        )}
        {!d.device.stand_in && (
          <>
            <button className="button" disabled={renew.isPending} onClick={() => renew.mutate()}>
              New token
            </button>
            {d.device.retired_ms == null && (
              <button className="button" disabled={retire.isPending} onClick={() => retire.mutate()}>
                Retire it
              </button>
            )}
          </>
        )}
      </div>
    </article>
  )
}

function NewDevice({ setMade }: { setMade: (m: Schemas['DeviceMade']) => void }) {
  const machines = useMachines()
  const empty = { name: '', kind: 'printer', machine_id: '' }
  const form = useDraftForm('draft-device', empty)
  const save = useMutation({
    mutationFn: (v: typeof empty) =>
      answer(
        api.POST('/api/v1/devices', {
          body: { name: v.name, kind: v.kind as 'printer', machine_id: orNull(v.machine_id) },
        }),
      ),
    onSuccess: (m) => {
      setMade(m)
      form.forget()
      form.reset(empty)
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form className="sheet grid gap-3" aria-label="A new device" onSubmit={form.handleSubmit((v) => save.mutate(v))}>
        <h2>Enter a device</h2>
        <div className="grid items-end gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <TextField name="name" label="Device" />
          <SelectField name="kind" label="Kind" options={kinds.map((k) => ({ value: k, label: words(k) }))} />
          <SelectField
            name="machine_id"
            label="Speaks for"
            empty="the whole bench"
            options={(machines.data ?? []).map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
          />
          <button className="button" disabled={save.isPending}>
            Make its token
          </button>
        </div>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
      </form>
    </FormProvider>
  )
}
