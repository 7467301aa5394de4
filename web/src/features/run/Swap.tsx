import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'

/** Two specimens whose labels may have changed places: both are marked and leave the detail contest. */
export function Swap({ list }: { list: Schemas['Specimen'][] }) {
  const [open, setOpen] = useState(false)
  const [code, setCode] = useState(list[0]?.code ?? '')
  const [other, setOther] = useState('')
  const swap = useMutation({
    mutationFn: (v: { code: string; with: string }) =>
      answer(api.POST('/api/v1/specimens/{code}/swap', { params: { path: { code: v.code } }, body: { with: v.with } })),
    onSuccess: () => setOpen(false),
  })
  const doubted = list.filter((s) => s.swapped_with)
  return (
    <div className="grid gap-2">
      {doubted.map((s) => (
        <p key={s.id} className="flex flex-wrap items-center gap-2 border-l-4 border-act pl-2">
          <span>
            <span className="num font-bold">{s.code}</span> may be{' '}
            <span className="num font-bold">{s.swapped_with}</span>: neither counts for detail until it is clear.
          </span>
          <button
            className="button"
            disabled={swap.isPending}
            onClick={() => swap.mutate({ code: s.code ?? '', with: '' })}
          >
            It is put right
          </button>
        </p>
      ))}
      {!open && (
        <button className="button justify-self-start" onClick={() => setOpen(true)}>
          Two may be swapped
        </button>
      )}
      {open && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            swap.mutate({ code, with: other.trim().toUpperCase() })
          }}
        >
          <label className="grid text-sm font-semibold">
            This one
            <select className="input num w-auto font-normal" value={code} onChange={(e) => setCode(e.target.value)}>
              {list.map((s) => (
                <option key={s.id}>{s.code}</option>
              ))}
            </select>
          </label>
          <label className="grid text-sm font-semibold">
            and the one labelled
            <input
              className="input num w-36 font-normal"
              required
              value={other}
              onChange={(e) => setOther(e.target.value)}
            />
          </label>
          <button className="button button-main" disabled={swap.isPending}>
            Mark both
          </button>
          <button type="button" className="button" onClick={() => setOpen(false)}>
            Leave it
          </button>
        </form>
      )}
      {swap.isError && <Complaint>{swap.error.message}</Complaint>}
    </div>
  )
}
