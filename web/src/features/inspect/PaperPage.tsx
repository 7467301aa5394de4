import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, figure } from '../../lib/format'
import { measuresLengths } from '../../lib/instruments'
import { useInstruments } from '../../lib/queries'

type Paper = Schemas['Paper']
type Line = Schemas['PaperLine']
type Typed = Record<number, string>

/** The reading sheet of a print: printed, it has a place to write on for each line; on screen, the same lines take it in. */
export default function PaperPage() {
  const { id = '' } = useParams()
  const instruments = useInstruments()
  const paper = useQuery({
    queryKey: ['runs', id, 'paper'],
    queryFn: () => answer(api.GET('/api/v1/runs/{id}/reading-sheet', { params: { path: { id } } })),
  })
  return (
    <Ready of={paper}>
      {(p) => (
        <Page
          title={`${p.run}: reading sheet`}
          about={`${p.printed} from ${p.machine} in ${p.resin}`}
          actions={
            <>
              <Link className="button" to={`/inspect/${id}`}>
                Back to the copies
              </Link>
              <button className="button button-main" onClick={() => window.print()}>
                Print it
              </button>
            </>
          }
        >
          {p.lines.length === 0 ? (
            <Empty title="Nothing is to be read">
              <p>Its pieces have no sizes, ladders or checkpoints; they are entered on the page of the piece.</p>
            </Empty>
          ) : (
            <Ready of={instruments}>
              {(all) => <Sheet key={id} id={id} p={p} instruments={all.filter((i) => measuresLengths(i.kind))} />}
            </Ready>
          )}
        </Page>
      )}
    </Ready>
  )
}

/** What was typed stays with the print until it is kept. */
function useTyped(id: string) {
  const key = `draft-paper-${id}`
  const [typed, set] = useState<Typed>(() => JSON.parse(localStorage.getItem(key) ?? '{}') as Typed)
  const setTyped = (next: Typed) => {
    set(next)
    localStorage.setItem(key, JSON.stringify(next))
  }
  return [typed, setTyped] as const
}

function Sheet({ id, p, instruments }: { id: string; p: Paper; instruments: Schemas['Instrument'][] }) {
  const [tool, setTool] = useState('')
  const [confirmed, setConfirmed] = useState(false)
  const [typed, setTyped] = useTyped(id)
  const body = (t: Typed, sure = confirmed) => ({
    lines: Object.entries(t).map(([n, text]) => ({ n: Number(n), text })),
    instrument_id: tool || (instruments[0]?.id ?? ''),
    confirmed: sure,
  })
  const look = useMutation({
    mutationFn: (b: Schemas['TypedPaper']) =>
      answer(api.POST('/api/v1/reading-sheet-previews/{id}', { params: { path: { id } }, body: b })),
  })
  const keep = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/runs/{id}/reading-sheet', { params: { path: { id } }, body: body(typed) })),
    onSuccess: (kept) => {
      // What was not kept stays where it was typed.
      const left = kept.fates.filter((f) => f.fate !== 'kept').map((f) => f.n)
      setTyped(Object.fromEntries(Object.entries(typed).filter(([n]) => left.includes(Number(n)))))
      look.reset()
    },
  })
  const fates = new Map((look.data ?? keep.data)?.fates.map((f) => [f.n, f]))
  return (
    <form
      className="grid grid-cols-[minmax(0,1fr)] gap-4"
      aria-label="Reading sheet"
      onSubmit={(e) => {
        e.preventDefault()
        look.mutate(body(typed))
      }}
    >
      <section className="sheet no-print grid gap-2">
        <p>
          Print it, write at the bench, and type it in here in the same order: Enter goes to the next line. Sizes in mm;
          of a ladder the sizes that came out, or <kbd>all</kbd>, <kbd>none</kbd>, <kbd>all but 0.2</kbd>; of a
          checkpoint <kbd>p</kbd> present, <kbd>d</kbd> damaged, <kbd>m</kbd> missing.
        </p>
        <label className="text-sm font-semibold sm:max-w-sm">
          Sizes were read with
          <select className="input font-normal" value={tool} onChange={(e) => setTool(e.target.value)}>
            {instruments.map((i) => (
              <option key={i.id} value={i.id}>
                {i.name}
              </option>
            ))}
          </select>
        </label>
      </section>
      <section className="sheet">
        <img
          className="float-right hidden size-20 [image-rendering:pixelated] print:block"
          src={`/api/v1/runs/${id}/qr.png?url=${encodeURIComponent(window.location.origin)}`}
          alt={`Code that opens ${p.run}`}
        />
        <p className="hidden print:block">Read by ____________________ on ____________ with ____________________</p>
        <ol className="grid">
          {p.lines.map((l, i) => (
            <Row
              key={l.n}
              l={l}
              first={i === 0 || p.lines[i - 1]!.specimen !== l.specimen}
              text={typed[l.n] ?? ''}
              fate={fates.get(l.n)}
              type={(text) => {
                setTyped({ ...typed, [l.n]: text })
                keep.reset()
              }}
              leave={() => look.mutate(body(typed))}
            />
          ))}
        </ol>
      </section>
      <section className="sheet no-print grid gap-2">
        {(look.data?.questioned ?? 0) > 0 && (
          <label className="flex min-h-(--tap) items-center gap-2">
            <input
              type="checkbox"
              checked={confirmed}
              onChange={(e) => {
                setConfirmed(e.target.checked)
                look.mutate(body(typed, e.target.checked))
              }}
            />
            keep those that are questioned too: they are as read
          </label>
        )}
        <button
          type="button"
          className="button button-main justify-self-start"
          disabled={keep.isPending || Object.values(typed).every((text) => text.trim() === '')}
          onClick={() => keep.mutate()}
        >
          {look.data?.kept ? `Keep ${counted(look.data.kept, 'line')}` : 'Keep what was typed'}
        </button>
        {(look.isError || keep.isError) && <Complaint>{(look.error ?? keep.error)!.message}</Complaint>}
        <p role="status">
          {keep.data ? `${counted(keep.data.kept, 'line')} kept. ` : ''}
          {counted(p.unread, 'line')} of {p.lines.length} still to be read.
        </p>
      </section>
    </form>
  )
}

