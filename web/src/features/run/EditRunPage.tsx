import { useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import type { Run } from '../../lib/api'
import { useRunSheet } from '../../lib/queries'
import { RunForm } from './RunForm'

export default function EditRunPage() {
  const { id = '' } = useParams()
  const sheet = useRunSheet(id)
  return (
    <Ready of={sheet}>
      {(s) => (
        <Page title={`${s.run.code}: what is known`} about={`${s.printed} on ${s.machine.name}`}>
          <RunForm
            key={s.run.version}
            draft={s.run}
            pieces={[]}
            condition={s.condition}
            recorded={s.run as Run}
            draftKey={`draft-run-${s.run.id}`}
          />
        </Page>
      )}
    </Ready>
  )
}
