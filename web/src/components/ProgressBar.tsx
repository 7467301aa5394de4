import type { Progress } from '../lib/task'

/** What a long task is doing, how far it has come, and the way to stop it. */
export function ProgressBar({ of, name, stop }: { of: Progress; name: string; stop: () => void }) {
  return (
    <div className="sheet flex flex-wrap items-center gap-3">
      <label className="min-w-0 flex-1">
        <span className="block">
          {name}: {of.stage}
          {of.share !== null && <span className="num"> {Math.round(100 * of.share)} %</span>}
        </span>
        <progress className="h-3 w-full accent-(--act)" max={1} value={of.share ?? undefined} />
      </label>
      <button type="button" className="button" onClick={stop}>
        Stop
      </button>
    </div>
  )
}
