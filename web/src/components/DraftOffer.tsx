import type { OldDraft } from '../lib/draft'

/** Offers what was typed before the entry changed elsewhere. */
export function DraftOffer({ old }: { old?: OldDraft }) {
  if (!old) return null
  return (
    <div role="status" className="sheet flex flex-wrap items-center gap-3 border-l-4 border-l-act">
      <p className="min-w-60 flex-1">
        You had begun to change this, and it has changed on record since. The form shows what is on record now.
      </p>
      <button type="button" className="button" onClick={old.take}>
        Put my changes in
      </button>
      <button type="button" className="button" onClick={old.drop}>
        Drop them
      </button>
    </div>
  )
}