/** One line: what is asked for, a place to write on paper, and the field that takes it in. */
function Row({
  l,
  first,
  text,
  fate,
  type,
  leave,
}: {
  l: Line
  first: boolean
  text: string
  fate?: Schemas['TypedFate']
  type: (text: string) => void
  leave: () => void
}) {
  const name = `${l.n}, ${l.specimen}, ${l.feature}`
  return (
    <li className="break-inside-avoid border-b border-line py-1">
      {first && (
        <h2 className="num pt-2 text-base">
          {l.specimen} <span className="font-sans font-normal text-soft">{l.piece}</span>
        </h2>
      )}
      <div className="grid items-center gap-x-3 sm:grid-cols-[2.5rem_minmax(0,1fr)_14rem_minmax(0,1fr)] print:grid-cols-[2.5rem_minmax(0,1fr)_minmax(0,1.4fr)]">
        <span className="num text-soft">{l.n}</span>
        <span className="wrap-anywhere">
          {l.feature} <Asked l={l} />
        </span>
        {l.was === '' ? (
          <input
            className="input num no-print"
            aria-label={name}
            autoComplete="off"
            inputMode={l.kind === 'size' ? 'decimal' : 'text'}
            data-unit={l.kind === 'size' ? 'mm' : undefined}
            placeholder={{ size: 'mm', ladder: 'all but …', checkpoint: 'p, d or m' }[l.kind]}
            value={text}
            onChange={(e) => type(e.target.value)}
            onBlur={() => text && leave()}
            onKeyDown={(e) => {
              if (e.key !== 'Enter') return
              e.preventDefault()
              const boxes = [...e.currentTarget.form!.querySelectorAll<HTMLInputElement>('ol input')]
              const at = boxes.indexOf(e.currentTarget)
              if (at === boxes.length - 1) e.currentTarget.blur()
              else boxes[at + 1]?.focus()
            }}
          />
        ) : (
          <span className="no-print text-sm wrap-anywhere text-soft">{l.was}</span>
        )}
        <span className="hidden print:block">
          {l.was !== ''
            ? `read: ${l.was}`
            : {
                size: '______________ mm',
                ladder: l.rungs_mm?.map((mm) => `☐ ${figure(mm)}`).join('  '),
                checkpoint: '☐ present  ☐ damaged  ☐ missing',
              }[l.kind]}
        </span>
        <span
          className={`no-print text-sm wrap-anywhere ${fate && fate.fate !== 'kept' && text ? 'font-semibold text-bad' : 'text-soft'}`}
          role={fate && fate.fate !== 'kept' && text ? 'alert' : undefined}
        >
          {text && fate ? (fate.fate === 'questioned' ? `Questioned: ${fate.says}` : fate.says) : ''}
        </span>
      </div>
    </li>
  )
}

function Asked({ l }: { l: Line }) {
  if (l.kind === 'size') return <span className="num whitespace-nowrap text-soft">{figure(l.nominal_mm, 5)} mm</span>
  if (l.kind === 'ladder')
    return <span className="num text-soft">{l.rungs_mm?.map((mm) => figure(mm)).join(' ')} mm</span>
  return null
}
