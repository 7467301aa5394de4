import { Link, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { useRunSheet } from '../../lib/queries'
import { ofPrint } from './inHand'
import { Readings } from './Readings'

export default function InspectPage() {
  const { id = '' } = useParams()
  const sheet = useRunSheet(id)
  return (
    <Ready of={sheet}>
      {(s) => (
        <Page
          title={`Inspect ${s.run.code}`}
          about={`${s.printed} from ${s.machine.name} in ${s.resin.name}`}
          actions={
            <>
              <a className="button" href={`/api/v1/runs/${s.run.id}/to-read.csv`} download>
                What is to be read, CSV
              </a>
              <Link className="button" to={`/inspect/${s.run.id}/paper`}>
                On paper
              </Link>
              <Link className="button" to={`/runs/${s.run.id}`}>
                Back to the run
              </Link>
            </>
          }
        >
          <Readings sheet={ofPrint(s)} of="plate" />
        </Page>
      )}
    </Ready>
  )
}
