import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Effects } from '../../components/Effects'
import { VisibleDetail } from '../../components/VisibleDetail'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { useAddress } from '../../lib/address'
import { useDeciding, useLeftOut, useReviews, useSetUps } from '../../lib/queries'
import { Audits, type Tested } from './Audit'
import { Eyes } from './Eyes'
import { Figures } from './Figures'
import { BlindRows } from './BlindRows'
import { LivedTable } from './LivedTable'
import { Pictures } from './Pictures'
import { SideList } from './SideList'

type Question = 'detail' | 'dimension' | 'time' | 'failure' | 'finish' | 'cost' | 'strength'
const questions: Question[] = ['detail', 'dimension', 'time', 'failure', 'finish', 'cost', 'strength']

/** As many sides as one comparison takes. */
export const mostSides = 12

/** As a piece: the prints of all of them, set against each other piece by piece. */
const allPieces = 'all'

/** The runs of each side, as the address has them: once for each side, or all in one with semicolons. */
const sidesIn = (params: URLSearchParams) =>
  params
    .getAll('side')
    .flatMap((s) => s.split(';'))
    .map((s) => s.split(',').filter(Boolean))
    .filter((s) => s.length > 0)

/** Sides and question live in the address, so that a comparison can be sent or kept. */
export default function ComparePage() {
  const [params, change] = useAddress()
  const reviews = useReviews()
  const named = sidesIn(params)
  const reviewID = params.get('review') ?? (named.length > 0 ? '' : (reviews.data?.[0]?.id ?? ''))
  const together = params.get('piece') === allPieces
  const setups = useSetUps(reviewID)
  const matched = useSetUps(together ? reviewID : '', true)
  const review = reviews.data?.find((r) => r.id === reviewID)
  const pieces = [...new Map((setups.data ?? []).map((s) => [s.piece_id, s.piece])).entries()]
  const piece = params.get('piece') ?? pieces[0]?.[0] ?? ''
  const list = together ? (matched.data ?? []) : (setups.data ?? []).filter((s) => s.piece_id === piece)
  const sides = named.length > 0 ? named : list.slice(0, mostSides).map((s) => s.run_ids)
  const question = (params.get('question') ?? 'detail') as Question
  // Without one in the address the server takes what the review declared, or the first.
  const baseline = params.has('baseline') ? Math.min(Number(params.get('baseline')), sides.length - 1) : -1
  const under = params.getAll('under')
  const set = (key: string, value: string, drop: string[] = []) =>
    change((next) => {
      next.set(key, value)
      for (const d of drop) next.delete(d)
    })
  return (
    <Page title="Compare" about={review ? review.question : 'Set-ups side by side. The audit comes first.'}>
      <div className="sheet no-print grid gap-3">
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <Choice label="Review" value={reviewID} change={(v) => set('review', v, ['side', 'piece', 'baseline'])}>
            <option value="">prints chosen by hand</option>
            {(reviews.data ?? []).map((r) => (
              <option key={r.id} value={r.id}>
                {r.question}
              </option>
            ))}
          </Choice>
          {reviewID !== '' && (
            <Choice label="Piece" value={piece} change={(v) => set('piece', v, ['side', 'baseline'])}>
              {pieces.map(([id, name]) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
              {pieces.length > 1 && <option value={allPieces}>all pieces, matched</option>}
            </Choice>
          )}
          <Choice label="Question" value={question} change={(v) => set('question', v)}>
            {questions.map((q) => (
              <option key={q}>{q}</option>
            ))}
          </Choice>
          <Choice label="All against" value={String(baseline)} change={(v) => set('baseline', v)}>
            {baseline < 0 && <option value={-1}>{review?.deciding?.at(-1)?.measure ? 'as declared' : 'A'}</option>}
            {sides.map(
              (_, i) =>
                (i > 0 || baseline >= 0 || review?.deciding?.at(-1)?.measure) && (
                  <option key={i} value={i}>
                    {String.fromCharCode(65 + i)}
                  </option>
                ),
            )}
          </Choice>
        </div>
        {reviewID !== '' && list.length > 0 && (
          <SideList
            list={list}
            chosen={sides}
            choose={(next) =>
              change((p) => {
                p.delete('side')
                p.delete('baseline')
                if (!p.get('review')) p.set('review', reviewID)
                if (!p.get('piece')) p.set('piece', piece)
                for (const side of next) p.append('side', side.join(','))
              })
            }
          />
        )}
      </div>
      {sides.length > 1 ? (
        <Result
          sides={sides}
          baseline={baseline}
          question={question}
          review={review}
          tested={{
            here: under,
            all: [...new Set([...(review?.under_test ?? []), ...under])],
            turn: (factor) =>
              change((next) => {
                next.delete('under')
                for (const f of under.includes(factor) ? under.filter((x) => x !== factor) : [...under, factor])
                  next.append('under', f)
              }),
          }}
          piece={together ? '' : reviewID ? piece : (params.get('piece') ?? '')}
        />
      ) : (
        <NeedsSides one={sides.length === 1} none={reviews.data?.length === 0} />
      )}
    </Page>
  )
}

function NeedsSides({ one, none }: { one: boolean; none: boolean }) {
  return (
    <Empty title={one ? 'One side more is needed' : 'Two sides are needed'}>
      <p>
        A review lists its machines, resins and pieces; each set-up that printed one of its pieces can be a side. Or
        choose two beads on the <Link to="/">bench</Link>.
      </p>
      {none ? (
        <Link to="/verdict/new">State the question of a review</Link>
      ) : (
        <Link to="/runs/new">Record a print</Link>
      )}
    </Empty>
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

function Result({
  sides,
  baseline,
  question,
  review,
  tested,
  piece,
}: {
  sides: string[][]
  baseline: number
  question: Question
  review?: Review
  tested: Tested
  piece: string
}) {
  const query = {
    side: sides.map((s) => s.join(',')),
    baseline,
    question,
    piece_id: piece,
    under_test: tested.all,
    policy: review?.policy ?? ('' as const),
    review_id: review?.id ?? '',
  }
  const comparison = useQuery({
    queryKey: ['comparison', query],
    placeholderData: keepPreviousData,
    queryFn: () => answer(api.GET('/api/v1/comparison', { params: { query } })),
  })
  return (
    <Ready of={comparison}>
      {(c) => (
        <>
          {new Set(sides.map((s) => s.join())).size < sides.length && (
            <Complaint>Two sides are the same prints; choose another side.</Complaint>
          )}
          {review && <Declared id={review.id} />}
          <Audits audits={c.audits} sides={c.sides} question={c.question} tested={tested} />
          {c.pairs.length > 0 && (
            <section className="sheet grid gap-1" aria-label="Which pair answers what">
              <h2>Which pair answers what</h2>
              {c.pairs.map((s) => (
                <p key={s}>{s}</p>
              ))}
            </section>
          )}
          <Figures c={c} query={query} />
          <BlindRows c={c} />
          {c.question !== 'time' && c.question !== 'cost' && <Pictures c={c} />}
          {review && <LeftOutNote review={review} />}
          <PutToTheTest sides={c.sides} />
          {(c.question === 'detail' || c.question === 'finish') && <Sight c={c} />}
          <LivedTable c={c} />
        </>
      )}
    </Ready>
  )
}

/** What eyes can tell between the sides, and of what each machine draws. */
function Sight({ c }: { c: Schemas['Comparison'] }) {
  return (
    <>
      <Eyes c={c} />
      <VisibleDetail
        machines={[...new Set(c.sides.map((s) => s.machine_id).filter(Boolean))]}
        piece={c.sides[0]?.piece_id}
      />
    </>
  )
}

/** What was declared to decide, and when: it is read before the figures are. */
function Declared({ id }: { id: string }) {
  const said = useDeciding(id).data?.declared ?? []
  if (said.length === 0) return null
  return (
    <section className="sheet grid gap-1" aria-label="What decides">
      <h2>What decides</h2>
      {said.map((s) => (
        <p key={s}>{s}</p>
      ))}
    </section>
  )
}

/** What the review leaves out, with its reasons and what that did. */
function LeftOutNote({ review }: { review: Review }) {
  const list = useLeftOut(review.id).data ?? []
  if (list.length === 0) return null
  return (
    <section className="sheet grid gap-2" aria-label="Prints left out">
      <h2>Prints left out</h2>
      {list.map((p) => (
        <details key={p.run_id}>
          <summary className="min-h-(--tap) cursor-pointer content-center wrap-anywhere">
            <strong>{p.run}:</strong> {p.reason}
          </summary>
          <Effects of={p} />
        </details>
      ))}
      <Link to={`/verdict/${review.id}`}>Leave a print out, or count one again</Link>
    </section>
  )
}

function PutToTheTest({ sides }: { sides: Schemas['Side'][] }) {
  const said = [...new Set(sides.map((s) => s.difficulty))]
  const units = [...new Set(sides.filter((s) => s.unit).map((s) => `${s.machine} is ${s.unit}`))]
  return (
    <p className="text-soft">
      What this puts to the test: {said.join(' ')}
      {units.length > 0 && <span className="block">The very machines: {units.join('. ')}.</span>}
    </p>
  )
}
