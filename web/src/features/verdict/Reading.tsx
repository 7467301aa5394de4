import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { counted } from '../../lib/format'

type Remark = Schemas['ProseRemark']

const rules: Record<Remark['rule'], string> = {
  number: 'A number that is not the record’s',
  ratio: 'A ratio under another name',
  unit: 'That cannot be',
  absolute: 'More than prints can show',
  no_base: 'Compared with nothing',
  cause: 'A cause, where something else differed too',
  strength: 'Stronger than its finding',
  unmeasured: 'Nobody measured it',
  name: 'Not in the record',
}

/** What the reviewer wrote, read over the shoulder: what says more than the record, why, and what could stand there. */
export function Reading({ review }: { review: Review }) {
  const id = review.id ?? ''
  const texts = useQuery({
    queryKey: ['texts', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/texts', { params: { path: { id } } })),
  })
  if (!texts.data) return null
  const { texts: list, figures } = texts.data
  const questioned = list.filter((t) => t.remarks.length > 0)
  const n = questioned.reduce((sum, t) => sum + t.remarks.length, 0)
  return (
    <section className="sheet grid gap-3" aria-label="Read over your shoulder">
      <h2>
        Read over your shoulder{' '}
        <span className="font-normal text-soft">
          {list.length === 0
            ? 'nothing is written yet'
            : n === 0
              ? 'nothing to question in what you wrote'
              : `${counted(n, 'place')} to look at again`}
        </span>
      </h2>
      {questioned.map((t) => (
        <div key={t.field} className="grid gap-2 border-t border-line pt-2">
          <h3>
            {t.label}
            {t.field.startsWith('finding') && (
              <Link className="ml-3 font-normal" to={`/verdict/${id}/findings`}>
                reword it
              </Link>
            )}
          </h3>
          <ul className="grid gap-2">
            {t.remarks.map((r) => (
              <li key={`${r.from} ${r.rule}`} className="wrap-anywhere">
                <Place text={t.text} r={r} />
                <span className="block">
                  <strong>{rules[r.rule]}.</strong> {r.why}
                  {r.offer !== '' && <span className="text-soft"> Better: {r.offer}</span>}
                </span>
              </li>
            ))}
          </ul>
        </div>
      ))}
      {figures.length > 0 && <Live figures={figures} />}
    </section>
  )
}

/** The place in its text, marked, with a few words around it. The program counts bytes. */
function Place({ text, r }: { text: string; r: Remark }) {
  const bytes = new TextEncoder().encode(text)
  const part = (from: number, to: number) => new TextDecoder().decode(bytes.slice(from, to))
  const [before, after] = [part(0, r.from), part(r.to, bytes.length)]
  return (
    <span className="block border-l-4 border-line pl-3">
      {before.length > 60 ? `…${before.slice(before.indexOf(' ', before.length - 60))}` : before}
      <mark>{r.text}</mark>
      {after.length > 60 ? `${after.slice(0, after.lastIndexOf(' ', 60))} …` : after}
    </span>
  )
}

/** Figures of the record by the names that may stand in text: they are worked out anew whenever it goes out. */
function Live({ figures }: { figures: Schemas['LiveFigure'][] }) {
  const [sought, setSought] = useState('')
  const [copied, setCopied] = useState('')
  const found = figures.filter((f) => f.name.toLowerCase().includes(sought.trim().toLowerCase())).slice(0, 12)
  return (
    <details className="border-t border-line pt-2">
      <summary className="min-h-(--tap) cursor-pointer content-center">
        <strong>Live figures</strong>{' '}
        <span className="text-soft">stand in your text by name, and are worked out anew whenever it goes out</span>
      </summary>
      <label className="block max-w-md text-sm font-semibold">
        Find a figure
        <input
          className="input font-normal"
          placeholder="a piece, a machine, a measure"
          value={sought}
          onChange={(e) => setSought(e.target.value)}
        />
      </label>
      <ul className="grid">
        {found.map((f) => (
          <li key={f.name} className="flex flex-wrap items-center gap-3 border-t border-line py-1">
            <code className="num min-w-0 grow basis-60 wrap-anywhere">{`{{${f.name}}}`}</code>
            <span className="num">{f.says}</span>
            <button
              type="button"
              className="button"
              aria-label={`Copy the name of ${f.name}`}
              onClick={() => {
                void navigator.clipboard.writeText(`{{${f.name}}}`).then(() => setCopied(f.name))
              }}
            >
              {copied === f.name ? 'Copied' : 'Copy'}
            </button>
          </li>
        ))}
      </ul>
    </details>
  )
}
