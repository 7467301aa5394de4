import { useState } from 'react'
import { FormProvider, useWatch } from 'react-hook-form'
import { DraftOffer } from '../../components/DraftOffer'
import { CheckField, ManyField, NumberField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import type { Review, Schemas } from '../../lib/api'
import { useDraftForm } from '../../lib/draft'
import { listed } from '../../lib/format'
import { n } from '../../lib/input'
import { useProfiles } from '../../lib/queries'

type Factor = Schemas['MatrixFactor']

interface Values {
  levels: Record<string, string[]>
  prints: string
  copies: string
  mixed: boolean
  fewest: boolean
  seed: string
  base_ids: string[]
}

/** How a level of a factor is written. */
const written: Record<string, string> = {
  'motion.lift': '3 mm at 40 mm/min, 4 mm at 120 mm/min',
  'motion.retract': '7 mm at 150 mm/min',
  layer_um: '30 µm',
  scale_pct: '75 %',
  light_power_pct: '90 %',
}
const example = (key: string) => written[key] ?? (key.endsWith('_s') ? '2.5 s' : 'in your words')

/** The levels of each factor, and how many prints there are to be of each combination. */
export function PlanForm({
  review,
  matrix,
  sheet,
  busy,
  error,
  draw,
}: {
  review: Review
  matrix: Schemas['Matrix']
  sheet: Schemas['PlanSheet']
  busy: boolean
  error: Error | null
  draw: (request: Schemas['PlanRequest']) => void
}) {
  const factors = sheet.factors
  const profiles = useProfiles()
  const form = useDraftForm<Values>(`draft-plan-${review.id}`, {
    levels: {},
    prints: '4',
    copies: String(sheet.usual_copies || 4),
    mixed: false,
    fewest: false,
    seed: '',
    base_ids: [],
  })
  const levels = useWatch({ control: form.control, name: 'levels' })
  // Machines and resins are those of the review, printed with or not; of all else what is on record.
  const known = (f: Factor) =>
    f.levels.length > 0 ? f.levels : (matrix.factors.find((m) => m.key === f.key)?.levels ?? [])
  const chosen = (f: Factor) => levels[f.key] ?? known(f)
  const set = (f: Factor, to: string[]) => form.setValue('levels', { ...levels, [f.key]: to }, { shouldDirty: true })
  // Parts of a motion that nobody has told or asked for are folded away.
  const quiet = (f: Factor) => f.key.startsWith('motion.') && known(f).length === 0 && levels[f.key] === undefined
  const submit = (v: Values) =>
    draw({
      levels: Object.entries(v.levels)
        .filter(([key]) => factors.some((f) => f.key === key))
        .map(([factor, of]) => ({ factor, levels: of })),
      prints: n(v.prints) ?? 0,
      copies: n(v.copies) ?? 0,
      mixed: v.mixed,
      fewest: v.fewest,
      seed: n(v.seed),
      base_ids: v.base_ids,
      without: [],
    })
  const bases = (profiles.data ?? []).filter(
    (p) => review.machine_ids.includes(p.machine_id) && review.resin_ids.includes(p.resin_id),
  )
  const shown = factors.filter((f) => !quiet(f))
  const folded = factors.filter(quiet)
  return (
    <FormProvider {...form}>
      <form className="sheet grid gap-3" onSubmit={form.handleSubmit(submit)} aria-label="What to print">
        <DraftOffer old={form.old} />
        <h2>What to print</h2>
        {shown.map((f) => (
          <Levels key={f.key} factor={f} known={known(f)} chosen={chosen(f)} set={(to) => set(f, to)} />
        ))}
        {folded.length > 0 && (
          <details open={shown.length === 0}>
            <summary className="min-h-(--tap) cursor-pointer font-semibold">
              {shown.length === 0
                ? 'Which part of the motion varies?'
                : `Other parts of the motion: ${listed(folded.map((f) => f.name.toLowerCase()))}`}
            </summary>
            <div className="grid gap-4">
              {folded.map((f) => (
                <Levels key={f.key} factor={f} known={[]} chosen={chosen(f)} set={(to) => set(f, to)} />
              ))}
            </div>
          </details>
        )}
        <div className="grid gap-3 sm:grid-cols-3">
          <NumberField name="prints" label="Prints of each combination" hint="with those on record" />
          <NumberField
            name="copies"
            label="Copies of each piece on a plate"
            hint={sheet.usual_copies > 0 ? 'as most plates of this review hold' : undefined}
          />
          <NumberField name="seed" label="Seed of the draw" optional hint="to repeat an order" />
        </div>
        <div>
          {review.piece_ids.length > 1 && <CheckField name="mixed" label="All pieces on every plate" />}
          <CheckField name="fewest" label="Only the combinations that it takes to tell the effects apart" />
        </div>
        {bases.length > 1 && (
          <details>
            <summary className="min-h-(--tap) cursor-pointer font-semibold">Settings to start from</summary>
            <ManyField
              name="base_ids"
              label="Instead of those printed with most in this review"
              options={bases.map((p) => ({ value: p.id, label: p.label }))}
            />
          </details>
        )}
        {error && <Complaint>{error.message}</Complaint>}
        <div>
          <button className="button button-main" disabled={busy}>
            Draw the order
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

function Levels({
  factor: f,
  known,
  chosen,
  set,
}: {
  factor: Factor
  known: string[]
  chosen: string[]
  set: (to: string[]) => void
}) {
  const [more, setMore] = useState('')
  // What was typed here stays in the row though it is not ticked any more.
  const [typed, setTyped] = useState<string[]>([])
  const add = () => {
    const level = more.trim()
    if (level !== '' && !chosen.includes(level)) set([...chosen, level])
    setTyped([...typed, level])
    setMore('')
  }
  const all = [...new Set([...known, ...chosen, ...typed])].filter((l) => l !== '')
  const named = f.key === 'machine' || f.key === 'resin'
  return (
    <fieldset className="min-w-0">
      <legend className="font-semibold">{f.name}</legend>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
        {all.length === 0 && <span className="text-soft">{named ? 'those of the review' : 'no level yet'}</span>}
        {all.map((level) => (
          <label key={level} className="flex min-h-(--tap) items-center gap-2">
            <input
              type="checkbox"
              className="size-5 accent-(--act)"
              checked={chosen.includes(level)}
              onChange={(e) => set(e.target.checked ? [...chosen, level] : chosen.filter((l) => l !== level))}
            />
            {level}
          </label>
        ))}
        {f.settable && !named && (
          <div className="flex min-w-0 grow basis-64 items-center gap-2 sm:max-w-96">
            <input
              className="input min-w-0 font-normal"
              aria-label={`Another level of ${f.name.toLowerCase()}`}
              placeholder={example(f.key)}
              value={more}
              onChange={(e) => setMore(e.target.value)}
              onKeyDown={(e) => {
                if (e.key !== 'Enter') return
                e.preventDefault()
                add()
              }}
            />
            <button
              type="button"
              className="button"
              onClick={add}
              disabled={more.trim() === ''}
              aria-label={`Add a level of ${f.name.toLowerCase()}`}
            >
              Add
            </button>
          </div>
        )}
      </div>
      {!f.settable && (
        <p className="text-sm text-soft">This is fitted by hand: fit it, tie the knot, then plan its prints.</p>
      )}
    </fieldset>
  )
}
