import { ExportRecord } from '../../components/ExportRecord'

const tables = [
  'settings',
  'runs',
  'specimens',
  'readings',
  'ratings',
  'photographs',
  'stress',
  'forms',
  'machine-ratings',
  'sliced-files',
  'room-readings',
  'remarks',
  'ballots',
  'findings',
  'claims',
]

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
