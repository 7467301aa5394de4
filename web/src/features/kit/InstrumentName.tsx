import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { History } from '../../components/History'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'

/** Another name for an instrument; what was read with it stays as it is, and so does what it was called before. */
export function InstrumentName({ instrument }: { instrument: Schemas['Instrument'] }) {
  const id = instrument.id ?? ''
  const [name, setName] = useState(instrument.name)
  const rename = useMutation({
    mutationFn: () =>
      answer(
        api.PATCH('/api/v1/instruments/{id}', {
          params: { path: { id } },
          body: { version: instrument.version ?? 0, name },
        }),
      ),
  })
  return (
    <>
      <details className="sheet">
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">Call it otherwise</summary>
        <form
          className="flex flex-wrap items-end gap-3"
          onSubmit={(e) => {
            e.preventDefault()
            rename.mutate()
          }}
        >
          <label className="text-sm font-semibold">
            Name of the instrument
            <input className="input font-normal" value={name} onChange={(e) => setName(e.target.value)} />
          </label>
          <button className="button" disabled={rename.isPending || name === instrument.name}>
            Rename it
          </button>
          {rename.isError && <Complaint>{rename.error.message}</Complaint>}
        </form>
      </details>
      <History kind="instrument" id={instrument.id ?? ''} />
    </>
  )
}
