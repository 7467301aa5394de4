import { useMutation } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { NumberField, TextField } from '../../components/Field'
import { Complaint, Ready } from '../../components/Page'
import { answer, api } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { n } from '../../lib/input'
import { useInstruments } from '../../lib/queries'

const blank = { name: '', resolution_mm: '0.01', reference_u_mm: '0.01' }

export function InstrumentPanel() {
  const instruments = useInstruments()
  const form = useDraftForm('draft-instrument', blank)
  const save = useMutation({
    mutationFn: (v: typeof blank) =>
      answer(
        api.POST('/api/v1/instruments', {
          body: { name: v.name, resolution_mm: n(v.resolution_mm), reference_u_mm: n(v.reference_u_mm) },
        }),
      ),
    onSuccess: () => {
      form.reset(blank)
      form.forget()
      form.setFocus('name')
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <section className="sheet grid gap-3">
      <h2>Instruments</h2>
      <p className="text-soft">
        Resolution and the uncertainty of what it was checked against stand in every size measured with it.
      </p>
      <Ready of={instruments}>
        {(list) => (
          <table className="rows">
            <thead>
              <tr>
                <th>Instrument</th>
                <th>Resolution, mm</th>
                <th>Reference uncertainty, mm</th>
              </tr>
            </thead>
            <tbody>
              {list.map((i) => (
                <tr key={i.id}>
                  <td>
                    <span className="num text-soft">{i.code}</span> {i.name}
                  </td>
                  <td className="num">{i.resolution_mm}</td>
                  <td className="num">{i.reference_u_mm}</td>
                </tr>
              ))}
              {list.length === 0 && (
                <tr>
                  <td colSpan={3}>None yet. A caliper is enough to begin.</td>
                </tr>
              )}
            </tbody>
          </table>
        )}
      </Ready>
      <FormProvider {...form}>
        <form
          className="grid items-end gap-3 sm:grid-cols-4"
          onSubmit={form.handleSubmit((v) => save.mutate(v))}
          aria-label="A new instrument"
        >
          <TextField name="name" label="Name" />
          <NumberField name="resolution_mm" label="Resolution" unit="mm" />
          <NumberField name="reference_u_mm" label="Reference uncertainty" unit="mm" />
          <button className="button" disabled={save.isPending}>
            Add this instrument
          </button>
        </form>
      </FormProvider>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </section>
  )
}
