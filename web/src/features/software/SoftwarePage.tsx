import { useQuery } from '@tanstack/react-query'
import { Link } from 'react-router'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { SoftwareTable, stepWords } from '../../components/SoftwareTable'
import { answer, api, type Schemas } from '../../lib/api'
import { percent } from '../../lib/format'

/** What programs and their versions come to over all pieces, and what is to be tried again. */
export default function SoftwarePage() {
  const software = useQuery({ queryKey: ['software', 'all'], queryFn: () => answer(api.GET('/api/v1/software')) })
  const prints = useQuery({
    queryKey: ['software', 'prints'],
    queryFn: () => answer(api.GET('/api/v1/software/prints')),
  })
  return (
    <Page
      title="Programs"
      about="Steps on a computer before a print, from the import to the transfer, by program and version."
    >
      <Ready of={software}>
        {({ programs, steps }) => {
          const failed = steps.filter((s) => s.again)
          if (programs.length === 0 && prints.data?.length === 0)
            return (
              <Empty title="No step is on record">
                <p>
                  Each piece has a clock for its steps: <Link to="/kit?tab=pieces">choose a piece</Link>.
                </p>
              </Empty>
            )
          return (
            <>
              {prints.isError && <Complaint>{prints.error.message}</Complaint>}
              {prints.data && prints.data.length > 0 && <Prints list={prints.data} />}
              {programs.length > 0 && (
                <section className="sheet" aria-label="By program and version, over all pieces">
                  <SoftwareTable programs={programs} />
                </section>
              )}
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

/** The print is the trial: what a program did to a plate it did to every copy on it. */
function Prints({ list }: { list: Schemas['PrintsOfProgram'][] }) {
  return (
    <section className="sheet overflow-x-auto" aria-label="Prints by program" tabIndex={0}>
      <table className="rows w-full">
        <caption className="text-left font-semibold">
          Prints by the program they were prepared with{' '}
          <span className="font-normal text-soft">● as it is noted with them</span>
        </caption>
        <thead>
          <tr>
            <th scope="col">Program</th>
            <th scope="col">Prints</th>
            <th scope="col">Judged</th>
            <th scope="col">Lost a copy or all</th>
            <th scope="col">Which</th>
          </tr>
        </thead>
        <tbody>
          {list.map((p) => (
            <tr key={p.software}>
              <th scope="row" className="min-w-32 wrap-anywhere">
                {p.software}
              </th>
              <td className="num">{p.prints}</td>
              <td className="num">{p.judged}</td>
              <td>
                <span className="num whitespace-nowrap">
                  {p.lost} of {p.judged}
                </span>
                {p.rate.ci && (
                  <span className="block text-sm text-soft">
                    95 %: {percent(p.rate.ci[0])} to {percent(p.rate.ci[1])}
                  </span>
                )}
              </td>
              <td className="num">
                {p.lost_runs.map((code) => (
                  <span key={code} className="mr-3 inline-block whitespace-nowrap">
                    {code}
                  </span>
                ))}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
