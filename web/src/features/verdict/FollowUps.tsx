import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Review, type Schemas } from '../../lib/api'
import { counted, day } from '../../lib/format'

type FollowUp = Schemas['FollowUp']

/** What a review leaves open, each with the day on which it comes up on the bench, and what came of it. */
export function FollowUps({ review }: { review: Review }) {
  const id = review.id ?? ''
  const client = useQueryClient()
  const [question, setQuestion] = useState('')
  const [due, setDue] = useState('')
  const list = useQuery({
    queryKey: ['follow-ups', id],
    queryFn: () => answer(api.GET('/api/v1/reviews/{id}/follow-ups', { params: { path: { id } } })),
  })
  const kept = (next: FollowUp[]) => client.setQueryData(['follow-ups', id], next)
  const add = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/reviews/{id}/follow-ups', {
          params: { path: { id } },
          body: { question, due_day: due },
        }),
      ),
    onSuccess: (next) => {
      kept(next)
      setQuestion('')
      setDue('')
    },
  })
  if (!list.data) return null
  const open = list.data.filter((f) => f.answered_ms == null).length
  return (
    <section className="sheet grid gap-3" aria-label="What is still open">
      <h2>
        What is still open{' '}
        <span className="font-normal text-soft">
          {open === 0 ? 'nothing' : counted(open, 'question')}; each comes up on the bench on its day
        </span>
      </h2>
      <ul className="grid gap-2">
        {list.data.map((f) => (
          <Open key={f.id} f={f} kept={kept} />
        ))}
      </ul>
      <form
        className="flex flex-wrap items-end gap-3"
        aria-label="Leave something open"
        onSubmit={(e) => {
          e.preventDefault()
          add.mutate()
        }}
      >
        <label className="min-w-0 grow basis-72 text-sm font-semibold">
          Left to be seen
          <input
            className="input font-normal"
            maxLength={300}
            placeholder="Does the film last what is claimed?"
            value={question}
            onChange={(e) => setQuestion(e.target.value)}
          />
        </label>
        <label className="text-sm font-semibold">
          Look again on
          <input className="input font-normal" type="date" value={due} onChange={(e) => setDue(e.target.value)} />
        </label>
        <button className="button" disabled={question.trim() === '' || due === '' || add.isPending}>
          Leave it open
        </button>
        {add.isError && <Complaint>{add.error.message}</Complaint>}
      </form>
    </section>
  )
}

function Open({ f, kept }: { f: FollowUp; kept: (next: FollowUp[]) => void }) {
  const [text, setText] = useState('')
  const [due, setDue] = useState(f.due_day)
  const save = useMutation({
    mutationFn: (to: { answer: string; due_day: string }) =>
      answer(
        api.POST('/api/v1/follow-ups/{id}/answer', {
          params: { path: { id: f.id ?? '' } },
          body: { version: f.version ?? 0, ...to },
        }),
      ),
    onSuccess: (next) => {
      kept(next)
      setText('')
    },
  })
  const answered = f.answered_ms != null
  return (
    <li className="grid gap-2 border-t border-line pt-2">
      <p className="wrap-anywhere">
        <strong>{f.question}</strong>{' '}
        <span className="text-soft">
          {answered ? `answered on ${day(f.answered_ms ?? 0)}` : `to be answered by ${f.due_day}`}
        </span>
      </p>
      {answered ? (
        <p className="flex flex-wrap items-center gap-3 wrap-anywhere">
          {f.answer}
          <button
            className="button"
            aria-label={`Open again: ${f.question}`}
            disabled={save.isPending}
            onClick={() => save.mutate({ answer: '', due_day: f.due_day })}
          >
            Open it again
          </button>
        </p>
      ) : (
        <form
          className="flex flex-wrap items-end gap-3"
          aria-label={`Answer: ${f.question}`}
          onSubmit={(e) => {
            e.preventDefault()
            save.mutate({ answer: text, due_day: due })
          }}
        >
          <label className="min-w-0 grow basis-72 text-sm font-semibold">
            What came of it <span className="font-normal text-soft">nothing: it is put off to that day</span>
            <input
              className="input font-normal"
              maxLength={1000}
              value={text}
              onChange={(e) => setText(e.target.value)}
            />
          </label>
          <label className="text-sm font-semibold">
            By
            <input className="input font-normal" type="date" value={due} onChange={(e) => setDue(e.target.value)} />
          </label>
          <button className="button" disabled={save.isPending || (text.trim() === '' && due === f.due_day)}>
            {text.trim() === '' ? 'Put it off' : 'Keep the answer'}
          </button>
        </form>
      )}
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </li>
  )
}
