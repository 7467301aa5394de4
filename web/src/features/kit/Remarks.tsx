import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { day } from '../../lib/format'

type Remark = Schemas['Remark']

const kinds = choices<Kind<'Remark', 'kind'>>({ annoyance: 'It annoys', pleasure: 'It pleases' })
const often = choices<Kind<'Remark', 'often'>>({
  every_print: 'at every print',
  often: 'often',
  now_and_then: 'now and then',
  once: 'once',
})
const weights = ['1, hardly', '2', '3, noticeably', '4', '5, it decides']
const label = <E extends string>(of: { value: E; label: string }[], value: E) =>
  of.find((c) => c.value === value)?.label ?? value

/** What annoys or pleases day by day, in words: about what, how often, how much it weighs and for whom. */
export function Remarks({ machineID }: { machineID: string }) {
  const key = ['living', machineID, 'remarks']
  const client = useQueryClient()
  const list = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/machines/{id}/remarks', { params: { path: { id: machineID } } })),
  })
  if (list.isError) return <Complaint>{list.error.message}</Complaint>
  if (!list.data) return null
  const kept = (after: Schemas['Remarks']) => client.setQueryData(key, after)
  const { remarks, abouts } = list.data
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="What annoys and what pleases">
      <h2>What annoys and what pleases</h2>
      {remarks.length === 0 && <p>Nothing is noted yet: the lid, the screws, the spout, the noise, the manual.</p>}
      <ul className="grid gap-2" aria-label="Noted so far">
        {remarks.map((r) => (
          <li key={r.id} className={`flex flex-wrap items-center gap-2 ${r.taken_back_ms ? 'text-soft' : ''}`}>
            <span className="min-w-0 flex-1 wrap-anywhere">
              <strong>{r.about}</strong> {r.kind === 'annoyance' ? 'annoys' : 'pleases'} {label(often, r.often)}, weight{' '}
              <span className="num">{r.weight}</span> of 5: {r.what.replace(/\.?$/, '.')}
              <span className="text-soft">
                {[r.for_whom && ` For ${r.for_whom}.`, r.rater && ` Says ${r.rater}.`].filter(Boolean).join('')}{' '}
                {day(r.at_ms ?? 0)}
                {r.taken_back_ms && `. Taken back: ${r.taken_back_why}`}
              </span>
            </span>
            {!r.taken_back_ms ? (
              <TakeBack
                what={`the remark on ${r.about}`}
                take={async (why) =>
                  kept(
                    await answer(
                      api.POST('/api/v1/machines/{id}/remarks/{remark_id}/taking-back', {
                        params: { path: { id: machineID, remark_id: r.id ?? '' } },
                        body: { why },
                      }),
                    ),
                  )
                }
              />
            ) : (
              <PutAgain kind="remark" id={r.id} what={`the remark on ${r.about}`} />
            )}
          </li>
        ))}
      </ul>
      <Note machineID={machineID} abouts={abouts} kept={kept} rater={remarks[0]?.rater ?? ''} />
    </section>
  )
}

function Note({
  machineID,
  abouts,
  rater,
  kept,
}: {
  machineID: string
  abouts: string[]
  rater: string
  kept: (after: Schemas['Remarks']) => void
}) {
  const empty = {
    kind: 'annoyance' as Remark['kind'],
    about: '',
    what: '',
    often: 'often' as Remark['often'],
    weight: 3,
  }
  const [v, setV] = useState({ ...empty, for_whom: '', rater })
  const keep = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/machines/{id}/remarks', { params: { path: { id: machineID } }, body: v })),
    onSuccess: (after) => {
      kept(after)
      // Who says so, and for whom, stays the same more often than not.
      setV({ ...v, ...empty })
    },
  })
  const text = (key: 'about' | 'what' | 'for_whom' | 'rater', name: string, list?: string) => (
    <label className="text-sm font-semibold">
      {name}
      <input
        className="input font-normal"
        autoComplete="off"
        list={list}
        value={v[key]}
        onChange={(e) => setV({ ...v, [key]: e.target.value })}
      />
    </label>
  )
  return (
    <form
      className="grid gap-3"
      aria-label="Note what annoys or pleases"
      onSubmit={(e) => {
        e.preventDefault()
        keep.mutate()
      }}
    >
      <div className="grid gap-3 sm:grid-cols-4">
        <label className="text-sm font-semibold">
          Which
          <select
            className="input font-normal"
            value={v.kind}
            onChange={(e) => setV({ ...v, kind: e.target.value as Remark['kind'] })}
          >
            {kinds.map((k) => (
              <option key={k.value} value={k.value}>
                {k.label}
              </option>
            ))}
          </select>
        </label>
        {text('about', 'About', `abouts-${machineID}`)}
        <datalist id={`abouts-${machineID}`}>
          {abouts.map((a) => (
            <option key={a} value={a} />
          ))}
        </datalist>
        <label className="text-sm font-semibold">
          How often
          <select
            className="input font-normal"
            value={v.often}
            onChange={(e) => setV({ ...v, often: e.target.value as Remark['often'] })}
          >
            {often.map((o) => (
              <option key={o.value} value={o.value}>
                {o.label}
              </option>
            ))}
          </select>
        </label>
        <label className="text-sm font-semibold">
          How much it weighs
          <select
            className="input font-normal"
            value={v.weight}
            onChange={(e) => setV({ ...v, weight: Number(e.target.value) })}
          >
            {weights.map((w, i) => (
              <option key={w} value={i + 1}>
                {w}
              </option>
            ))}
          </select>
        </label>
      </div>
      {text('what', 'What it is')}
      <div className="grid gap-3 sm:grid-cols-2">
        {text('for_whom', 'For whom, if not for all')}
        {text('rater', 'Who says so')}
      </div>
      {keep.isError && <Complaint>{keep.error.message}</Complaint>}
      <button type="submit" className="button justify-self-start" disabled={keep.isPending}>
        Note it
      </button>
    </form>
  )
}
