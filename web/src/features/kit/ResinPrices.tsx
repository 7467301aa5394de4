import { useMutation, useQuery } from '@tanstack/react-query'
import { AskedPrice } from '../../components/AskedPrice'
import { Complaint, Ready } from '../../components/Page'
import { PriceForm } from '../../components/PriceForm'
import { answer, api, type Schemas } from '../../lib/api'

/** What a bottle was asked for, by day and source; one of the prices can be taken on, and costs are worked out from it then. */
export function ResinPrices({ id }: { id: string }) {
  const prices = useQuery({
    queryKey: ['resin prices', id],
    queryFn: () => answer(api.GET('/api/v1/resins/{id}/prices', { params: { path: { id } } })),
  })
  return (
    <section className="sheet grid gap-3" aria-label="Prices of a bottle as they were asked">
      <h2>Prices of a bottle as they were asked</h2>
      <Ready of={prices}>{(p) => <Prices id={id} p={p} />}</Ready>
    </section>
  )
}

function Prices({ id, p }: { id: string; p: Schemas['ResinPrices'] }) {
  const take = useMutation({
    mutationFn: (price: string) =>
      answer(api.POST('/api/v1/prices/{id}/taking-on', { params: { path: { id: price } } })),
  })
  return (
    <>
      <p className="wrap-anywhere">{p.basis}</p>
      {p.beside && <p className="wrap-anywhere font-semibold">{p.beside}</p>}
      {p.prices.length > 0 && (
        <ul className="grid gap-3">
          {p.prices.map((one) => {
            const counts = one.price.id === p.on_page
            return (
              <AskedPrice key={one.price.id} of={one} now={counts ? 'costs are worked out from it' : ''}>
                {!counts && (
                  <button
                    className="button"
                    aria-label={`Work costs out from ${one.says}`}
                    disabled={take.isPending}
                    onClick={() => take.mutate(one.price.id ?? '')}
                  >
                    Work costs out from it
                  </button>
                )}
              </AskedPrice>
            )
          })}
        </ul>
      )}
      {take.isError && <Complaint>{take.error.message}</Complaint>}
      <PriceForm resinID={id} day={p.day} currency={p.currency} />
    </>
  )
}
