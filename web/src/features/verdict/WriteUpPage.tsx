import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
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

function Order({ id, parts }: { id: string; parts: Parts }) {
  const client = useQueryClient()
  const [writing, setWriting] = useState<number | undefined>(undefined)
  const save = useMutation({
    mutationFn: (next: { parts: Part[]; each: Part[] }) =>
      answer(
        api.PUT('/api/v1/reviews/{id}/parts', {
          params: { path: { id } },
          body: { version: parts.version, blocks: [...next.parts, ...next.each].map(block) },
        }),
      ),
    onMutate: (next) => client.setQueryData<Parts>(['write-up', 'parts', id], (old) => old && { ...old, ...next }),
    onError: () => client.invalidateQueries({ queryKey: ['write-up', 'parts', id] }),
    onSuccess: (saved) => {
      client.setQueryData<Parts>(
        ['write-up', 'parts', id],
        (old) => old && { ...old, version: saved.version ?? old.version },
      )
      setWriting(undefined)
    },
  })
  const put = (list: 'parts' | 'each', next: Part[]) =>
    save.mutate({ parts: parts.parts, each: parts.each, [list]: next })
  const rows = (list: 'parts' | 'each') =>
    parts[list].map((p, i) => (
      <PartRow
        key={p.key}
        p={p}
        photographs={parts.photographs}
        busy={save.isPending}
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
        write={list === 'parts' ? () => setWriting(i) : undefined}
      >
        {list === 'parts' && writing === i && (
          <OwnPart
            photographs={parts.photographs}
            busy={save.isPending}
            close={() => setWriting(undefined)}
            keep={(own) =>
              put('parts', [
                ...parts.parts.slice(0, i + 1),
                { ...own, key: newKey(parts.parts), own: true, out: false, empty: false, name: own.title ?? '' },
                ...parts.parts.slice(i + 1),
              ])
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
