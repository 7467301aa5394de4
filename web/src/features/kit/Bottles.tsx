import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { useLocation } from 'react-router'
import { NumberField, TextField } from '../../components/Field'
import { History } from '../../components/History'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { day, figure, percent, words } from '../../lib/format'
import { n, orNull, t } from '../../lib/input'

type Happened = Schemas['BottleEvent']

/** The bottles of a resin: how old, and what is left by weighing or by use. */
export function Bottles({ resinID }: { resinID: string }) {
  const bottles = useQuery({ queryKey: ['bottle-cards'], queryFn: () => answer(api.GET('/api/v1/bottle-cards')) })
  const empty = { lot: '', opened_on: '', expires_on: '', tare_g: '' }
  const form = useDraftForm(`draft-bottle-${resinID}`, empty)
  // A resin that was just entered goes on to its bottle.
  const { setFocus } = form
  const next = (useLocation().state as { next?: boolean } | null)?.next
  useEffect(() => {
    if (next) setFocus('lot')
  }, [next, setFocus])
  const save = useMutation({
    mutationFn: (v: typeof empty) =>
      answer(
        api.POST('/api/v1/bottles', {
          body: {
            resin_id: resinID,
            lot: v.lot,
            opened_on: orNull(v.opened_on),
            expires_on: orNull(v.expires_on),
            tare_g: n(v.tare_g),
          },
        }),
      ),
    onSuccess: () => {
      form.forget()
      form.reset(empty)
      form.setFocus('lot')
    },
    onError: (e) => showProblem(form, e),
  })
  const ours = (bottles.data ?? []).filter((b) => b.bottle.resin_id === resinID)
  return (
    <section className="sheet grid gap-3">
      <h2>Bottles</h2>
      {ours.length === 0 ? (
        <p className="text-soft">No bottle yet. Lot and dates tell an old bottle from a fresh one.</p>
      ) : (
        <div className="overflow-x-auto">
          <table className="rows">
            <thead>
              <tr>
                <th>Bottle</th>
                <th>Lot</th>
                <th>Opened</th>
                <th>Expires</th>
                <th>Left</th>
                <th>What happened</th>
              </tr>
            </thead>
            <tbody>
              {ours.map((b) => (
                <Row key={b.bottle.id} card={b} />
              ))}
            </tbody>
          </table>
        </div>
      )}
      <FormProvider {...form}>
        <form
          className="grid items-end gap-3 sm:grid-cols-3 lg:grid-cols-5"
          onSubmit={form.handleSubmit((v) => save.mutate(v))}
          aria-label="A new bottle"
        >
          <TextField name="lot" label="Lot" />
          <TextField name="opened_on" label="Opened on" type="date" />
          <TextField name="expires_on" label="Expires on" type="date" />
          <NumberField name="tare_g" label="Empty, it weighs" unit="g" optional />
          <button className="button" disabled={save.isPending}>
            Add this bottle
          </button>
        </form>
      </FormProvider>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </section>
  )
}

function Row({ card }: { card: Schemas['BottleCard'] }) {
  const [gross, setGross] = useState('')
  const happen = useMutation({
    mutationFn: (e: Pick<Happened, 'kind' | 'gross_g' | 'ml' | 'other'>) =>
      answer(api.POST('/api/v1/bottles/{id}/events', { params: { path: { id: card.bottle.id ?? '' } }, body: e })),
    onSuccess: () => setGross(''),
  })
  const b = card.bottle
  const emptied = card.events.at(-1)?.kind === 'emptied'
  return (
    <tr>
      <td className="num">{b.code}</td>
      <td>{b.lot || 'not known'}</td>
      <td className="num">{b.opened_on ?? 'not known'}</td>
      <td className="num">{b.expires_on ?? 'not known'}</td>
      <td>
        {card.left_ml == null ? (
          <span className="text-soft">{card.reason}</span>
        ) : (
          <>
            <span className="num">{figure(card.left_ml)} ml</span>
            {card.share != null && <span className="num text-soft"> ({percent(card.share)})</span>}
            <span className="block text-sm text-soft">≈ by {card.from}</span>
          </>
        )}
      </td>
      <td>
        {emptied ? (
          'emptied'
        ) : (
          <form
            className="flex flex-wrap items-end gap-2"
            onSubmit={(e) => {
              e.preventDefault()
              happen.mutate({ kind: 'weighed', gross_g: n(gross) })
            }}
          >
            <input
              className="input num w-28"
              inputMode="decimal"
              placeholder="g on scale"
              data-unit="g"
              required
              aria-label={`${b.code} on the scale, g`}
              value={gross}
              onChange={(e) => setGross(e.target.value)}
            />
            <button className="button" disabled={happen.isPending}>
              Weighed
            </button>
            <button
              type="button"
              className="button"
              disabled={happen.isPending}
              onClick={() => happen.mutate({ kind: 'emptied' })}
            >
              Emptied
            </button>
            {b.opened_on == null && (
              <button
                type="button"
                className="button"
                disabled={happen.isPending}
                onClick={() => happen.mutate({ kind: 'opened' })}
              >
                Opened today
              </button>
            )}
          </form>
        )}
        {!emptied && <More code={b.code ?? ''} happen={(e) => happen.mutate(e)} />}
        <Correct key={b.version} b={b} />
        {card.events.some((e) => e.kind === 'mixed' || e.kind === 'coloured' || e.kind === 'poured_back') && (
          <ul className="text-sm text-soft">
            {card.events
              .filter((e) => e.kind === 'mixed' || e.kind === 'coloured' || e.kind === 'poured_back')
              .map((e) => (
                <li key={e.id}>
                  {day(e.at_ms ?? 0)}: {words(e.kind)}
                  {e.ml != null && ` ${figure(e.ml)} ml`}
                  {e.other && `, ${e.other}`}
                </li>
              ))}
          </ul>
        )}
        {happen.isError && <Complaint>{happen.error.message}</Complaint>}
      </td>
    </tr>
  )
}

