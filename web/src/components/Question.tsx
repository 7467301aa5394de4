import { ProblemError } from '../lib/api'

/** Whether the server asks once about a value that is hard to believe. */
export const isQuestion = (error: unknown) =>
  error instanceof ProblemError && error.problem.type === 'urn:ojime:questioned'

/** The question, and the key that answers it. Changing the value and sending it again answers it too. */
export function Question({ error, busy, confirm }: { error: Error | null; busy: boolean; confirm: () => void }) {
  return (
    <div role="alert" className="sheet flex flex-wrap items-center gap-3 border-l-4 border-l-act">
      <p className="min-w-60 flex-1 font-semibold">Is this right? {error?.message}</p>
      <button type="button" className="button" disabled={busy} onClick={confirm}>
        It is right: keep it
      </button>
    </div>
  )
}
