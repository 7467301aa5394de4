import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'

/** What was found and stands in no row: the reviewer's own word, graded as such. */
export function OwnFinding({ id, kept }: { id: string; kept: (s: Schemas['FindingsSheet']) => void }) {
  const [text, setText] = useState('')
  const say = useMutation({
    mutationFn: () =>
      answer(api.POST('/api/v1/reviews/{id}/findings', { params: { path: { id } }, body: { words: text } })),
    onSuccess: (s) => {
      kept(s)
      setText('')
    },
  })
  return (
    <form
      className="sheet flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault()
        say.mutate()
      }}
    >
      <label className="min-w-0 grow basis-80 text-sm font-semibold">
        Something no row says, in your own words <span className="font-normal text-soft">(graded as looked)</span>
        <input className="input font-normal" maxLength={1000} value={text} onChange={(e) => setText(e.target.value)} />
      </label>
      <button className="button" disabled={text.trim() === '' || say.isPending}>
        Add it
      </button>
      {say.isError && <Complaint>{say.error.message}</Complaint>}
    </form>
  )
}
