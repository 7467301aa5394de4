import { useMutation } from '@tanstack/react-query'
import { answer, api, type Schemas } from '../lib/api'
import { confirmed, useDoor } from '../lib/door'
import { counted } from '../lib/format'
import { Complaint } from './Page'

/** Reads a record that was exported before into one that is empty. */
export function ImportRecord() {
  const needed = useDoor().data?.needed
  const bring = useMutation({
    // The file goes out as it is; the server reads and checks it entry by entry.
    mutationFn: async (file: File) => {
      if (needed && !(await confirmed())) throw new Error('the passphrase was not entered again.')
      return answer(
        api.POST('/api/v1/record', {
          body: file as unknown as Schemas['Record'],
          bodySerializer: (body) => body as unknown as File,
          headers: { 'Content-Type': 'application/json' },
        }),
      )
    },
  })
  return (
    <>
      <label className="text-sm font-semibold">
        Import a record into an empty one
        <input
          type="file"
          accept="application/json,.json"
          className="input py-2 font-normal"
          onChange={(e) => e.target.files?.[0] && bring.mutate(e.target.files[0])}
        />
      </label>
      {bring.isPending && <p>Reading the record…</p>}
      {bring.isError && <Complaint>Nothing was imported: {bring.error.message}</Complaint>}
      {bring.data && (
        <p role="status">
          Imported {counted(bring.data.machines, 'machine')}, {counted(bring.data.pieces, 'piece')},{' '}
          {counted(bring.data.runs, 'run')}, {counted(bring.data.readings, 'reading')},{' '}
          {counted(bring.data.reviews, 'review')}.
        </p>
      )}
    </>
  )
}
