import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { KindInput, useKinds } from '../../components/KindInput'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, listed } from '../../lib/format'

type Card = Schemas['KindCard']

/** Kinds of pieces, and what is looked at on every piece of each: new ones begin with it. */
export function Kinds() {
  const client = useQueryClient()
  const kinds = useKinds()
  const [open, setOpen] = useState<string>()
  if (kinds.isError) return <Complaint>{kinds.error.message}</Complaint>
  if (!kinds.data) return null
  const kept = (after: Card[]) => {
    client.setQueryData(['piece-kinds'], after)
    setOpen(undefined)
  }
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="Kinds of pieces">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2>Kinds of pieces</h2>
        <button className="button" aria-expanded={open === ''} onClick={() => setOpen(open === '' ? undefined : '')}>
          Enter a kind
        </button>
      </div>
      {kinds.data.length === 0 && (
        <p>
          No kind yet. What you look at on every figure, bust or vehicle is said once; each new piece of that kind
          begins with it.
        </p>
      )}
      {open === '' && <ChecklistForm kept={kept} />}
      <ul className="grid gap-3" aria-label="Kinds on record">
        {kinds.data.map((k) => (
          <li key={k.kind} className="grid gap-2 border-t border-line pt-2">
            <div className="flex flex-wrap items-baseline justify-between gap-2">
              <p className="min-w-0 flex-1 wrap-anywhere">
                <strong>{k.kind}</strong>, {k.pieces.length === 0 ? 'no piece yet' : counted(k.pieces.length, 'piece')}.{' '}
                {k.checklist.checkpoints.length === 0
                  ? 'Nothing is looked at on all of them.'
                  : `Looked at on each: ${listed(k.checklist.checkpoints.map((c) => c.name))}.`}
              </p>
              <button
                className="button"
                aria-expanded={open === k.kind}
                aria-label={`Change what is looked at on every ${k.kind}`}
                onClick={() => setOpen(open === k.kind ? undefined : k.kind)}
              >
                Change
              </button>
            </div>
            {open === k.kind && <ChecklistForm key={k.checklist.version} card={k} kept={kept} />}
          </li>
        ))}
      </ul>
    </section>
  )
}

/** A checkpoint a line: its name, and where it is behind a colon. */
function ChecklistForm({ card, kept }: { card?: Card; kept: (after: Card[]) => void }) {
  const [kind, setKind] = useState(card?.kind ?? '')
  const [text, setText] = useState(
    (card?.checklist.checkpoints ?? []).map((c) => (c.place ? `${c.name}: ${c.place}` : c.name)).join('\n'),
  )
  const save = useMutation({
    mutationFn: () =>
      answer(
        api.PUT('/api/v1/piece-kinds', {
          body: { version: card?.checklist.version ?? 0, kind, checkpoints: checkpointsOf(text) },
        }),
      ),
    onSuccess: kept,
  })
  return (
    <form
      className="grid gap-2"
      aria-label={card ? `What is looked at on every ${card.kind}` : 'A kind of piece'}
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      {!card && (
        <label className="text-sm font-semibold sm:max-w-xs">
          Kind
          <KindInput value={kind} onChange={setKind} />
        </label>
      )}
      <label className="text-sm font-semibold">
        What is looked at on each, one a line; where it is, behind a colon
        <textarea
          className="input min-h-32 font-normal"
          placeholder={'Face: front\nFingers\nSword tip: top'}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      <button className="button button-main justify-self-start" disabled={save.isPending}>
        Keep the list
      </button>
    </form>
  )
}

const checkpointsOf = (text: string) =>
  text
    .split('\n')
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const [name = '', ...place] = line.split(':')
      return { name: name.trim(), place: place.join(':').trim() }
    })
