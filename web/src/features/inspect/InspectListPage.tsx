import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, moment } from '../../lib/format'
import { FromTable } from './FromTable'

type Plate = Schemas['PlateToRead']

/** What is still to be read, on which plate, in the order in which open questions need it; or a copy by its code. */
export default function InspectListPage() {
  const plates = useQuery({
    queryKey: ['plates to read'],
    queryFn: () => answer(api.GET('/api/v1/plates-to-read')),
  })
  return (
    <Page
      title="Inspect"
      about="Scan or type the code of the copy in your hand, or take the next plate: what open questions need stands first."
      actions={
        <>
          <Link className="button" to="/inspect/readings">
            Every reading
          </Link>
          <Link className="button" to="/tables/outcomes">
            Outcomes as a table
          </Link>
          <Link className="button" to="/inspect/stress">
            Stress series
          </Link>
        </>
      }
    >
      <ByCode />
      <Ready of={plates}>
        {(list) =>
          list.length === 0 ? (
            <Empty title="Nothing to inspect yet">
              <Link to="/runs/new">Record a print first</Link>
            </Empty>
          ) : (
            <>
              {list.some(unread) ? (
                <section className="sheet overflow-x-auto" aria-label="Plates to be read">
                  <Plates list={list.filter(unread)} />
                </section>
              ) : (
                <p>Every plate here is read to its end.</p>
              )}
              {list.some((p) => !unread(p)) && (
                <details className="sheet overflow-x-auto">
                  <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
                    {counted(list.filter((p) => !unread(p)).length, 'plate')} read to the end
                  </summary>
                  <Plates list={list.filter((p) => !unread(p))} />
                </details>
              )}
            </>
          )
        }
      </Ready>
      {plates.data && plates.data.length > 0 && <FromTable />}
    </Page>
  )
}

/** Opens the copy whose code a scanner or the keyboard gives. */
function ByCode() {
  const navigate = useNavigate()
  const [code, setCode] = useState('')
  return (
    <form
      className="sheet flex flex-wrap items-end gap-3"
      aria-label="A copy by its code"
      onSubmit={(e) => {
        e.preventDefault()
        if (code.trim()) void navigate(`/specimens/${encodeURIComponent(code.trim().toUpperCase())}`)
      }}
    >
      <label className="text-sm font-semibold">
        Code on the label
        <input
          className="input num text-lg font-normal"
          autoComplete="off"
          placeholder="S-014-03"
          value={code}
          onChange={(e) => setCode(e.target.value)}
        />
      </label>
      <button className="button button-main">Take it into hand</button>
    </form>
  )
}

const unread = (p: Plate) => left(p.sizes) + left(p.rungs) + left(p.checkpoints) + p.unjudged > 0

function Plates({ list }: { list: Plate[] }) {
  return (
    <table className="rows w-full">
      <caption className="sr-only">Plates, and what is still to be read on them</caption>
      <thead>
        <tr>
          <th scope="col">Plate</th>
          <th scope="col">From</th>
          <th scope="col">Still to be read</th>
          <th scope="col">Asked by</th>
        </tr>
      </thead>
      <tbody>
        {list.map((p) => (
          <Row key={p.id} p={p} />
        ))}
      </tbody>
    </table>
  )
}

const left = (r: Plate['sizes']) => r.of - r.done

function Row({ p }: { p: Plate }) {
  const still = [
    left(p.sizes) > 0 && counted(left(p.sizes), 'size'),
    left(p.rungs) > 0 && counted(left(p.rungs), 'rung'),
    left(p.checkpoints) > 0 && counted(left(p.checkpoints), 'checkpoint'),
    p.unjudged > 0 && `${counted(p.unjudged, 'copy', 'copies')} not judged`,
  ].filter(Boolean)
  return (
    <tr>
      <td>
        <Link
          to={`/inspect/${p.id}${p.next_specimen_id ? `?specimen=${p.next_specimen_id}` : ''}`}
          className="inline-block min-h-(--tap) content-center"
        >
          <span className="num font-bold">{p.code}</span> {p.printed}
        </Link>
      </td>
      <td>
        {p.machine}, {p.resin}
        <span className="block text-sm text-soft">{moment(p.started_ms)}</span>
      </td>
      <td>
        {still.length > 0 ? still.join(', ') : 'nothing'}
        <span className="block text-sm text-soft">
          {[
            `${p.sizes.done + p.rungs.done + p.checkpoints.done} read`,
            p.ratings > 0 && counted(p.ratings, 'rating'),
            p.photographs > 0 && counted(p.photographs, 'photograph'),
          ]
            .filter(Boolean)
            .join(', ')}
        </span>
      </td>
      <td className="text-sm">
        {p.questions.length > 0 ? p.questions.join(' ') : <span className="text-soft">no open question</span>}
      </td>
    </tr>
  )
}
