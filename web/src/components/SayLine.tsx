import { useEffect, useRef, useState } from 'react'
import { Link } from 'react-router'
import { pageOf, refusal, useKeepLine, useMeaning, type Understood } from '../lib/lines'

/** One line for the commonest things that happen: what it means is shown before Enter keeps it. */
export function SayLine() {
  const [text, setText] = useState('')
  const [last, setLast] = useState<Understood>()
  const meaning = useMeaning(text)
  const keep = useKeepLine((line) => {
    setLast(line)
    setText('')
  })
  // Enter may be quicker than the answer: what the line means is waited for, shown and then kept.
  const early = useRef('')
  const says = meaning.data?.says
  const { isError } = meaning
  useEffect(() => {
    // A line that means nothing waits no longer: should it come to mean something, Enter is pressed anew.
    if (isError) early.current = ''
    if (!says || early.current !== text) return
    early.current = ''
    keep.mutate({ text, says })
    // Only when the meaning of this text has come.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [says, text, isError])
  return (
    <form
      className="sheet grid gap-1 py-3"
      aria-label="What happened"
      onSubmit={(e) => {
        e.preventDefault()
        if (keep.isPending) return
        if (says) keep.mutate({ text, says })
        else if (!isError) early.current = text
      }}
    >
      <label className="grid items-center gap-x-3 font-semibold sm:grid-cols-[auto_minmax(0,1fr)]">
        What happened, in one line
        <input
          className="input font-normal"
          autoComplete="off"
          placeholder="R-041 done 2h05 all whole but 3 and 7"
          value={text}
          onChange={(e) => {
            early.current = ''
            setText(e.target.value)
            setLast(undefined)
            keep.reset()
          }}
        />
      </label>
      <p role="status" className="min-h-6 text-sm">
        {keep.isError ? (
          <span className="font-semibold text-bad">
            {refusal(keep.error)} {keep.questioned && 'Enter again keeps it.'}
          </span>
        ) : text.trim() === '' ? (
          last ? (
            <>
              Kept: {last.says} <Link to={pageOf(last)}>Open it</Link>
            </>
          ) : (
            <span className="text-soft">
              “top up 60 on Harrow”, “T-12 done 2h05 all whole” of a plate printed as planned, “relevel Tern closer”: it
              says what it understood before Enter keeps it.
            </span>
          )
        ) : says ? (
          <>
            <strong>{says}</strong> <span className="text-soft">Enter keeps this.</span>
          </>
        ) : meaning.isError ? (
          <span className="text-soft">{refusal(meaning.error)}</span>
        ) : (
          ''
        )}
      </p>
    </form>
  )
}
