import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { day, figure, words } from '../../lib/format'
import { n } from '../../lib/input'

const kinds = {
  solvent: 'solvent, ml',
  wash_water: 'wash water, ml',
  resin: 'resin, ml',
  scrap: 'cured scrap, g',
  filter: 'filters, pieces',
  wipes: 'wipes and gloves, pieces',
}
const shown = 20

/** What was thrown away and where it went. */
export function WasteSheet() {
  const client = useQueryClient()
  const ledger = useQuery({ queryKey: ['waste'], queryFn: () => answer(api.GET('/api/v1/waste')) })
  const form = useDraftForm('draft-waste', { kind: 'scrap', amount: '', went_to: '', note: '' })
  const save = useMutation({
    mutationFn: (v: Record<string, string>) =>
      answer(
        api.POST('/api/v1/waste', {
          body: {
            kind: v.kind as Schemas['Waste']['kind'],
            amount: n(v.amount),
            went_to: v.went_to ?? '',
            note: v.note ?? '',
          },
        }),
      ),
    onSuccess: (l) => {
      client.setQueryData(['waste'], l)
      form.forget()
      form.reset({ kind: 'scrap', amount: '', went_to: '', note: '' })
      form.setFocus('amount')
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <section className="sheet grid gap-3" id="waste">
      <h2>Waste ledger</h2>
      <Ready of={ledger}>
        {(l) => (
          <>
            <p className="border-l-4 border-act pl-3 text-sm">{l.rule}</p>
            {l.totals.length > 0 && (
              <p>
                In all:{' '}
                {l.totals.map((t, i) => (
                  <span key={t.kind}>
                    {i > 0 && ', '}
                    <span className="num">{figure(t.amount, 4)}</span> {t.unit} {words(t.kind)} (n = {t.lines})
                  </span>
                ))}
                .
              </p>
            )}
            {l.lines.length > 0 && (
              <div className="overflow-x-auto">
                <table className="rows">
                  <thead>
                    <tr>
                      <th>When</th>
                      <th>What</th>
                      <th>Amount</th>
                      <th>Went to</th>
                      <th>Note</th>
                    </tr>
                  </thead>
                  <tbody>
                    {l.lines.slice(0, shown).map((w) => (
                      <tr key={w.id}>
                        <td className="num">{day(w.at_ms ?? 0)}</td>
                        <td>{words(w.kind)}</td>
                        <td className="num">
                          {figure(w.amount, 5)} {w.unit}
                        </td>
                        <td>{w.went_to || 'not noted'}</td>
                        <td>{w.note}</td>
                      </tr>
                    ))}
                  </tbody>
                </table>
                {l.lines.length > shown && (
                  <p className="text-soft">
                    The newest {shown} of {l.lines.length}.
                  </p>
                )}
              </div>
            )}
          </>
        )}
      </Ready>
      <FormProvider {...form}>
        <form
          className="grid items-end gap-3 sm:grid-cols-3 lg:grid-cols-5"
          aria-label="A line of waste"
          onSubmit={form.handleSubmit((v) => save.mutate(v))}
        >
          <SelectField
            name="kind"
            label="Waste"
            options={Object.entries(kinds).map(([value, label]) => ({ value, label }))}
          />
          <NumberField name="amount" label="Amount" />
          <TextField name="went_to" label="Went to" />
          <TextField name="note" label="Remark" />
          <button className="button" disabled={save.isPending}>
            Enter it
          </button>
        </form>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
      </FormProvider>
    </section>
  )
}
