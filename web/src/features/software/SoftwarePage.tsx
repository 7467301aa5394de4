import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { SoftwareTable, stepWords } from '../../components/SoftwareTable'
import { answer, api } from '../../lib/api'

/** What programs and their versions come to over all pieces, and what is to be tried again. */
export default function SoftwarePage() {
  const software = useQuery({ queryKey: ['software', 'all'], queryFn: () => answer(api.GET('/api/v1/software')) })
  return (
    <Page
      title="Programs"
      about="Steps on a computer before a print, from the import to the transfer, by program and version."
    >
      <Ready of={software}>
        {({ programs, steps }) => {
          const failed = steps.filter((s) => s.again)
          if (programs.length === 0)
            return (
              <Empty title="No step is on record">
                <p>
                  Each piece has a clock for its steps: <Link to="/kit?tab=pieces">choose a piece</Link>.
                </p>
              </Empty>
            )
          return (
            <>
              <section className="sheet" aria-label="By program and version, over all pieces">
                <SoftwareTable programs={programs} />
              </section>
              <section className="sheet grid gap-2" aria-label="What failed">
                <h2>What failed</h2>
                {failed.length === 0 && <p>No step ended in an error or a crash.</p>}
                <ul className="grid gap-2">
                  {failed.map((s) => (
                    <li key={s.id} className="wrap-anywhere">
                      <Link to={`/kit/pieces/${s.piece_id}`}>{s.piece}</Link>, {stepWords(s)}.{' '}
                      <strong>{s.again}</strong>
                    </li>
                  ))}
                </ul>
              </section>
            </>
          )
        }}
      </Ready>
    </Page>
  )
}
