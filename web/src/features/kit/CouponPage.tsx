import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { FormProvider, useWatch } from 'react-hook-form'
import { useNavigate } from 'react-router'
import { CheckField, NumberField, SelectField, TextField } from '../../components/Field'
import { Figure } from '../../components/Figure'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure } from '../../lib/format'
import { n } from '../../lib/input'

type Params = Schemas['CouponParams']

const ladders = [
  { key: 'posts_mm', label: 'Posts', hint: 'diameters, 4 mm tall' },
  { key: 'walls_mm', label: 'Walls', hint: 'thicknesses, 4 mm tall' },
  { key: 'slots_mm', label: 'Slots', hint: 'widths, through 3 mm' },
  { key: 'holes_mm', label: 'Holes', hint: 'diameters, through 3 mm' },
  { key: 'strokes_mm', label: 'Strokes', hint: 'widths, raised and engraved 0.3 mm' },
  { key: 'clearances_mm', label: 'Peg fits', hint: 'socket less the loose 3 mm peg' },
] as const
const parts = [
  { key: 'calipers', label: 'Block with pocket, for calipers' },
  { key: 'staircase', label: 'Staircase, 0.5 mm a step' },
  { key: 'ramp', label: 'Ramp of 45°' },
  { key: 'dome', label: 'Dome, for stepping' },
] as const

type Values = Record<(typeof ladders)[number]['key'] | 'name' | 'what' | 'thickness_mm', string> &
  Record<(typeof parts)[number]['key'], boolean>

const typed = (sizes: number[] | null) => (sizes ?? []).join(' ')
const sizes = (text: string) =>
  text
    .split(/[;\s]+/)
    .filter(Boolean)
    .map(n)

/** Our own coupon, made to measure; what can be read on it is known to the record at once. */
export default function CouponPage() {
  const usual = useQuery({
    queryKey: ['coupon'],
    staleTime: Infinity,
    queryFn: () => answer(api.GET('/api/v1/coupons/usual')),
  })
  return (
    <Page
      title="Make a coupon"
      about="Ladders and sizes of your choice. Its features need no typing: the record knows what was made."
    >
      <Ready of={usual}>{(p) => <CouponForm usual={p} />}</Ready>
    </Page>
  )
}

