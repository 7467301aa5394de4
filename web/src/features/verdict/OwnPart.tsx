import { useState } from 'react'
import type { Schemas } from '../../lib/api'
import { photoFile } from '../../lib/viewing'

type Own = Pick<Schemas['Block'], 'title' | 'text' | 'pictures'>
type Picture = Schemas['BlockPicture']

const mostFound = 12

/** What the reviewer puts between the parts of a write-up: words of their own, and photographs with captions. */
export function OwnPart({
  own,
  photographs,
  busy,
  keep,
  close,
  remove,
}: {
  own?: Own
  photographs: Schemas['Choosable'][]
  busy: boolean
  keep: (own: Own) => void
  close: () => void
  remove?: () => void
}) {
  const [title, setTitle] = useState(own?.title ?? '')
  const [text, setText] = useState(own?.text ?? '')
  const [pictures, setPictures] = useState<Picture[]>(own?.pictures ?? [])
  return (
    <form
      className="mt-3 grid gap-3 border-l-4 border-line pl-3"
      aria-label={own ? `Your part ${own.title}` : 'A part of your own'}
      onSubmit={(e) => {
        e.preventDefault()
        keep({ title, text, pictures })
      }}
    >
      <label className="text-sm font-semibold">
        Heading <span className="font-normal text-soft">none: it goes on without one</span>
        <input
          className="input font-normal"
          autoFocus
          maxLength={200}
          value={title}
          onChange={(e) => setTitle(e.target.value)}
        />
      </label>
      <label className="text-sm font-semibold">
        Your words <span className="font-normal text-soft">live figures may stand in them by name</span>
        <textarea
          className="input font-normal"
          rows={5}
          maxLength={20000}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
      <Chosen pictures={pictures} photographs={photographs} set={setPictures} />
      <div className="flex flex-wrap gap-2">
        <button className="button button-main" disabled={busy || (text.trim() === '' && pictures.length === 0)}>
          {own ? 'Keep the change' : 'Put it there'}
        </button>
        <button type="button" className="button" onClick={close}>
          Leave it
        </button>
        {remove && (
          <button type="button" className="button" disabled={busy} onClick={remove}>
            Take this part away
          </button>
        )}
      </div>
    </form>
  )
}

function Chosen({
  pictures,
  photographs,
  set,
}: {
  pictures: Picture[]
  photographs: Schemas['Choosable'][]
  set: (next: Picture[]) => void
}) {
  const [sought, setSought] = useState('')
  if (photographs.length === 0) return <p className="text-soft">The prints of this review have no photographs yet.</p>
  const says = (id: string) => photographs.find((p) => p.id === id)
  const found = photographs
    .filter((p) => !pictures.some((c) => c.photograph_id === p.id))
    .filter((p) => p.says.toLowerCase().includes(sought.trim().toLowerCase()))
  return (
    <div className="grid gap-3">
      {pictures.length > 0 && (
        <ol className="grid gap-2" aria-label="Pictures in this part">
          {pictures.map((p, i) => (
            <li key={p.photograph_id} className="flex flex-wrap items-center gap-3">
              <Small id={p.photograph_id} />
              <label className="min-w-0 grow basis-60 text-sm font-semibold">
                What is to be seen on {says(p.photograph_id)?.code ?? 'it'}
                <input
                  className="input font-normal"
                  maxLength={300}
                  value={p.caption}
                  onChange={(e) => set(pictures.map((q, at) => (at === i ? { ...q, caption: e.target.value } : q)))}
                />
              </label>
              <button
                type="button"
                className="button"
                aria-label={`Take ${says(p.photograph_id)?.code ?? 'the picture'} out of this part`}
                onClick={() => set(pictures.filter((_, at) => at !== i))}
              >
                Take out
              </button>
            </li>
          ))}
        </ol>
      )}
      <details>
        <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
          Choose photographs <span className="font-normal text-soft">{photographs.length} on record</span>
        </summary>
        <label className="block max-w-md text-sm font-semibold">
          Only those with
          <input
            className="input font-normal"
            placeholder="a code, a copy, a light"
            value={sought}
            onChange={(e) => setSought(e.target.value)}
          />
        </label>
        <ul className="mt-2 grid grid-cols-[repeat(auto-fill,minmax(9rem,1fr))] gap-3">
          {found.slice(0, mostFound).map((p) => (
            <li key={p.id}>
              <button
                type="button"
                className="grid w-full gap-1 border border-line p-1 text-left text-sm hover:border-ink"
                onClick={() => set([...pictures, { photograph_id: p.id, caption: '' }])}
              >
                <Small id={p.id} />
                <span className="wrap-anywhere">{p.says}</span>
              </button>
            </li>
          ))}
        </ul>
        {found.length > mostFound && <p className="text-soft">{found.length - mostFound} more; narrow them down.</p>}
      </details>
    </div>
  )
}

function Small({ id }: { id: string }) {
  return <img className="h-24 w-32 bg-plate object-contain" alt="" src={photoFile(id, 'small')} />
}
