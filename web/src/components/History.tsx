import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, api, type Schemas } from '../lib/api'
import { counted, figure, moment, words } from '../lib/format'
import { Complaint } from './Page'

type Change = Schemas['EntryChange']

const read = (text: string) => {
  try {
    return JSON.parse(text) as Record<string, unknown>
  } catch {
    return {}
  }
}

/** A value of an entry as people read it. */
function shown(name: string, v: unknown): string {
  if (v === null || v === undefined || v === '') return 'nothing'
  if (typeof v === 'number') return name.endsWith('_ms') ? moment(v) : figure(v, 6)
  if (typeof v === 'boolean') return v ? 'yes' : 'no'
  if (typeof v === 'string') return /^[a-z]+(_[a-z]+)+$/.test(v) ? words(v) : v
  return Array.isArray(v) ? counted(v.length, 'entry', 'entries') : 'changed'
}

/** What was changed of an entry, when and why: before and after, to be put back. Nothing is shown where nothing was. */
export function History({ kind, id }: { kind: string; id: string }) {
  const history = useQuery({
    queryKey: ['history', kind, id],
    queryFn: () => answer(api.GET('/api/v1/history/{kind}/{id}', { params: { path: { kind, id } } })),
    enabled: id !== '',
  })
  const list = history.data ?? []
  if (list.length === 0) return null
  return (
    <section className="sheet grid gap-2" aria-label="History">
      <h2>What was changed</h2>
      <Changes list={list.toReversed()} />
    </section>
  )
}

/** Changes of entries, each before and after; with the entry's code where they are of several. */
export function Changes({ list, several = false }: { list: Change[]; several?: boolean }) {
  return (
    <ul className="grid gap-2">
      {list.map((c) => (
        <One key={c.id} c={c} several={several} />
      ))}
    </ul>
  )
}

function One({ c, several }: { c: Change; several: boolean }) {
  const [before, after] = [read(c.before_entry), read(c.after_entry)]
  const names = Object.keys({ ...before, ...after })
  return (
    <li className="grid gap-1 border-t border-line pt-2 sm:grid-cols-[minmax(0,1fr)_auto]">
      <div className="min-w-0 wrap-anywhere">
        <span className="num text-soft">{moment(c.at_ms)}</span>{' '}
        {several && (
          <>
            <span className="num">{c.link ? <Link to={c.link}>{c.code}</Link> : c.code || 'gone'}</span>{' '}
          </>
        )}
        {c.command}
        {c.why && <span className="font-semibold">: {c.why}</span>}
        <ul className="text-sm">
          {names.slice(0, mostFields).map((k) => (
            <li key={k}>
              {words(k.replace(/_(ms|s|c|g|ml|mm|um|pct|id)$/, ''))}: <s className="text-soft">{shown(k, before[k])}</s>{' '}
              → {shown(k, after[k])}
            </li>
          ))}
          {names.length > mostFields && <li className="text-soft">and {names.length - mostFields} more fields</li>}
        </ul>
      </div>
      {c.put_back && <PutBack c={c} />}
    </li>
  )
}

/** How many fields of a change are shown: an entry that was made or undone has dozens. */
const mostFields = 12

/** Puts back what a change changed; the entry's own rules hold, and the change stays in the history. */
function PutBack({ c }: { c: Change }) {
  const [asking, setAsking] = useState(false)
  const [why, setWhy] = useState('')
  const put = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/changes/{id}/putting-back', { params: { path: { id: c.id } }, body: { why } })),
    onSuccess: () => setAsking(false),
  })
  const what = `${c.code} as before ${moment(c.at_ms)}`
  if (!asking) {
    return (
      <button className="button self-start" aria-label={`Put ${what} back`} onClick={() => setAsking(true)}>
        Put it back
      </button>
    )
  }
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault()
        put.mutate()
      }}
    >
      <label className="text-sm font-semibold">
        Why, if you like
        <input
          className="input font-normal"
          // The button that was pressed has gone: what it asks for stands in its place.
          autoFocus
          value={why}
          onChange={(e) => setWhy(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && setAsking(false)}
        />
      </label>
      <button className="button button-main" disabled={put.isPending}>
        Put back
      </button>
      {put.isError && <Complaint>{put.error.message}</Complaint>}
    </form>
  )
}
