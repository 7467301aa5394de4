import { useMutation, useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import { Link, useParams } from 'react-router'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { counted } from '../../lib/format'
import { useReviews } from '../../lib/queries'
import { Forms } from './Forms'
import { OwnPart } from './OwnPart'
import { PartRow } from './PartRow'

type Parts = Schemas['WriteUpParts']
export type Part = Schemas['WriteUpPart']
type Block = Schemas['Block']

const unnamed = 'Your own words'

const block = ({ key, out, title, text, pictures }: Part): Block => ({ key, out, title, text, pictures })

/** The next key of a part of one's own. */
function newKey(parts: Part[]): string {
  const used = parts.filter((p) => p.own).map((p) => Number(p.key.replace('own-', '')) || 0)
  return `own-${Math.max(0, ...used) + 1}`
}

/** How a review is written up: its parts in order, what is left out, and what is put between. */
export default function WriteUpPage() {
  const { id = '' } = useParams()
  const review = useReviews().data?.find((r) => r.id === id)
  const parts = useQuery({
    queryKey: ['write-up', 'parts', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/parts', { params: { path: { id } } })),
  })
  return (
    <Page
      title="Write-up"
      about={
        <>
          {review && <Link to={`/verdict/${id}`}>{review.question}</Link>} Every figure in it is computed anew from the
          record whenever it goes out.
        </>
      }
      actions={
        <a
          className="button button-main"
          href={`/api/v1/reviews/${id}/write-up.html?show=true`}
          target="_blank"
          rel="noreferrer"
        >
          See the page
        </a>
      }
    >
      <Forms id={id} />
      <Ready of={parts}>{(p) => <Order id={id} parts={p} />}</Ready>
    </Page>
  )
}

interface Lists {
  parts: Part[]
  each: Part[]
}

function Order({ id, parts: kept }: { id: string; parts: Parts }) {
  const [writing, setWriting] = useState('')
  // What was put in order here stands until the record that comes back is as new.
  const [mine, setMine] = useState<Lists & { version: number }>()
  const version = useRef(0)
  const parts = mine && mine.version > kept.version ? { ...kept, ...mine } : kept
  const save = useMutation({
    scope: { id: `parts of ${id}` }, // one after the other, each on the version that the one before left
    mutationFn: (next: Lists) =>
      answer(
        api.PUT('/api/v1/reviews/{id}/parts', {
          params: { path: { id } },
          body: {
            version: Math.max(version.current, kept.version),
            blocks: [...next.parts, ...next.each].map(block),
          },
        }),
      ),
    onError: () => setMine(undefined),
    onSuccess: (saved, sent) => {
      version.current = saved.version ?? 0
      setMine((now) =>
        now?.parts === sent.parts && now.each === sent.each ? { ...now, version: version.current } : now,
      )
    },
  })
  const put = (list: 'parts' | 'each', next: Part[], then?: () => void) => {
    const lists = { parts: parts.parts, each: parts.each, [list]: next }
    setMine({ ...lists, version: Infinity })
    save.mutate(lists, { onSuccess: then })
  }
  const rows = (list: 'parts' | 'each') =>
    parts[list].map((p, i) => (
      <PartRow
        key={p.key}
        p={p}
        photographs={parts.photographs}
        first={i === 0}
        last={i === parts[list].length - 1}
        move={(by) => {
          const next = parts[list].filter((_, at) => at !== i)
          next.splice(i + by, 0, p)
          put(list, next)
        }}
        change={(changed) =>
          put(
            list,
            parts[list].flatMap((q, at) => (at !== i ? [q] : changed ? [changed] : [])),
          )
        }
        write={list === 'parts' ? () => setWriting(p.key) : undefined}
      >
        {list === 'parts' && writing === p.key && (
          <OwnPart
            photographs={parts.photographs}
            busy={save.isPending}
            close={() => setWriting('')}
            keep={(own) =>
              put(
                'parts',
                [
                  ...parts.parts.slice(0, i + 1),
                  { ...own, key: newKey(parts.parts), own: true, out: false, empty: false, name: own.title || unnamed },
                  ...parts.parts.slice(i + 1),
                ],
                () => setWriting(''),
              )
            }
          />
        )}
      </PartRow>
    ))
  const out = [...parts.parts, ...parts.each].filter((p) => p.out && !p.empty).length
  return (
    <>
      <section className="sheet grid gap-2" aria-label="Parts of the write-up">
        <h2>
          What stands in it, in this order{' '}
          <span className="font-normal text-soft">
            {out === 0 ? 'nothing is left out' : `${counted(out, 'part')} left out, which the write-up says`}
          </span>
        </h2>
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <ol>{rows('parts')}</ol>
      </section>
      <section className="sheet grid gap-2" aria-label="Parts of each comparison">
        <h2>
          Within the comparison of each piece{' '}
          <span className="font-normal text-soft">tables, plots and photographs of the sides</span>
        </h2>
        <ol>{rows('each')}</ol>
      </section>
    </>
  )
}
