import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { Grade, RestsOn } from './Finding'

type Sheet = Schemas['FindingsSheet']

/** A finding that is published: its sentence and grade, what it rests on, and its place among the others. */
export function PickedFinding({
  p,
  at,
  up,
  down,
  kept,
}: {
  p: Schemas['PickedFinding']
  at: number
  up?: () => void
  down?: () => void
  kept: (s: Sheet) => void
}) {
  const [wording, setWording] = useState(false)
  const f = p.finding
  const path = { id: f.id ?? '' }
  return (
    <li className="grid gap-2 border-t border-line pt-3">
      <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
        <span className="num text-soft">{at}</span>
        <div className="min-w-0 grow basis-80">
          <p className="text-lg wrap-anywhere">{p.says}</p>
          <p>
            <Grade grade={p.now?.grade ?? f.grade} />
            {!p.now && f.measure === '' && !f.panel_id && (
              <span className="text-soft"> in your own words; rests on no figure</span>
            )}
          </p>
          {f.words !== '' && p.now && (
            <p className="text-sm text-soft wrap-anywhere">As the record has it: {p.now.sentence}</p>
          )}
          {p.changed !== '' && <p className="text-sm wrap-anywhere">{p.changed}</p>}
          {p.now && <RestsOn r={p.now} />}
        </div>
        <div className="flex flex-wrap gap-2">
          <button className="button" aria-label={`Move ${f.code} up`} disabled={!up} onClick={up}>
            ↑
          </button>
          <button className="button" aria-label={`Move ${f.code} down`} disabled={!down} onClick={down}>
            ↓
          </button>
          {!wording && (
            <button className="button" aria-label={`Reword ${f.code}`} onClick={() => setWording(true)}>
              Reword
            </button>
          )}
          <TakeBack
            what={f.code ?? ''}
            take={async (why) =>
              kept(await answer(api.POST('/api/v1/findings/{id}/taking-back', { params: { path }, body: { why } })))
            }
          />
        </div>
      </div>
      <p className="flex flex-wrap items-center gap-2 text-sm">
        <span className="text-soft">As a picture:</span>
        {(['wide', 'tall'] as const).map((shape) => (
          <a
            key={shape}
            className="min-h-(--tap) content-center text-act underline"
            aria-label={`${f.code} as a picture, ${shape}`}
            href={`/api/v1/findings/${f.id}/cards/${shape}`}
            download
          >
            {shape === 'wide' ? 'wide, 1200 × 675' : 'tall, 1080 × 1350'}
          </a>
        ))}
      </p>
      {wording && <Wording p={p} kept={kept} close={() => setWording(false)} />}
    </li>
  )
}

function Wording({ p, kept, close }: { p: Schemas['PickedFinding']; kept: (s: Sheet) => void; close: () => void }) {
  const f = p.finding
  const [text, setText] = useState(p.says)
  const save = useMutation({
    mutationFn: (words: string) =>
      answer(
        api.POST('/api/v1/findings/{id}/wording', {
          params: { path: { id: f.id ?? '' } },
          body: { version: f.version ?? 0, words },
        }),
      ),
    onSuccess: (s) => {
      kept(s)
      close()
    },
  })
  return (
    <form
      className="grid gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate(text)
      }}
    >
      <label className="text-sm font-semibold">
        In your words
        <textarea
          className="input font-normal"
          rows={3}
          autoFocus
          maxLength={1000}
          value={text}
          onChange={(e) => setText(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && close()}
        />
      </label>
      <div className="flex flex-wrap gap-2">
        <button className="button button-main" disabled={text.trim() === '' || save.isPending}>
          Keep these words
        </button>
        {f.words !== '' && p.now && (
          <button type="button" className="button" disabled={save.isPending} onClick={() => save.mutate('')}>
            As the record has it
          </button>
        )}
        <button type="button" className="button" onClick={close}>
          Leave it
        </button>
      </div>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </form>
  )
}
