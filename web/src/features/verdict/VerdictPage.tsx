import { useMutation } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { counted } from '../../lib/format'
import { answer, api, type Schemas } from '../../lib/api'
import { useReviews } from '../../lib/queries'

export default function VerdictPage() {
  const reviews = useReviews()
  return (
    <Page
      title="Verdict"
      about="Reviews: the question, who reads it, what was found, and the write-up."
      actions={
        <Link to="/verdict/new" className="button button-main">
          State a question
        </Link>
      }
    >
      <Ready of={reviews}>
        {(list) =>
          list.length === 0 ? (
            <Empty title="No review yet">
              State the question first: it decides what is printed, what is held, and what must be disclosed.
            </Empty>
          ) : (
            <ul className="grid gap-2">
              {list.map((r) => (
                <li key={r.id}>
                  <Link to={`/verdict/${r.id}`} className="sheet block hover:border-act">
                    <span className="num text-soft">{r.code}</span>{' '}
                    <strong className="wrap-anywhere">{r.question}</strong>
                    <span className="block text-sm text-soft">{r.readers}</span>
                  </Link>
                </li>
              ))}
            </ul>
          )
        }
      </Ready>
      <WholeRecord />
    </Page>
  )
}

/** The record goes out as one file and fills an empty record again. */
function WholeRecord() {
  const bring = useMutation({
    // The file goes out as it is; the server reads and checks it entry by entry.
    mutationFn: (file: File) =>
      answer(
        api.POST('/api/v1/record', {
          body: file as unknown as Schemas['Record'],
          bodySerializer: (body) => body as unknown as File,
          headers: { 'Content-Type': 'application/json' },
        }),
      ),
  })
  return (
    <section className="sheet grid justify-items-start gap-3">
      <h2>The whole record</h2>
      <p className="text-soft">
        One JSON file with everything, meshes too. It fills an empty record and compares there as it does here.
      </p>
      <a className="button" href="/api/v1/record" download="ojime-record.json">
        Export the record
      </a>
      <label className="text-sm font-semibold">
        Import a record into an empty one
        <input
          type="file"
          accept="application/json,.json"
          className="input py-2 font-normal"
          onChange={(e) => e.target.files?.[0] && bring.mutate(e.target.files[0])}
        />
      </label>
      {bring.isPending && <p>Reading the record…</p>}
      {bring.isError && <Complaint>Nothing was imported: {bring.error.message}</Complaint>}
      {bring.data && (
        <p role="status">
          Imported {counted(bring.data.machines, 'machine')}, {counted(bring.data.pieces, 'piece')},{' '}
          {counted(bring.data.runs, 'run')}, {counted(bring.data.readings, 'reading')},{' '}
          {counted(bring.data.reviews, 'review')}.
        </p>
      )}
    </section>
  )
}
