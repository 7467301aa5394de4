import { useMutation, useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { FormProvider } from 'react-hook-form'
import { useLocation } from 'react-router'
import { NumberField, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure, percent } from '../../lib/format'
import { n, orNull } from '../../lib/input'

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
    mutationFn: (e: Pick<Happened, 'kind' | 'gross_g'>) =>
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
        {happen.isError && <Complaint>{happen.error.message}</Complaint>}
      </td>
    </tr>
  )
}
