import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { KindInput, useKinds } from '../../components/KindInput'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted } from '../../lib/format'

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()

/** What sort of model the piece is. */
export function PieceKind({ piece }: { piece: Schemas['Piece'] }) {
  const [kind, setKind] = useState(piece.kind ?? '')
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.PUT('/api/v1/pieces/{id}/kind', {
          params: { path: { id: piece.id ?? '' } },
          body: { version: piece.version ?? 0, kind },
        }),
      ),
  })
  return (
    <form
      className="sheet flex flex-wrap items-end gap-3"
      aria-label="What kind of piece it is"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <label className="min-w-48 text-sm font-semibold">
        Kind of piece
        <KindInput value={kind} onChange={setKind} />
      </label>
      <button className="button" disabled={save.isPending || same(kind, piece.kind ?? '')}>
        Keep the kind
      </button>
      <p className="text-sm text-soft">What is looked at on every piece of a kind is said once.</p>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </form>
  )
}

interface Checkpoint {
  name: string
  place?: string
}

/** Takes over what is looked at on every piece of the kind, or has what is looked at here be looked at on all. */
export function FromKind({
  kind,
  take,
  seen,
}: {
  kind: string
  take: (checkpoints: Checkpoint[]) => void
  seen: Checkpoint[]
}) {
  const client = useQueryClient()
  const kinds = useKinds().data ?? []
  const card = kinds.find((k) => same(k.kind, kind))
  const list = card?.checklist.checkpoints ?? []
  const keep = useMutation({
    mutationFn: () =>
      answer(
        api.PUT('/api/v1/piece-kinds', {
          body: { version: card?.checklist.version ?? 0, kind, checkpoints: seen },
        }),
      ),
    onSuccess: (after) => client.setQueryData(['piece-kinds'], after),
  })
  if (kind === '') return null
  const lacks = list.filter((c) => !seen.some((s) => same(s.name, c.name)))
  const news = seen.filter((s) => !list.some((c) => same(s.name, c.name)))
  return (
    <>
      {lacks.length > 0 && (
        <button type="button" className="button" onClick={() => take(lacks)}>
          Take {counted(lacks.length, 'checkpoint')} of every {kind}
        </button>
      )}
      {news.length > 0 && (
        <button type="button" className="button" disabled={keep.isPending} onClick={() => keep.mutate()}>
          Look at {seen.length === 1 ? 'this' : `these ${seen.length}`} on every {kind}
        </button>
      )}
      {keep.isError && <Complaint>{keep.error.message}</Complaint>}
    </>
  )
}
