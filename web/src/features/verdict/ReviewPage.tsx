import { useMutation, useQuery } from '@tanstack/react-query'
import { useState, type ComponentType } from 'react'
import { FormProvider } from 'react-hook-form'
import { Link, useNavigate, useParams } from 'react-router'
import { History } from '../../components/History'
import { DraftOffer } from '../../components/DraftOffer'
import { ManyField, SelectField, TextArea, TextField } from '../../components/Field'
import { OnThisPage } from '../../components/OnThisPage'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Review } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { counted, words } from '../../lib/format'
import { useMachines, usePieces, useReferences, useResins, useReviews } from '../../lib/queries'
import { Claims } from './Claims'
import { Deciding } from './Deciding'
import { Disclosure } from './Disclosure'
import { Findings } from './Findings'
import { FollowUps } from './FollowUps'
import { LeftOut } from './LeftOut'
import { Matrix } from './Matrix'
import { Money } from './Money'
import { Panels } from './Panels'
import { Reading } from './Reading'
import { Readers } from './Readers'
import { SetUpNames } from './SetUpNames'
import { Versions } from './Versions'
import { choices, type Kind } from '../../lib/choices'

/** The parts of a review in the order of the work, with what they are called in the contents. */
const parts: { id: string; name: string; of: ComponentType<{ review: Review }>[] }[] = [
  { id: 'tested', name: 'What was tested', of: [Matrix, Deciding, SetUpNames, LeftOut] },
  { id: 'disclosed', name: 'Disclosure', of: [Disclosure] },
  { id: 'claimed', name: 'What is claimed', of: [Claims] },
  { id: 'panels', name: 'Blind panels', of: [Panels] },
  { id: 'found', name: 'What was found', of: [Findings] },
  { id: 'readers', name: 'For whom', of: [Readers] },
  { id: 'money', name: 'Money', of: [Money] },
  { id: 'read', name: 'Reading', of: [Reading] },
  { id: 'write-up', name: 'Write-up', of: [WriteUp] },
  { id: 'versions', name: 'Versions', of: [Versions] },
  { id: 'open', name: 'Still open', of: [FollowUps] },
]

export default function ReviewPage() {
  const { id } = useParams()
  const reviews = useReviews()
  return (
    <Ready of={reviews}>
      {(list) => {
        const review = list.find((r) => r.id === id)
        if (!review && id !== 'new') {
          return (
            <Page title="No such review">
              <Empty title="This review is not on record">
                <Link to="/verdict">All reviews</Link>
              </Empty>
            </Page>
          )
        }
        return (
          <Page
            title={review ? review.question : 'A new review'}
            about={review ? review.code : 'What does the reader want to know?'}
            actions={
              review && (
                <Link className="button button-main" to={`/compare?review=${review.id}`}>
                  Compare
                </Link>
              )
            }
          >
            {review && <OnThisPage parts={parts} />}
            <ReviewForm key={review ? `${review.id}-${review.version}` : 'new'} review={review} />
            {review &&
              parts.map(({ id, of }) => (
                <div key={id} id={id} className="grid scroll-mt-4 gap-4 empty:hidden">
                  {of.map((Part, at) => (
                    <Part key={at} review={review} />
                  ))}
                </div>
              ))}
            {review && <History kind="review" id={review.id ?? ''} />}
          </Page>
        )
      }}
    </Ready>
  )
}

interface Values {
  question: string
  readers: string
  policy: string
  under_test: string[]
  disclosure: string
  verdict: string
  not_tested: string
  machine_ids: string[]
  resin_ids: string[]
  piece_ids: string[]
  reference_ids: string[]
}

const policies = choices<Kind<'Review', 'policy'>>({
  each_calibrated: 'each calibrated: what an owner can get',
  same_settings: 'same settings on all: the machine alone',
  maker_default: "each maker's default: out of the box",
})

