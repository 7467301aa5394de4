import { useMutation } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { DraftOffer } from './DraftOffer'
import { NumberField, SelectField, TextField } from './Field'
import { Complaint } from './Page'
import { answer, api } from '../lib/api'
import { choices, type Kind } from '../lib/choices'
import { showProblem, useDraftForm } from '../lib/draft'
import { n, orNull } from '../lib/input'

const states = choices<Kind<'Price', 'state'>>({
  list: 'list price',
  offer: 'offer',
  coupon: 'with a coupon',
  pledge: 'pledge to backers',
  paid: 'what I paid',
  used: 'used',
})

interface Values {
  machine_id: string
  state: string
  day: string
  until_day: string
  amount: string
  shipping: string
  tax: string
  source: string
  note: string
}

interface Props {
  /** The machines among which one is chosen, or the resin that it is of. */
  machines?: { id: string; name: string }[]
  resinID?: string
  day: string
  currency: string
}

/** A price as it is asked on a day. An amount or shipping that is left empty is not known. */
export function PriceForm({ machines, resinID, day, currency }: Props) {
  const form = useDraftForm<Values>(resinID ? `draft-price-${resinID}` : 'draft-price', {
    machine_id: machines?.[0]?.id ?? '',
    state: 'list',
    day,
    until_day: '',
    amount: '',
    shipping: '',
    tax: 'included',
    source: '',
    note: '',
  })
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/prices', {
          body: {
            machine_id: resinID ? null : v.machine_id,
            resin_id: resinID ?? null,
            state: v.state as 'list',
            day: v.day,
            until_day: orNull(v.until_day),
            amount: orNull(v.amount) === null ? null : n(v.amount),
            shipping: orNull(v.shipping) === null ? null : n(v.shipping),
            tax_included: v.tax.trim() === '' || v.tax === 'included',
            tax_pct: v.tax.trim() === '' || v.tax === 'included' ? 0 : n(v.tax),
            source: v.source,
            note: v.note,
          },
        }),
      ),
    onSuccess: () => {
      form.forget()
      form.reset({ ...form.getValues(), amount: '', shipping: '', until_day: '', note: '' })
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="grid gap-3 border-t border-line pt-3"
        aria-label="A price"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
      >
        <DraftOffer old={form.old} />
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-5">
          {machines && (
            <SelectField
              name="machine_id"
              label="Machine"
              options={machines.map((m) => ({ value: m.id, label: m.name }))}
            />
          )}
          <SelectField name="state" label="What price" options={states} />
          <NumberField name="amount" label="Amount" unit={currency} hint="empty: not known" />
          <NumberField name="shipping" label="Shipping" unit={currency} hint="0 where it is free" />
          <TextField name="tax" label="Tax to add, %" hint="or: included" />
          <TextField name="day" label="On" type="date" />
          <TextField name="until_day" label="Until" type="date" />
          <TextField name="source" label="Who asks it" hint="a shop, its page" />
          <TextField name="note" label="Note" />
        </div>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={save.isPending}>
            Keep the price
          </button>
        </div>
      </form>
    </FormProvider>
  )
}
