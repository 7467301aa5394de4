import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useRef, useState, type KeyboardEvent } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, moment } from '../../lib/format'

type Item = Schemas['PreflightItem']

/** Shape carries the state, words repeat it. */
const marks: Record<Item['state'], { glyph: string; word: string; className: string }> = {
  fine: { glyph: '●', word: 'fine', className: 'text-good' },
  look: { glyph: '◐', word: 'look', className: '' },
  act: { glyph: '▲', word: 'do something first', className: 'text-bad font-semibold' },
  unknown: { glyph: '○', word: 'not known', className: 'text-soft' },
}

/** What to look at before the print, made from the record. Space ticks, k skips, arrows walk. */
export function Preflight({ id, live }: { id: string; live: Schemas['LiveRun'] }) {
  const client = useQueryClient()
  const list = useRef<HTMLUListElement>(null)
  const reply = useMutation({
    mutationFn: (a: { item: string; state: 'ticked' | 'skipped' }) =>
      answer(api.POST('/api/v1/runs/{id}/preflight', { params: { path: { id } }, body: a })),
    onSuccess: (l) => client.setQueryData(['runs', id, 'live'], l),
  })
  // The last reason is offered again: one press does it.
  const [reason, setReason] = useState<string>()
  const skip = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/runs/{id}/preflight/skip', {
          params: { path: { id } },
          body: { reason: reason ?? live.skip_reason },
        }),
      ),
    onSuccess: (l) => client.setQueryData(['runs', id, 'live'], l),
  })
  const walk = (e: KeyboardEvent<HTMLButtonElement>, i: number, item: Item) => {
    const boxes = [...(list.current?.querySelectorAll<HTMLElement>('[data-tick]') ?? [])]
    if (e.key === 'ArrowDown') boxes[i + 1]?.focus()
    else if (e.key === 'ArrowUp') boxes[i - 1]?.focus()
    else if (e.key === 'k') reply.mutate({ item: item.item, state: 'skipped' })
    else return
    e.preventDefault()
  }
  return (
    <section className="sheet grid gap-2" aria-label="Preflight">
      <h2>
        Before the print{' '}
        <span className="font-normal text-soft">
          <span className="num">{live.items.filter((i) => i.answer !== '').length}</span> of{' '}
          <span className="num">{live.items.length}</span> answered
          {live.open > 0 && (
            <>
              , <span className="num">{live.open}</span> wanted before the start
            </>
          )}
        </span>
      </h2>
      <p className="text-sm text-soft">
        Made from the record. Space ticks, <kbd className="num">k</kbd> skips, arrows walk; what is skipped is kept as
        skipped.
      </p>
      {(reply.isError || skip.isError) && <Complaint>{(reply.error ?? skip.error)?.message}</Complaint>}
      {live.open > 0 && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            skip.mutate()
          }}
        >
          <label className="min-w-60 flex-1 text-sm font-semibold">
            Why nothing is looked at
            <input
              className="input font-normal"
              required
              value={reason ?? live.skip_reason}
              onChange={(e) => setReason(e.target.value)}
            />
          </label>
          <button className="button" disabled={skip.isPending}>
            Skip the {counted(live.open, 'item')} with this reason
          </button>
        </form>
      )}
      <ul ref={list} className="grid">
        {live.items.map((i, k) => {
          const mark = marks[i.state]
          return (
            <li
              key={i.item}
              className="grid grid-cols-[auto_minmax(0,1fr)_auto] items-start gap-3 border-t border-line py-2"
            >
              <button
                data-tick
                className={`button size-(--tap) !p-0 ${i.answer === 'ticked' ? 'button-main' : ''}`}
                role="checkbox"
                aria-checked={i.answer === 'ticked'}
                aria-label={i.title}
                onKeyDown={(e) => walk(e, k, i)}
                onClick={() => reply.mutate({ item: i.item, state: 'ticked' })}
              >
                {i.answer === 'ticked' ? '✓' : ''}
              </button>
              <div className="min-w-0">
                <p className="font-semibold">
                  {i.title}
                  {i.must && <span className="sr-only"> (wanted before the start)</span>}{' '}
                  <span className={`ml-1 text-sm font-normal ${mark.className}`}>
                    <span aria-hidden="true">{mark.glyph}</span> {mark.word}
                  </span>
                </p>
                <p>{i.fact}</p>
                <p className="text-sm text-soft">{i.why}</p>
              </div>
              <div className="grid justify-items-end gap-1 text-sm">
                {i.answer === 'skipped' ? (
                  <span className="text-soft">
                    skipped {moment(i.at_ms)}
                    {i.reason && <span className="block">{i.reason}</span>}
                  </span>
                ) : (
                  i.answer === '' && (
                    <button
                      className="button"
                      aria-label={`Skip: ${i.title}`}
                      onClick={() => reply.mutate({ item: i.item, state: 'skipped' })}
                    >
                      Skip
                    </button>
                  )
                )}
              </div>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