/** What else happens to a bottle: a vat poured back, another mixed in, a colour added. */
function More({ code, happen }: { code: string; happen: (e: Pick<Happened, 'kind' | 'ml' | 'other'>) => void }) {
  const [open, setOpen] = useState(false)
  const [kind, setKind] = useState<'poured_back' | 'mixed' | 'coloured'>('poured_back')
  const [ml, setML] = useState('')
  const [other, setOther] = useState('')
  if (!open) {
    return (
      <button type="button" className="mr-3 text-sm underline" onClick={() => setOpen(true)}>
        something else happened to {code}
      </button>
    )
  }
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-2"
      aria-label={`Something else happened to ${code}`}
      onSubmit={(e) => {
        e.preventDefault()
        happen({ kind, ml: n(ml), other })
        setOpen(false)
      }}
    >
      <label className="text-sm">
        What
        <select className="input" value={kind} onChange={(e) => setKind(e.target.value as typeof kind)}>
          <option value="poured_back">a vat was poured back</option>
          <option value="mixed">another was mixed in</option>
          <option value="coloured">a colour was added</option>
        </select>
      </label>
      <label className="text-sm">
        <span>
          How much <span className="num text-soft">ml</span>
        </span>
        <input className="input num w-24" inputMode="decimal" value={ml} onChange={(e) => setML(e.target.value)} />
      </label>
      <label className="text-sm">
        Of what
        <input className="input" value={other} onChange={(e) => setOther(e.target.value)} />
      </label>
      <button className="button">Note it</button>
    </form>
  )
}

/** Lot, days or empty weight put right; what stood there before stays in the bottle's history. */
function Correct({ b }: { b: Schemas['Bottle'] }) {
  const id = b.id ?? ''
  const before = { lot: b.lot, opened_on: b.opened_on ?? '', expires_on: b.expires_on ?? '', tare_g: t(b.tare_g) }
  const [v, setV] = useState<typeof before & { why: string }>()
  const save = useMutation({
    mutationFn: (now: typeof before & { why: string }) => {
      const change: Schemas['BottleChange'] = {}
      if (now.lot !== before.lot) change.lot = now.lot
      if (now.opened_on !== before.opened_on) change.opened_on = orNull(now.opened_on)
      if (now.expires_on !== before.expires_on) change.expires_on = orNull(now.expires_on)
      if (now.tare_g !== before.tare_g) change.tare_g = n(now.tare_g)
      return answer(
        api.PATCH('/api/v1/bottles/{id}', {
          params: { path: { id } },
          body: { version: b.version ?? 0, change, why: now.why },
        }),
      )
    },
    onSuccess: () => setV(undefined),
  })
  if (!v) {
    return (
      <button type="button" className="text-sm underline" onClick={() => setV({ ...before, why: '' })}>
        correct {b.code}
      </button>
    )
  }
  const field = (key: keyof typeof v, label: string, type = 'text') => (
    <label className="text-sm">
      {label}
      <input className="input" type={type} value={v[key]} onChange={(e) => setV({ ...v, [key]: e.target.value })} />
    </label>
  )
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-2"
      aria-label={`Correct ${b.code ?? ''}`}
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate(v)
      }}
    >
      {field('lot', 'Lot')}
      {field('opened_on', 'Opened on', 'date')}
      {field('expires_on', 'Expires on', 'date')}
      {field('tare_g', 'Empty, g')}
      {field('why', 'Why')}
      <button className="button" disabled={save.isPending}>
        Correct it
      </button>
      <button type="button" className="button" onClick={() => setV(undefined)}>
        Leave it
      </button>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      <History kind="bottle" id={id} />
    </form>
  )
}
