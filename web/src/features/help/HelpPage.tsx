import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import type { Schemas } from '../../lib/api'
import { useGuide } from '../../lib/queries'
import { Computed } from './Computed'

type Guide = Schemas['Guide']
type Chapter = Schemas['Chapter']

/** The help: the whole job told once, every view, and of each figure how it is computed. */
export default function HelpPage() {
  const { key } = useParams()
  const guide = useGuide()
  return <Ready of={guide}>{(g) => (key ? <Figure g={g} name={key} /> : <Whole g={g} />)}</Ready>
}

function Whole({ g }: { g: Guide }) {
  const [sought, setSought] = useState('')
  const words = sought.trim().toLowerCase().split(/\s+/).filter(Boolean)
  const has = (...texts: string[]) => words.every((w) => texts.some((t) => t.toLowerCase().includes(w)))
  const [job, views] = [g.job, g.views].map((list) => list.filter((c) => has(c.title, c.text))) as [
    Chapter[],
    Chapter[],
  ]
  const figures = g.figures.filter((f) => has(f.title, f.says, ...f.computations))
  const computations = words.length === 0 ? [] : g.computations.filter((c) => has(c.name, c.says))
  const found = job.length + views.length + figures.length + computations.length
  return (
    <Page title="Help" about="The whole job told once, each view, and how each figure is computed.">
      <label className="sheet block text-sm font-semibold">
        Find in the help
        <input
          className="input font-normal"
          type="search"
          placeholder="interval, bundle, film, Holm"
          value={sought}
          onChange={(e) => setSought(e.target.value)}
        />
      </label>
      {found === 0 && <Empty title={`Nothing says “${sought}”`}>Fewer words find more.</Empty>}
      <Chapters title="The whole job, on the demo" list={job} open={words.length > 0} />
      {figures.length > 0 && (
        <section className="sheet grid gap-2" aria-label="How each figure is computed">
          <h2>How each figure is computed</h2>
          <ul className="grid gap-x-6 md:grid-cols-2">
            {figures.map((f) => (
              <li key={f.key} className="border-t border-line py-2">
                <Link to={`/help/${f.key}`} className="font-semibold">
                  {f.title}
                </Link>
                <span className="block text-sm text-soft">{f.says}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Chapters title="Each view" list={views} open={words.length > 0} />
      {computations.length > 0 && (
        <section className="sheet grid gap-2" aria-label="Computations">
          <h2>
            Computations <span className="font-normal text-soft">{computations.length} of them</span>
          </h2>
          {computations.slice(0, 30).map((c) => (
            <Computed key={c.name} c={c} />
          ))}
          {computations.length > 30 && <p className="text-soft">{computations.length - 30} more; narrow them down.</p>}
        </section>
      )}
    </Page>
  )
}

function Chapters({ title, list, open }: { title: string; list: Chapter[]; open: boolean }) {
  const navigate = useNavigate()
  if (list.length === 0) return null
  return (
    <section className="sheet grid gap-1" aria-label={title}>
      <h2>{title}</h2>
      {list.map((c) => (
        <details key={c.id} id={c.id} className="border-t border-line" open={open && list.length < 4}>
          <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">{c.title}</summary>
          {/* The text ships with the program; its links lead within it. */}
          <div
            className="prose-like grid gap-2 pb-3"
            onClick={(e) => {
              const to = (e.target as Element).closest('a')?.getAttribute('href')
              if (!to) return
              e.preventDefault()
              void navigate(to)
            }}
            dangerouslySetInnerHTML={{ __html: c.html }}
          />
        </details>
      ))}
    </section>
  )
}

function Figure({ g, name }: { g: Guide; name: string }) {
  const figure = g.figures.find((f) => f.key === name)
  if (!figure) {
    return (
      <Page title="No such figure">
        <Empty title="The help has no figure of this name">
          <Link to="/help">All of the help</Link>
        </Empty>
      </Page>
    )
  }
  const computations = figure.computations.flatMap((n) => g.computations.filter((c) => c.name === n))
  return (
    <Page
      title={figure.title}
      about={
        <>
          {figure.says} <Link to="/help">All of the help</Link>
        </>
      }
    >
      <section className="sheet grid gap-2">
        <h2>How it is computed</h2>
        <p className="text-soft">
          In the words of the computations themselves, each with its formula or rule and its source.
        </p>
        {computations.map((c, i) => (
          <Computed key={c.name} c={c} open={i === 0} />
        ))}
      </section>
    </Page>
  )
}
