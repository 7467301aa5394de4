import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useLayoutEffect, useRef, useState, type FormEvent, type KeyboardEvent } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { newTurn } from '../../lib/command'
import { n } from '../../lib/input'
import type { StressSheet } from './StressPage'

/** Text is typed in these; a digit elsewhere is a class of damage. */
const takesText = 'input[type="text"], input:not([type]), textarea'

/** The test that is next: one specimen by its code alone, one level, and what it shows. */
export function NextTest({ s, at }: { s: StressSheet; at: number }) {
  const id = s.series.id ?? ''
  const step = s.steps[at]!
  const client = useQueryClient()
  const [damage, setDamage] = useState<number | null>(null)
  const [deflection, setDeflection] = useState('')
  const [part, setPart] = useState('')
  const [note, setNote] = useState('')
  const [turn] = useState(newTurn)
  const first = useRef<HTMLElement>(null)
  useLayoutEffect(() => first.current?.focus(), [])
  const put = (after: StressSheet) => client.setQueryData(['stress', id], after)
  // An answer that is still on its way is older than what follows, and would take its place.
  const onMutate = () => client.cancelQueries({ queryKey: ['stress', id] })
  const keep = useMutation({
    mutationFn: () => {
      const seen: Schemas['Seen'] = { specimen_id: step.specimen, level: step.level, part, note }
      if (s.measured) seen.deflection_mm = n(deflection)
      else seen.damage = damage
      return answer(
        api.POST('/api/v1/stress-series/{id}/tests', { params: { path: { id } }, body: seen, headers: turn }),
      )
    },
    onMutate,
    onSuccess: put,
  })
  const undo = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/stress-series/{id}/undo', { params: { path: { id } }, headers: turn })),
    onMutate,
    onSuccess: put,
  })
  const ready = s.measured ? deflection.trim() !== '' : damage !== null
  const submit = (e: FormEvent) => {
    e.preventDefault()
    if (ready && !keep.isPending) keep.mutate()
  }
  const key = (e: KeyboardEvent<HTMLFormElement>) => {
    if ((e.target as Element).matches(takesText) || e.ctrlKey || e.metaKey || e.altKey) return
    if (!s.measured && /^[0-4]$/.test(e.key)) setDamage(Number(e.key))
    else if (e.key === 'Backspace' && at > 0 && !undo.isPending) undo.mutate()
    else if (e.key === 'Enter' && ready && !(e.target as Element).matches('button')) submit(e)
    else return
    e.preventDefault()
  }
  return (
    <section className="sheet" aria-labelledby="next">
      <form className="grid grid-cols-[minmax(0,1fr)] gap-3" onSubmit={submit} onKeyDown={key}>
        <p className="num text-soft">
          Test {at + 1} of {s.steps.length}
        </p>
        <h2 id="next" className="text-2xl">
          <span className="num whitespace-nowrap">{step.code}</span> at{' '}
          <span className="num whitespace-nowrap">{step.says}</span>
        </h2>
        {s.measured ? (
          <label className="text-sm font-semibold">
            Deflection <span className="num font-normal text-soft">mm</span>
            <input
              ref={first as React.RefObject<HTMLInputElement>}
              className="input num max-w-48 text-2xl font-normal"
              inputMode="decimal"
              autoComplete="off"
              data-unit="mm"
              data-advance=""
              value={deflection}
              onChange={(e) => setDeflection(e.target.value)}
            />
          </label>
        ) : (
          <>
            <fieldset
              ref={first as React.RefObject<HTMLFieldSetElement>}
              tabIndex={-1}
              aria-label={`What ${step.code} shows; keys 0 to 4`}
            >
              <legend className="text-sm font-semibold">What it shows: keys 0 to 4, then Enter</legend>
              <div className="mt-1 grid gap-2 sm:grid-cols-5">
                {s.series.anchors?.map((anchor, i) => (
                  <label
                    key={i}
                    className="button grid min-h-16 grid-cols-[auto_1fr] items-center gap-2 text-left whitespace-normal has-checked:bg-act has-checked:text-sheet"
                  >
                    <input type="radio" name="damage" checked={damage === i} onChange={() => setDamage(i)} />
                    <span>
                      <span className="num font-semibold">{i}</span> {anchor}
                      {i >= (s.series.fails_from ?? 0) && <span className="block text-sm">failed</span>}
                    </span>
                  </label>
                ))}
              </div>
            </fieldset>
            <div className="grid gap-3 sm:grid-cols-2">
              <label className="text-sm font-semibold">
                Which part <span className="font-normal text-soft">optional</span>
                <input
                  className="input font-normal"
                  list="parts"
                  autoComplete="off"
                  value={part}
                  onChange={(e) => setPart(e.target.value)}
                />
                <datalist id="parts">
                  {s.parts.map((p) => (
                    <option key={p.part} value={p.part} />
                  ))}
                </datalist>
              </label>
              <label className="text-sm font-semibold">
                Note <span className="font-normal text-soft">optional</span>
                <input
                  className="input font-normal"
                  autoComplete="off"
                  value={note}
                  onChange={(e) => setNote(e.target.value)}
                />
              </label>
            </div>
          </>
        )}
        <div className="flex flex-wrap gap-2">
          <button className="button button-main" disabled={!ready || keep.isPending}>
            Keep and go on
          </button>
          {at > 0 && (
            <button type="button" className="button" disabled={undo.isPending} onClick={() => undo.mutate()}>
              Take the last test back
            </button>
          )}
        </div>
        {keep.isError && <Complaint>{keep.error.message}</Complaint>}
        {undo.isError && <Complaint>{undo.error.message}</Complaint>}
        <progress
          className="h-2 w-full accent-(--act)"
          aria-label="How far the series has come"
          max={s.steps.length}
          value={at}
        />
      </form>
    </section>
  )
}
