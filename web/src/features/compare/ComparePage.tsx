import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link, useSearchParams } from 'react-router'
import { VisibleDetail } from '../../components/VisibleDetail'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { useReviews, useSetUps } from '../../lib/queries'
import { Audit } from './Audit'
import { Figures } from './Figures'
import { counted } from '../../lib/format'

type Question = 'detail' | 'dimension' | 'time' | 'failure' | 'finish' | 'cost'
const questions: Question[] = ['detail', 'dimension', 'time', 'failure', 'finish', 'cost']

/** Sides and question live in the address, so that a comparison can be sent or kept. */
export default function ComparePage() {
  const [params, setParams] = useSearchParams()
  const reviews = useReviews()
  const reviewID = params.get('review') ?? (params.get('a') ? '' : (reviews.data?.[0]?.id ?? ''))
  const setups = useSetUps(reviewID)
  const review = reviews.data?.find((r) => r.id === reviewID)
  const piece = params.get('piece') ?? setups.data?.[0]?.piece_id ?? ''
  const list = (setups.data ?? []).filter((s) => s.piece_id === piece)
  const a = params.get('a')?.split(',') ?? list[0]?.run_ids ?? []
  const b = params.get('b')?.split(',') ?? list[1]?.run_ids ?? []
  const question = (params.get('question') ?? 'detail') as Question
  const change = (key: string, value: string, drop: string[] = []) => {
    const next = new URLSearchParams(params)
    next.set(key, value)
    for (const d of drop) next.delete(d)
    setParams(next, { replace: true })
  }
  const pieces = [...new Map((setups.data ?? []).map((s) => [s.piece_id, s.piece])).entries()]
  return (
    <Page title="Compare" about={review ? review.question : 'Two set-ups, side by side. The audit comes first.'}>
      <div className="sheet no-print grid gap-3 sm:grid-cols-2 lg:grid-cols-5">
        <Choice label="Review" value={reviewID} change={(v) => change('review', v, ['a', 'b', 'piece'])}>
          <option value="">two chosen prints</option>
          {(reviews.data ?? []).map((r) => (
            <option key={r.id} value={r.id}>
              {r.question}
            </option>
          ))}
        </Choice>
        {reviewID !== '' && (
          <>
            <Choice label="Piece" value={piece} change={(v) => change('piece', v, ['a', 'b'])}>
              {pieces.map(([id, name]) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </Choice>
            <SideChoice label="Side A" list={list} value={a} change={(v) => change('a', v)} />
            <SideChoice label="Side B" list={list} value={b} change={(v) => change('b', v)} />
          </>
        )}
        <Choice label="Question" value={question} change={(v) => change('question', v)}>
          {questions.map((q) => (
            <option key={q}>{q}</option>
          ))}
        </Choice>
      </div>
      {a.length > 0 && b.length > 0 ? (
        <Result
          a={a}
          b={b}
          question={question}
          review={review}
          piece={reviewID ? piece : (params.get('piece') ?? '')}
        />
      ) : (
        <Empty title="Two sides are needed">
          <p>
            A review lists its machines, resins and pieces; each set-up that printed one of its pieces can be a side. Or
            choose two beads on the <Link to="/">bench</Link>.
          </p>
          {reviews.data?.length === 0 ? (
            <Link to="/verdict/new">State the question of a review</Link>
          ) : (
            <Link to="/runs/new">Record a print</Link>
          )}
        </Empty>
      )}
    </Page>
  )
}

function Choice({
  label,
  value,
  change,
  children,
}: {
  label: string
  value: string
  change: (v: string) => void
  children: React.ReactNode
}) {
  return (
    <label className="min-w-0 text-sm font-semibold">
      {label}
      <select className="input font-normal" value={value} onChange={(e) => change(e.target.value)}>
        {children}
      </select>
    </label>
  )
}

function SideChoice({
  label,
  list,
  value,
  change,
}: {
  label: string
  list: Schemas['SetUp'][]
  value: string[]
  change: (v: string) => void
}) {
  return (
    <Choice label={label} value={value.join(',')} change={change}>
      {list.map((s) => (
        <option key={s.run_ids.join()} value={s.run_ids.join(',')}>
          {s.label}, {counted(s.runs.length, 'run')}
        </option>
      ))}
    </Choice>
  )
}

function Result({
  a,
  b,
  question,
  review,
  piece,
}: {
  a: string[]
  b: string[]
  question: Question
  review?: Review
  piece: string
}) {
  const query = { a, b, question, piece_id: piece, under_test: review?.under_test ?? [], policy: review?.policy ?? '' }
  const comparison = useQuery({
    queryKey: ['comparison', query],
    placeholderData: keepPreviousData,
    queryFn: () =>
      answer(
        api.GET('/api/v1/comparison', {
          params: { query },
          querySerializer: { array: { style: 'form', explode: false } },
        }),
      ),
  })
  return (
    <Ready of={comparison}>
      {(c) => (
        <>
          {a.join() === b.join() && <Complaint>Both sides are the same prints; choose another side.</Complaint>}
          <Audit c={c} />
          <Figures c={c} />
          <p className="text-soft">What this puts to the test: {c.a.difficulty}</p>
          <VisibleDetail machines={[...new Set([c.a.machine_id, c.b.machine_id])]} piece={c.a.piece_id} />
        </>
      )}
    </Ready>
  )
}