function ReviewForm({ review }: { review?: Review }) {
  const navigate = useNavigate()
  const [machines, resins, pieces, references] = [useMachines(), useResins(), usePieces(), useReferences()]
  const factors = useQuery({
    queryKey: ['factors'],
    staleTime: Infinity,
    queryFn: () => answer(api.GET('/api/v1/factors')),
  })
  const form = useDraftForm<Values>(
    `draft-review-${review?.id ?? 'new'}`,
    {
      question: review?.question ?? '',
      readers: review?.readers ?? '',
      policy: review?.policy ?? 'each_calibrated',
      under_test: review?.under_test ?? [],
      disclosure: review?.disclosure ?? '',
      verdict: review?.verdict ?? '',
      not_tested: review?.not_tested ?? '',
      machine_ids: review?.machine_ids ?? [],
      resin_ids: review?.resin_ids ?? [],
      piece_ids: review?.piece_ids ?? [],
      reference_ids: review?.reference_ids ?? [],
    },
    review?.version,
  )
  const save = useMutation({
    mutationFn: (v: Values) => {
      const body = {
        ...v,
        version: review?.version ?? 0,
        policy: v.policy as 'same_settings',
        under_test: v.under_test || [],
        reference_ids: v.reference_ids || [],
      }
      return answer(
        review
          ? api.PUT('/api/v1/reviews/{id}', { params: { path: { id: review.id } }, body })
          : api.POST('/api/v1/reviews', { body }),
      )
    },
    onSuccess: (saved) => {
      form.forget()
      void navigate(`/verdict/${saved.id}`)
    },
    onError: (e) => showProblem(form, e),
  })
  // What is stated folds to a line; a review that names nothing yet, and one with something unsaved, stands open.
  const nothing = [review?.machine_ids, review?.resin_ids, review?.piece_ids].some((l) => (l ?? []).length === 0)
  const [open, setOpen] = useState(nothing || form.restored || form.old !== undefined)
  const fields = (
    <>
      <section className="sheet grid gap-3">
        <h2>The question</h2>
        <TextField name="question" label="Question" hint="as a reader would ask it" />
        <TextField name="readers" label="Readers" />
        <SelectField name="policy" label="Settings" options={policies} />
        <ManyField
          name="machine_ids"
          label="Machines"
          none="None on record yet."
          all
          options={(machines.data ?? []).map((m) => ({ value: m.machine.id ?? '', label: m.machine.name }))}
        />
        <ManyField
          name="resin_ids"
          label="Resins"
          none="None on record yet."
          all
          options={(resins.data ?? []).map((r) => ({ value: r.resin.id ?? '', label: r.resin.name }))}
        />
        <ManyField
          name="piece_ids"
          label="Pieces"
          none="None on record yet."
          all
          options={(pieces.data ?? []).map((p) => ({ value: p.piece.id ?? '', label: p.piece.name }))}
        />
        {(references.data ?? []).length > 0 && (
          <ManyField
            name="reference_ids"
            label="References"
            options={(references.data ?? []).map((r) => ({
              value: r.reference.id ?? '',
              label: `${r.reference.name} (${r.piece.name})`,
            }))}
          />
        )}
        <details>
          <summary className="min-h-(--tap) cursor-pointer font-semibold">
            Under test: {(form.watch('under_test') || []).map(words).join(', ') || 'nothing chosen'}
          </summary>
          <ManyField
            name="under_test"
            label="Factors that vary on purpose"
            options={(factors.data ?? []).filter((f) => f !== 'prints').map((f) => ({ value: f, label: words(f) }))}
          />
        </details>
      </section>
      <section className="sheet grid gap-3">
        <h2>Disclosure and verdict</h2>
        <TextArea name="disclosure" label="Who supplied what, who pays" />
        <TextArea name="verdict" label="Verdict" hint="for whom, at what price, against what" />
        <TextArea name="not_tested" label="What was not tested" />
      </section>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      <div>
        <button className="button button-main" disabled={save.isPending}>
          Save the review
        </button>
      </div>
    </>
  )
  return (
    <FormProvider {...form}>
      <form className="grid gap-4" onSubmit={form.handleSubmit((v) => save.mutate(v))}>
        <DraftOffer old={form.old} />
        {review ? (
          <details open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
            <summary className="min-h-(--tap) cursor-pointer content-center">
              <strong>Question, disclosure and verdict</strong> <span className="text-soft">{stated(review)}</span>
            </summary>
            <div className="mt-3 grid gap-4">{fields}</div>
          </details>
        ) : (
          fields
        )}
      </form>
    </FormProvider>
  )
}

/** A review in a line: its policy, its members, and which of its texts are still to be written. */
function stated(r: Review): string {
  const wanting = Object.entries({
    'the disclosure': r.disclosure,
    'the verdict': r.verdict,
    'what was not tested': r.not_tested,
  })
    .filter(([, text]) => text === '')
    .map(([name]) => name)
  return [
    policies.find((p) => p.value === r.policy)?.label ?? '',
    `under test: ${r.under_test.map(words).join(', ') || 'not stated'}`,
    [
      counted(r.machine_ids.length, 'machine'),
      counted(r.resin_ids.length, 'resin'),
      counted(r.piece_ids.length, 'piece'),
      ...((r.reference_ids ?? []).length > 0 ? [counted((r.reference_ids ?? []).length, 'reference')] : []),
    ].join(', '),
    wanting.length > 0 ? `still to be written: ${wanting.join(', ')}` : 'all texts written',
  ].join(' · ')
}

function WriteUp({ review }: { review: Review }) {
  const path = { id: review.id }
  const text = useQuery({
    queryKey: ['write-up', review.id, review.version],
    queryFn: async () =>
      answer(
        api.GET('/api/v1/reviews/{id}/write-up.md', { params: { path }, parseAs: 'text' }) as Promise<{
          data?: string
          error?: unknown
          response: Response
        }>,
      ),
  })
  return (
    <section className="sheet grid gap-3">
      <h2>Write-up</h2>
      <p className="text-soft">Its numbers are computed anew from the record each time it goes out.</p>
      <div className="flex flex-wrap gap-2">
        <Link className="button button-main" to={`/verdict/${review.id}/write-up`}>
          Put it in order and take it along
        </Link>
        <a
          className="button"
          href={`/api/v1/reviews/${review.id}/write-up.html?show=true`}
          target="_blank"
          rel="noreferrer"
        >
          See the page
        </a>
        <a className="button" href={`/api/v1/reviews/${review.id}/write-up.md`} download>
          Export Markdown
        </a>
        <a className="button" href={`/api/v1/reviews/${review.id}/write-up.html`} download>
          Export HTML
        </a>
      </div>
      <Ready of={text}>
        {(t) => (
          <pre
            className="max-h-[32rem] overflow-auto border border-line bg-plate p-3 text-sm whitespace-pre-wrap"
            tabIndex={0}
            aria-label="The write-up as Markdown"
          >
            {t}
          </pre>
        )}
      </Ready>
    </section>
  )
}
