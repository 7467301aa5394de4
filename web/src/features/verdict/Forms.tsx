import { ExportRecord } from '../../components/ExportRecord'
import type { paths } from '../../lib/schema'

type Table = paths['/api/v1/reviews/{id}/tables/{table}']['get']['parameters']['path']['table']

/** Each table that the program writes, in their order: one that is missing here does not compile. */
const each: Record<Table, true> = {
  settings: true,
  runs: true,
  specimens: true,
  readings: true,
  ratings: true,
  photographs: true,
  stress: true,
  forms: true,
  'machine-ratings': true,
  'sliced-files': true,
  'room-readings': true,
  remarks: true,
  ballots: true,
  findings: true,
  claims: true,
}
const tables = Object.keys(each)

/** The forms in which a review goes out. */
export function Forms({ id }: { id: string }) {
  const at = `/api/v1/reviews/${id}`
  return (
    <section className="sheet grid gap-3" aria-label="Forms">
      <h2>Take it along</h2>
      <div className="flex flex-wrap gap-2">
        <a className="button" href={`${at}/write-up.html`} download>
          Export HTML
        </a>
        <a className="button" href={`${at}/write-up.md`} download>
          Export Markdown
        </a>
        <a className="button" href={`${at}/settings-sheet.html`} download>
          Settings sheet
        </a>
        <a className="button" href={`${at}/script.md`} download>
          Talking script
        </a>
        <a className="button" href={`${at}/bundle.zip`} download>
          Bundle of all
        </a>
        <ExportRecord>Record as JSON</ExportRecord>
      </div>
      <div>
        <h3>Tables</h3>
        <div className="mt-1 flex flex-wrap gap-2">
          {tables.map((t) => (
            <a key={t} className="button" href={`${at}/tables/${t}`} download>
              {t}.csv
            </a>
          ))}
        </div>
      </div>
      <p className="text-soft">
        Markdown calls its plots and photographs by name; they lie beside it in the bundle, which another copy of this
        program opens and computes anew.
      </p>
    </section>
  )
}
