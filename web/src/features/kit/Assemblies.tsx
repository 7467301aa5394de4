import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider, useFieldArray } from 'react-hook-form'
import { NumberField, TextField } from '../../components/Field'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { counted, duration, figure, percent } from '../../lib/format'
import { n } from '../../lib/input'
import { useAssemblies, usePieces, useSettings } from '../../lib/queries'

type Sheet = Schemas['AssemblySheet']

/** Pieces that are one model printed in parts: what is known of the whole. */
export function Assemblies() {
  const assemblies = useAssemblies()
  const [adding, setAdding] = useState(false)
  return (
    <section className="grid gap-3" aria-label="Models printed in parts">
      <h2>Models printed in parts</h2>
      <Ready of={assemblies}>
        {(list) => (
          <>
            {list.length === 0 && !adding && (
              <p className="text-soft">
                None yet. A model that is printed in parts over several plates is judged as a whole here.
              </p>
            )}
            {list.map((s) => (
              <Whole key={s.assembly.id} s={s} />
            ))}
          </>
        )}
      </Ready>
      {adding ? (
        <Form done={() => setAdding(false)} />
      ) : (
        <button className="button justify-self-start" onClick={() => setAdding(true)}>
          Name a model in parts
        </button>
      )}
    </section>
  )
}

function Whole({ s }: { s: Sheet }) {
  const settings = useSettings()
  const currency = settings.data?.currency ?? ''
  const [whole, part] = [s.makers.filter((m) => m.time_s != null), s.makers.filter((m) => m.time_s == null)]
  return (
    <article className="sheet grid gap-3" aria-label={s.assembly.name}>
      <h3>
        {s.assembly.name}{' '}
        <span className="font-normal text-soft">
          {s.complete > 0
            ? `good parts for ${counted(s.complete, 'whole model')}`
            : `not complete: ${s.missing} is wanting`}
          , <span className="num">{figure(s.volume_ml)} ml</span> each
        </span>
      </h3>
      {s.assembly.note && <p>{s.assembly.note}</p>}
      <div className="overflow-x-auto">
        <table className="rows">
          <thead>
            <tr>
              <th>Part</th>
              <th>Needed</th>
              <th>Judged</th>
              <th>Good</th>
              <th>Failed in printing</th>
              <th>Accidents after</th>
            </tr>
          </thead>
          <tbody>
            {s.parts.map((p) => (
              <tr key={p.piece_id}>
                <th scope="row" className="text-left">
                  {p.piece}
                </th>
                <td className="num">{p.copies}</td>
                <td className="num">
                  {p.counts.specimens - p.counts.pending} of {p.counts.specimens}
                </td>
                <td className="num">{p.good}</td>
                <td className="num">{p.counts.failed}</td>
                <td className="num">{p.counts.accidents}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {whole.length > 0 && <Makers list={whole} currency={currency} />}
      {part.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer content-center">
            {counted(part.length, 'set-up')} of which not all parts are known
          </summary>
          <Makers list={part} currency={currency} />
        </details>
      )}
    </article>
  )
}

/** Set-ups that printed parts of a model, with what the whole takes there. */
function Makers({ list, currency }: { list: Sheet['makers']; currency: string }) {
  return (
    <div className="overflow-x-auto">
      <table className="rows">
        <thead>
          <tr>
            <th>Printed by</th>
            <th>Prints</th>
            <th>Time of a whole ◇</th>
            <th>Resin ◇</th>
            <th>Cost of good parts, {currency} ◇</th>
            <th>Copies that failed</th>
          </tr>
        </thead>
        <tbody>
          {list.map((m) => (
            <tr key={m.machine + m.settings}>
              <th scope="row" className="text-left">
                {m.machine}
                <span className="block text-sm font-normal text-soft">{m.settings}</span>
              </th>
              <td className="num">{m.runs.length}</td>
              <td className="num">
                {m.time_s == null ? 'not known' : duration(m.time_s)}
                {m.reason && <span className="block text-sm text-soft">{m.reason}</span>}
              </td>
              <td className="num">{m.resin_ml == null ? 'not known' : `${figure(m.resin_ml)} ml`}</td>
              <td className="num">{m.cost == null ? 'not known' : m.cost.toFixed(2)}</td>
              <td className="num">
                {m.failed} of {m.judged}
                {m.rate.ci && (
                  <span className="block text-sm text-soft">
                    {percent(m.rate.ci[0])} to {percent(m.rate.ci[1])}
                  </span>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm text-soft">
        Of a plate that held several pieces, each part takes its share by volume. Intervals are at 95 %, over prints.
      </p>
    </div>
  )
}

interface Values {
  name: string
  note: string
  parts: { piece_id: string; copies: string }[]
}

function Form({ done }: { done: () => void }) {
  const pieces = usePieces()
  const form = useDraftForm<Values>('draft-assembly', {
    name: '',
    note: '',
    parts: [
      { piece_id: '', copies: '1' },
      { piece_id: '', copies: '1' },
    ],
  })
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'parts' })
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.POST('/api/v1/assemblies', {
          body: {
            name: v.name,
            note: v.note,
            parts: v.parts.map((p) => ({ piece_id: p.piece_id, copies: n(p.copies) })),
          },
        }),
      ),
    onSuccess: () => {
      form.forget()
      done()
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="sheet grid gap-3"
        aria-label="A model in parts"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
      >
        <div className="grid gap-3 sm:grid-cols-2">
          <TextField name="name" label="Name of the model" />
          <TextField name="note" label="Note" />
        </div>
        {fields.map((f, i) => (
          <div key={f.id} className="grid items-end gap-2 sm:grid-cols-[minmax(0,2fr)_8rem_auto]">
            <label className="text-sm font-semibold">
              Part
              <select
                className="input font-normal"
                aria-label={`Part ${i + 1}`}
                {...form.register(`parts.${i}.piece_id`)}
              >
                <option value="">choose</option>
                {(pieces.data ?? []).map((p) => (
                  <option key={p.piece.id} value={p.piece.id}>
                    {p.piece.name}
                  </option>
                ))}
              </select>
            </label>
            <NumberField name={`parts.${i}.copies`} label="Needed" />
            {fields.length > 1 && (
              <button type="button" className="button" onClick={() => remove(i)}>
                Take out
              </button>
            )}
          </div>
        ))}
        <button
          type="button"
          className="button justify-self-start"
          onClick={() => append({ piece_id: '', copies: '1' })}
        >
          Another part
        </button>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div className="flex gap-2">
          <button className="button button-main" disabled={save.isPending}>
            Keep this model
          </button>
          <button type="button" className="button" onClick={done}>
            Leave it
          </button>
        </div>
      </form>
    </FormProvider>
  )
}
