import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { n, orNull } from '../../lib/input'

type Table = Schemas['PriceTable']

const needs = choices<Kind<'Equipment', 'need'>>({
  included: 'came with it',
  to_buy: 'has to be bought',
  not_needed: 'not needed',
  unknown: 'not known',
})

/** What each machine costs once it is equipped like the others, item by item. */
export function EquipmentTable({ table }: { table: Table }) {
  return (
    <section className="sheet grid gap-3" aria-label="Equipped alike">
      <h2>
        Equipped alike <span className="font-normal text-soft">on {table.day}</span>
      </h2>
      <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Prices item by item">
        <table className="rows w-full">
          <thead>
            <tr>
              <th scope="col">Item</th>
              {table.machines.map((m) => (
                <th scope="col" key={m.id}>
                  {m.name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Price</th>
              {table.machines.map((m) => (
                <td key={m.id}>
                  {m.prices.find((p) => p.stands)?.says ?? (m.from_kit ? 'as on its page' : 'not known')}
                </td>
              ))}
            </tr>
            {table.items.map((row) => (
              <tr key={row.item}>
                <th scope="row">{row.item}</th>
                {row.cells.map((c, i) => (
                  <td key={table.machines[i]?.id}>{c.says}</td>
                ))}
              </tr>
            ))}
            <tr>
              <th scope="row">Equipped alike</th>
              {table.machines.map((m) => (
                <td key={m.id} className="font-semibold">
                  {m.says}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      </div>
      <ItemForm table={table} />
    </section>
  )
}

function ItemForm({ table }: { table: Table }) {
  const [machine, setMachine] = useState(table.machines[0]?.id ?? '')
  const [item, setItem] = useState('')
  const [need, setNeed] = useState('to_buy')
  const [amount, setAmount] = useState('')
  const [source, setSource] = useState('')
  const keep = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/equipment', {
          body: {
            machine_id: machine,
            item,
            need: need as 'to_buy',
            amount: need === 'to_buy' && orNull(amount) !== null ? n(amount) : null,
            source,
          },
        }),
      ),
    onSuccess: () => setAmount(''),
  })
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      aria-label="An item"
      onSubmit={(e) => {
        e.preventDefault()
        keep.mutate()
      }}
    >
      <label className="text-sm font-semibold">
        Item
        <input className="input font-normal" list="items" value={item} onChange={(e) => setItem(e.target.value)} />
        <datalist id="items">
          {table.items.map((r) => (
            <option key={r.item} value={r.item} />
          ))}
        </datalist>
      </label>
      <label className="text-sm font-semibold">
        Of
        <select className="input font-normal" value={machine} onChange={(e) => setMachine(e.target.value)}>
          {table.machines.map((m) => (
            <option key={m.id} value={m.id}>
              {m.name}
            </option>
          ))}
        </select>
      </label>
      <label className="text-sm font-semibold">
        It
        <select className="input font-normal" value={need} onChange={(e) => setNeed(e.target.value)}>
          {needs.map((c) => (
            <option key={c.value} value={c.value}>
              {c.label}
            </option>
          ))}
        </select>
      </label>
      {need === 'to_buy' && (
        <label className="text-sm font-semibold">
          For <span className="num font-normal text-soft">{table.currency}</span>
          <input
            className="input num block w-28 font-normal"
            inputMode="decimal"
            placeholder="not known"
            value={amount}
            onChange={(e) => setAmount(e.target.value)}
          />
        </label>
      )}
      <label className="text-sm font-semibold">
        Source
        <input className="input font-normal" value={source} onChange={(e) => setSource(e.target.value)} />
      </label>
      <button className="button" disabled={item.trim() === '' || keep.isPending}>
        Note the item
      </button>
      {keep.isError && <Complaint>{keep.error.message}</Complaint>}
    </form>
  )
}