function CouponForm({ usual }: { usual: Params }) {
  const navigate = useNavigate()
  const form = useDraftForm<Values>('draft-coupon', {
    what: 'coupon',
    thickness_mm: '4',
    name: 'Step coupon',
    posts_mm: typed(usual.posts_mm),
    walls_mm: typed(usual.walls_mm),
    slots_mm: typed(usual.slots_mm),
    holes_mm: typed(usual.holes_mm),
    strokes_mm: typed(usual.strokes_mm),
    clearances_mm: typed(usual.clearances_mm),
    calipers: usual.calipers,
    staircase: usual.staircase,
    ramp: usual.ramp,
    dome: usual.dome,
  })
  const v = useWatch({ control: form.control }) as Values
  const params = paramsOf(v)
  const { getValues, setValue } = form
  useEffect(() => {
    if (Object.values(usualNames).includes(getValues('name'))) setValue('name', usualNames[v.what] ?? '')
  }, [v.what, getValues, setValue])
  const preview = useQuery({
    queryKey: ['coupon', params],
    placeholderData: keepPreviousData,
    retry: false,
    queryFn: () => answer(api.POST('/api/v1/coupons/preview', { body: params })),
  })
  const keep = useMutation({
    mutationFn: (v: Values) => answer(api.POST('/api/v1/coupons', { body: { name: v.name, params: paramsOf(v) } })),
    onSuccess: (card) => {
      form.forget()
      void navigate(`/kit/pieces/${card.piece.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_24rem]"
        onSubmit={form.handleSubmit((v) => keep.mutate(v))}
      >
        <div className="sheet grid gap-3">
          <div className="grid gap-3 sm:grid-cols-2">
            <SelectField
              name="what"
              label="What is made"
              options={[
                { value: 'coupon', label: 'a coupon of ladders and sizes' },
                { value: 'bar', label: 'a bar, to be bent: stiffness' },
                { value: 'plaque', label: 'a plaque, to be looked through: clarity' },
              ]}
            />
            <TextField name="name" label="Name" />
          </div>
          {v.what === 'coupon' ? <Carries /> : <Alone what={v.what} />}
          {preview.isError && <Complaint>{preview.error.message}</Complaint>}
          {keep.isError && <Complaint>{keep.error.message}</Complaint>}
          <div>
            <button className="button button-main" disabled={keep.isPending}>
              Keep this {v.what}
            </button>
          </div>
        </div>
        {preview.data && <Preview made={preview.data} />}
      </form>
    </FormProvider>
  )
}

/** A bar or a plaque: nothing but its thickness is chosen. */
const Alone = ({ what }: { what: string }) => (
  <>
    <NumberField name="thickness_mm" label="Thickness" unit="mm" />
    {what === 'bar' ? (
      <p className="text-soft">
        80 mm long and 10 mm wide; print it flat, several of each print, and bend it on two supports.
      </p>
    ) : (
      <p className="text-soft">
        30 mm square. It is laid on a printed scale of lines:{' '}
        <a href="/api/v1/coupons/line-scale.svg" download>
          the line scale, SVG
        </a>
        , to be printed at 100 %.
      </p>
    )}
  </>
)

const Carries = () => (
  <>
    <h2>Ladders, in mm</h2>
    <p className="text-sm text-soft">Sizes rise from left to right; leave a ladder empty to do without it.</p>
    <div className="grid gap-3 sm:grid-cols-2">
      {ladders.map((l) => (
        <TextField key={l.key} name={l.key} label={l.label} hint={l.hint} />
      ))}
    </div>
    <h2>For calipers and eyes</h2>
    <div className="grid sm:grid-cols-2">
      {parts.map((p) => (
        <CheckField key={p.key} name={p.key} label={p.label} />
      ))}
    </div>
  </>
)

const usualNames: Record<string, string> = { coupon: 'Step coupon', bar: 'Bar for bending', plaque: 'Plaque' }

const nothing = {
  ...{ number: 0, posts_mm: [], walls_mm: [], slots_mm: [], holes_mm: [], strokes_mm: [], clearances_mm: [] },
  ...{ calipers: false, staircase: false, ramp: false, dome: false },
}

function paramsOf(v: Values): Params {
  if (v.what === 'bar') return { ...nothing, bar_mm: n(v.thickness_mm) }
  if (v.what === 'plaque') return { ...nothing, plaque_mm: n(v.thickness_mm) }
  return carried(v)
}

const carried = (v: Values): Params => ({
  number: 1,
  posts_mm: sizes(v.posts_mm),
  walls_mm: sizes(v.walls_mm),
  slots_mm: sizes(v.slots_mm),
  holes_mm: sizes(v.holes_mm),
  strokes_mm: sizes(v.strokes_mm),
  clearances_mm: sizes(v.clearances_mm),
  calipers: v.calipers,
  staircase: v.staircase,
  ramp: v.ramp,
  dome: v.dome,
})

function Preview({ made }: { made: Schemas['MadeCoupon'] }) {
  return (
    <section className="sheet grid gap-3 lg:sticky lg:top-2" aria-label="The coupon">
      <img
        className="w-full"
        src={`data:image/png;base64,${made.picture_png}`}
        alt="The coupon as it stands on the plate"
      />
      <dl className="grid grid-cols-2 gap-3">
        <Figure
          label="Covers"
          value={`${figure(made.size_mm[0])} × ${figure(made.size_mm[1])}`}
          unit="mm"
          source="computed"
          note={`${figure(made.size_mm[2])} mm tall`}
        />
        <Figure label="Takes" value={figure(made.volume_ml)} unit="ml" source="computed" note="in solid resin" />
      </dl>
      <details>
        <summary className="cursor-pointer font-semibold">{made.features.length} things to read on it</summary>
        <ul className="mt-1 grid gap-1 text-sm">
          {made.features.map((f) => (
            <li key={f.name}>
              {f.name}
              <span className="num text-soft">
                {f.nominal_mm != null && ` ${figure(f.nominal_mm, 4)} mm, ${f.axis}, ${f.face}`}
                {(f.rungs_mm ?? []).length > 0 && ` ${(f.rungs_mm ?? []).join(' ')} mm`}
              </span>
            </li>
          ))}
        </ul>
      </details>
      <p className="text-sm text-soft">
        The cut corner stays on it when it comes off the plate: it is at the back right.
      </p>
    </section>
  )
}
