import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { How } from '../../components/How'
import { Complaint } from '../../components/Page'
import { isQuestion, Question } from '../../components/Question'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { counted, day } from '../../lib/format'

type Edition = Schemas['Edition']

/** The versions of a review that went out: frozen, marked where the record would now say otherwise, and corrected by errata. */
export function Versions({ review }: { review: Review }) {
  const id = review.id ?? ''
  const path = { id }
  const client = useQueryClient()
  const [why, setWhy] = useState('')
  const versions = useQuery({
    queryKey: ['publications', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/publications', { params: { path } })),
  })
  const kept = (list: Edition[]) => client.setQueryData(['publications', id], list)
  const publish = useMutation({
    mutationFn: (confirmed: boolean) =>
      answer(api.POST('/api/v1/reviews/{id}/publications', { params: { path }, body: { why, confirmed } })),
    onSuccess: (list) => {
      kept(list)
      setWhy('')
    },
  })
  if (!versions.data) return null
  return (
    <section className="sheet grid gap-3" aria-label="Versions that went out">
      <div className="flex flex-wrap items-center justify-between gap-x-4">
        <h2>Versions that went out</h2>
        <How figure="versions" of="Versions that went out" />
      </div>
      <p className="text-soft">
        A version is frozen with its figures. Where the record would now say otherwise it is marked; errata are added,
        and change nothing of it.
      </p>
      <ul className="grid gap-3">
        {versions.data.map((e) => (
          <Version key={e.id} e={e} kept={kept} />
        ))}
      </ul>
      <form
        className="flex flex-wrap items-end gap-3"
        aria-label="Publish"
        onSubmit={(e) => {
          e.preventDefault()
          publish.mutate(false)
        }}
      >
        <label className="min-w-0 grow basis-60 text-sm font-semibold">
          Why it goes out as it stands{' '}
          <span className="font-normal text-soft">needed only where your text is doubted</span>
          <input className="input font-normal" maxLength={1000} value={why} onChange={(e) => setWhy(e.target.value)} />
        </label>
        <button className="button button-main" disabled={publish.isPending}>
          Publish version {versions.data.length + 1}
        </button>
        {publish.isError && !isQuestion(publish.error) && <Complaint>{publish.error.message}</Complaint>}
      </form>
      {isQuestion(publish.error) && (
        <Question error={publish.error} busy={publish.isPending} confirm={() => publish.mutate(true)} />
      )}
    </section>
  )
}

function Version({ e, kept }: { e: Edition; kept: (list: Edition[]) => void }) {
  return (
    <li className="grid gap-2 border-t border-line pt-2">
      <div className="flex flex-wrap items-center gap-3">
        <strong>
          Version {e.number}, {day(e.at_ms)}
        </strong>
        <span className={e.stale.length > 0 ? 'font-semibold' : 'text-soft'}>
          {e.stale.length > 0 ? `stale: ${counted(e.stale.length, 'figure')} would read otherwise` : 'stands as it is'}
        </span>
        <a className="button" href={`/api/v1/publications/${e.id}/write-up.html`} download>
          HTML
        </a>
        <a className="button" href={`/api/v1/publications/${e.id}/write-up.md`} download>
          Markdown
        </a>
      </div>
      {e.why !== '' && (
        <p className="wrap-anywhere">
          It went out over {counted(e.questioned, 'questioned place')}: {e.why}
        </p>
      )}
      {e.causes.length > 0 && <p className="wrap-anywhere">Since then on record: {e.causes.join('; ')}.</p>}
      <Changed title="What would read otherwise now" list={e.stale} />
      <Changed title="What changed since the version before" list={e.since} />
      {e.errata.length > 0 && (
        <ul aria-label={`Errata of version ${e.number}`} className="grid gap-1">
          {e.errata.map((x) => (
            <li key={x.at_ms} className="wrap-anywhere">
              <strong>Erratum of {day(x.at_ms ?? 0)}:</strong> {x.says} <span className="text-soft">Why: {x.why}</span>
            </li>
          ))}
        </ul>
      )}
      <ErratumForm e={e} kept={kept} />
    </li>
  )
}

function Changed({ title, list }: { title: string; list: Edition['stale'] }) {
  if (list.length === 0) return null
  return (
    <details>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {title} <span className="font-normal text-soft">{list.length}</span>
      </summary>
      <ul className="grid">
        {list.map((c) => (
          <li key={c.name} className="border-t border-line py-1 wrap-anywhere">
            {c.name}: <span className="num">{c.was}</span>, {c.is === '' ? 'now not known' : 'now '}
            <span className="num">{c.is}</span>
          </li>
        ))}
      </ul>
    </details>
  )
}

function ErratumForm({ e, kept }: { e: Edition; kept: (list: Edition[]) => void }) {
  const [open, setOpen] = useState(false)
  const [says, setSays] = useState('')
  const [why, setWhy] = useState('')
  const add = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/publications/{id}/errata', { params: { path: { id: e.id } }, body: { says, why } })),
    onSuccess: (list) => {
      kept(list)
      setOpen(false)
      setSays('')
      setWhy('')
    },
  })
  if (!open) {
    return (
      <div>
        <button className="button" aria-label={`Add an erratum to version ${e.number}`} onClick={() => setOpen(true)}>
          Add an erratum
        </button>
      </div>
    )
  }
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      aria-label={`An erratum to version ${e.number}`}
      onSubmit={(ev) => {
        ev.preventDefault()
        add.mutate()
      }}
    >
      <label className="min-w-0 grow basis-60 text-sm font-semibold">
        What was wrong, and what is right
        <input
          className="input font-normal"
          autoFocus
          maxLength={1000}
          value={says}
          onChange={(ev) => setSays(ev.target.value)}
        />
      </label>
      <label className="min-w-0 grow basis-60 text-sm font-semibold">
        How it came to light
        <input className="input font-normal" maxLength={1000} value={why} onChange={(ev) => setWhy(ev.target.value)} />
      </label>
      <button className="button" disabled={says.trim() === '' || why.trim() === '' || add.isPending}>
        Add it
      </button>
      <button type="button" className="button" onClick={() => setOpen(false)}>
        Leave it
      </button>
      {add.isError && <Complaint>{add.error.message}</Complaint>}
    </form>
  )
}
