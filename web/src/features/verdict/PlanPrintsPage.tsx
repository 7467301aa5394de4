import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useNavigate, useParams } from 'react-router'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { useMatrix, useReviewPlan, useReviews } from '../../lib/queries'
import { Drawn } from './Drawn'
import { KeptPlans } from './KeptPlans'
import { PlanForm } from './PlanForm'

/** From the matrix of a review to the prints that it lacks: levels, a drawn order, and what that will tell. */
export default function PlanPrintsPage() {
  const { id = '' } = useParams()
  const reviews = useReviews()
  return (
    <Ready of={reviews}>
      {(list) => {
        const review = list.find((r) => r.id === id)
        return review ? (
          <Planner key={id} review={review} />
        ) : (
          <Page title="No such review">
            <Empty title="This review is not on record">
              <Link to="/verdict">All reviews</Link>
            </Empty>
          </Page>
        )
      }}
    </Ready>
  )
}

type Request = Schemas['PlanRequest']

function Planner({ review }: { review: Review }) {
  const matrix = useMatrix(review.id)
  const plan = useReviewPlan(review.id)
  return (
    <Page
      title={`Plan the prints of ${review.code}`}
      about={review.question}
      actions={
        <Link className="button" to={`/verdict/${review.id}`}>
          Back to the review
        </Link>
      }
    >
      <Ready of={plan}>
        {(p) => (
          <>
            <KeptPlans review={review} sheet={p} />
            <Ready of={matrix}>{(m) => <Planning review={review} matrix={m} sheet={p} />}</Ready>
          </>
        )}
      </Ready>
    </Page>
  )
}

function Planning({
  review,
  matrix,
  sheet,
}: {
  review: Review
  matrix: Schemas['Matrix']
  sheet: Schemas['PlanSheet']
}) {
  const navigate = useNavigate()
  const [drawn, setDrawn] = useState<{ request: Request; draft: Schemas['PlanDraft'] }>()
  const path = { id: review.id }
  const draw = useMutation({
    mutationFn: (body: Request) => answer(api.POST('/api/v1/plan-drafts/{id}', { params: { path }, body })),
    onSuccess: (draft, request) => setDrawn({ request: { ...request, seed: draft.seed }, draft }),
  })
  const keep = useMutation({
    mutationFn: (body: Request) => answer(api.POST('/api/v1/reviews/{id}/plan', { params: { path }, body })),
    onSuccess: () => {
      setDrawn(undefined)
      window.scrollTo(0, 0)
      void navigate(`/verdict/${review.id}/plan`)
    },
  })
  if (review.under_test.length === 0 || review.machine_ids.length === 0 || review.piece_ids.length === 0)
    return (
      <Empty title="The question comes first">
        <p>A plan needs to know what varies on purpose, and the machines, resins and pieces that it is asked of.</p>
        <Link className="button button-main" to={`/verdict/${review.id}`}>
          Complete the question
        </Link>
      </Empty>
    )
  return (
    <>
      <PlanForm
        review={review}
        matrix={matrix}
        sheet={sheet}
        busy={draw.isPending}
        error={draw.error}
        draw={draw.mutate}
      />
      {drawn && (
        <Drawn
          draft={drawn.draft}
          request={drawn.request}
          busy={draw.isPending || keep.isPending}
          redraw={draw.mutate}
          keep={() => keep.mutate(drawn.request)}
        />
      )}
      {keep.isError && <Complaint>{keep.error.message}</Complaint>}
    </>
  )
}
