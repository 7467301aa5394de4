import { Link } from 'react-router'
import { ExportRecord } from '../../components/ExportRecord'
import { ImportRecord } from '../../components/ImportRecord'
import { Empty, Page, Ready } from '../../components/Page'
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
              The question comes first: it decides what is printed, what is held, and what must be disclosed.
              <Link to="/verdict/new">State the first one</Link>
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
      <section className="sheet grid justify-items-start gap-3">
        <h2>Somebody else’s review</h2>
        <p className="text-soft">
          A bundle holds a review and the record behind it. It is opened beside this record, computed anew, and held
          against what it says.
        </p>
        <Link to="/verdict/bundles" className="button">
          Open a bundle
        </Link>
      </section>
      <WholeRecord />
    </Page>
  )
}

/** The record goes out as one file and fills an empty record again. */
function WholeRecord() {
  return (
    <section className="sheet grid justify-items-start gap-3">
      <h2>The whole record</h2>
      <p className="text-soft">
        One JSON file with everything, meshes too. It fills an empty record and compares there as it does here.
      </p>
      <ExportRecord>Export the record</ExportRecord>
      <ImportRecord />
    </section>
  )
}
