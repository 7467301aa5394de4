import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { FormProvider, useWatch } from 'react-hook-form'
import { useNavigate, useParams } from 'react-router'
import { How } from '../../components/How'
import { HowItCameSection } from '../../components/HowItCame'
import { History } from '../../components/History'
import { DraftOffer } from '../../components/DraftOffer'
import { CheckField, DurationField, NumberField, TextArea, TextField } from '../../components/Field'
import { Figure } from '../../components/Figure'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { seconds, spelled } from '../../lib/duration'
import { n, t } from '../../lib/input'
import { useResins } from '../../lib/queries'
import { Bottles } from './Bottles'
import { ResinCard } from './ResinCard'
import { ResinPrices } from './ResinPrices'

type Values = Record<string, string | boolean>

export default function ResinPage() {
  const { id } = useParams()
  const resins = useResins()
  return (
    <Ready of={resins}>
      {(list) => {
        const resin = list.find((r) => r.resin.id === id)?.resin
        return (
          <Page
            title={resin ? resin.name : 'A new resin'}
            about={resin ? undefined : 'As it is sold: a bottle by volume, or by mass and density.'}
          >
            {resin?.id && <ResinCard id={resin.id} />}
            {resin?.id && <Bottles resinID={resin.id} />}
            {resin?.id && <ResinPrices id={resin.id} />}
            {resin?.id && <HowItCameSection of="resin" id={resin.id} />}
            <ResinForm key={resin ? `${resin.id}-${resin.version}` : 'new'} resin={resin} />
            {resin?.id && <History kind="resin" id={resin.id} />}
          </Page>
        )
      }}
    </Ready>
  )
}

function ResinForm({ resin }: { resin?: Schemas['Resin'] }) {
  const navigate = useNavigate()
  const form = useDraftForm<Values>(
    `draft-resin-${resin?.id ?? 'new'}`,
    {
      name: resin?.name ?? '',
      maker: resin?.maker ?? '',
      family: resin?.family ?? '',
      colour: resin?.colour ?? '#5b6b73',
      density_g_ml: t(resin?.density_g_ml),
      bottle_ml: t(resin?.bottle_ml),
      bottle_g: t(resin?.bottle_g),
      price_list: t(resin?.price_list),
      price_discount: t(resin?.price_discount ?? 0),
      price_shipping: t(resin?.price_shipping ?? 0),
      price_tax_pct: t(resin?.price_tax_pct ?? 0),
      price_tax_included: resin?.price_tax_included ?? true,
      stated_wash_s: spelled(resin?.stated_wash_s),
      stated_cure_s: spelled(resin?.stated_cure_s),
      prints_from_c: t(resin?.prints_from_c),
      prints_to_c: t(resin?.prints_to_c),
      notes: resin?.notes ?? '',
      claims: (resin?.claims ?? []).join('\n'),
    },
    resin?.version,
  )
  const save = useMutation({
    mutationFn: (values: Values) => {
      const v = values as Record<string, string>
      const body: Schemas['Resin'] = {
        version: resin?.version ?? 0,
        name: v.name ?? '',
        maker: v.maker ?? '',
        family: v.family ?? '',
        colour: v.colour ?? '',
        density_g_ml: n(v.density_g_ml),
        bottle_ml: n(v.bottle_ml),
        bottle_g: n(v.bottle_g),
        price_list: n(v.price_list),
        price_discount: n(v.price_discount),
        price_shipping: n(v.price_shipping),
        price_tax_pct: n(v.price_tax_pct),
        price_tax_included: Boolean(values.price_tax_included),
        stated_wash_s: seconds(v.stated_wash_s),
        stated_cure_s: seconds(v.stated_cure_s),
        prints_from_c: n(v.prints_from_c),
        prints_to_c: n(v.prints_to_c),
        notes: v.notes ?? '',
        claims: (v.claims ?? '')
          .split('\n')
          .map((line) => line.trim())
          .filter(Boolean),
      }
      return answer(
        resin?.id
          ? api.PUT('/api/v1/resins/{id}', { params: { path: { id: resin.id } }, body })
          : api.POST('/api/v1/resins', { body }),
      )
    },
    onSuccess: (saved) => {
      form.forget()
      void navigate(`/kit/resins/${saved.resin.id}`, { state: { next: true } })
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_19rem]"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
      >
        <section className="sheet grid gap-3">
          <DraftOffer old={form.old} />
          <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
            <TextField name="name" label="Name" />
            <TextField name="maker" label="Maker" />
            <TextField name="family" label="Family" hint="standard, tough, flexible, water-washable" />
            <TextField name="colour" label="Thread colour" type="color" />
            <NumberField name="bottle_ml" label="Bottle by volume" unit="ml" optional />
            <NumberField name="bottle_g" label="or by mass" unit="g" optional />
            <NumberField
              name="density_g_ml"
              label="Density"
              unit="g/ml"
              hint="needed for a bottle by mass, and for cost"
            />
            <NumberField name="price_list" label="Price of a bottle" />
            <NumberField name="price_discount" label="Discount and coupon" />
            <NumberField name="price_shipping" label="Shipping" />
            <NumberField name="price_tax_pct" label="Tax" unit="%" />
            <CheckField name="price_tax_included" label="Tax is in the price" />
            <DurationField name="stated_wash_s" label="Wash, as the label says" optional />
            <DurationField name="stated_cure_s" label="Cure, as the label says" optional />
            <NumberField name="prints_from_c" label="Prints from, as its maker states" unit="°C" optional />
            <NumberField name="prints_to_c" label="up to" unit="°C" optional />
          </div>
          <TextArea name="notes" label="Notes" />
          <TextArea
            name="claims"
            label="What its maker says"
            hint="A claim a line, such as: withstands falls from a table."
          />
          {save.isError && <Complaint>{save.error.message}</Complaint>}
          <div>
            <button className="button button-main" disabled={save.isPending}>
              Save the resin
            </button>
          </div>
        </section>
        <PricePanel />
      </form>
    </FormProvider>
  )
}

function PricePanel() {
  const v = useWatch<Values>() as Record<string, string>
  const list = n(v.price_list)
  const ml = n(v.bottle_ml)
  const g = n(v.bottle_g)
  const density = n(v.density_g_ml)
  const ready =
    typeof list === 'number' && (typeof ml === 'number' || (typeof g === 'number' && typeof density === 'number'))
  const body = {
    list,
    discount: n(v.price_discount),
    shipping: n(v.price_shipping),
    tax_pct: n(v.price_tax_pct),
    tax_included: Boolean(v.price_tax_included),
    bottle: typeof ml === 'number' ? { ml } : { g, density_g_ml: density },
  }
  const price = useQuery({
    queryKey: ['price', body],
    enabled: ready,
    placeholderData: keepPreviousData,
    queryFn: () => answer(api.POST('/api/v1/calc/cost/price', { body })),
  })
  return (
    <aside className="sheet grid gap-2" aria-live="polite" aria-label="Price">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Price</h2>
        <How figure="cost" of="Price" />
      </div>
      {!ready && <p className="text-soft">The price of a bottle and what it holds give the price of a litre.</p>}
      {ready && price.isError && <Complaint>{price.error.message}</Complaint>}
      {ready && price.data && !price.isError && (
        <dl className="grid gap-2">
          <Figure label="A litre" value={price.data.per_litre?.toFixed(2) ?? '–'} source="computed" />
          <Figure label="Paid for a bottle" value={price.data.paid.toFixed(2)} source="computed" />
        </dl>
      )}
    </aside>
  )
}
