import { Link, useParams } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import type { Schemas } from '../../lib/api'
import { figure, grouped } from '../../lib/format'
import { useReviews } from '../../lib/queries'
import { BudgetForm } from './BudgetForm'
import { EquipmentTable } from './EquipmentTable'
import { AskedPrice } from '../../components/AskedPrice'
import { PriceForm } from '../../components/PriceForm'
import { useMoney } from './useMoney'

type Sheet = Schemas['MoneySheet']

/** What the machines of a review cost: as they were asked, equipped alike, owned over years, and when an upgrade pays. */
export default function MoneyPage() {
  const { id = '' } = useParams()
  const review = useReviews().data?.find((r) => r.id === id)
  const money = useMoney(id)
  return (
    <Page
      title="Money"
      about={
        <>
          {review && <Link to={`/verdict/${id}`}>{review.question}</Link>} Prices have a day and a source. What nobody
          knows is not counted as nothing.
        </>
      }
    >
      <Ready of={money}>
        {(s) =>
          s.prices.machines.length === 0 ? (
            <Empty title="This review names no machine yet">
              Prices are of its machines.
              <Link to={`/verdict/${id}`}>Name them with its question</Link>
            </Empty>
          ) : (
            <>
              {s.says.length + s.missing.length > 0 && <Comes s={s} />}
              <EquipmentTable table={s.prices} />
              <Prices s={s} />
              <BudgetForm key={s.budget.version} id={id} s={s} />
            </>
          )
        }
      </Ready>
    </Page>
  )
}

/** What it comes to: ownership over years, break-even, and of whom it cannot be said. */
function Comes({ s }: { s: Sheet }) {
  const money = (v: number) => `${figure(v, 4)} ${s.prices.currency}`
  return (
    <section className="sheet grid gap-2" aria-label="What it comes to">
      <h2>
        What it comes to{' '}
        <span className="font-normal text-soft">
          {grouped(s.budget.pieces_per_year)} good pieces a year for {figure(s.budget.years)} years
          {s.budget.version === 0 && ', as assumed; state your own below'}
        </span>
      </h2>
      {s.ownership && (
        <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Ownership">
          <table className="rows w-full">
            <thead>
              <tr>
                <th scope="col">Machine</th>
                <th scope="col">In all</th>
                <th scope="col">A year</th>
                <th scope="col">A good piece</th>
              </tr>
            </thead>
            <tbody>
              {s.ownership.options.map((o) => (
                <tr key={o.name}>
                  <th scope="row">{o.name}</th>
                  <td className="num">{money(o.total)}</td>
                  <td className="num">{money(o.per_year)}</td>
                  <td className="num">{money(o.per_piece)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <ul className="grid gap-1">
        {s.says.map((t) => (
          <li key={t} className="wrap-anywhere">
            {t}
          </li>
        ))}
        {s.missing.map((t) => (
          <li key={t} className="wrap-anywhere text-soft">
            Not worked out for {t}.
          </li>
        ))}
        {s.recovered.map((r) => (
          <li key={r.name} className="wrap-anywhere">
            {r.says}
          </li>
        ))}
      </ul>
    </section>
  )
}

function Prices({ s }: { s: Sheet }) {
  return (
    <section className="sheet grid gap-3" aria-label="Prices as they were asked">
      <h2>Prices as they were asked</h2>
      {s.prices.machines.map((m) => (
        <div key={m.id} className="grid gap-1 border-t border-line pt-2">
          <h3>{m.name}</h3>
          {m.prices.length === 0 && (
            <p className="text-soft">
              {m.from_kit ? 'No dated price: the one of its page counts.' : 'No price is on record.'}
            </p>
          )}
          <ul className="grid gap-1">
            {m.prices.map((p) => (
              <AskedPrice key={p.price.id} of={p} now={p.stands ? 'counts now' : ''} />
            ))}
          </ul>
        </div>
      ))}
      <PriceForm machines={s.prices.machines} day={s.prices.day} currency={s.prices.currency} />
    </section>
  )
}
