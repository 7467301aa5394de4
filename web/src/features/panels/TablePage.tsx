import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { BallotForm } from './BallotForm'

/** The device goes round the table: one ballot, then a curtain, then the next judge. */
export default function TablePage() {
  const { id = '' } = useParams()
  const panel = useQuery({
    queryKey: ['panels', id],
    queryFn: () => answer(api.GET('/api/v1/panels/{id}', { params: { path: { id } } })),
  })
  return <Ready of={panel}>{(s) => <Round s={s} again={() => void panel.refetch()} />}</Ready>
}

function Round({ s, again }: { s: Schemas['PanelSheet']; again: () => void }) {
  const [token, setToken] = useState('')
  const ballot = useQuery({
    queryKey: ['ballot', token],
    enabled: token !== '',
    queryFn: () => answer(api.GET('/api/v1/ballots/{token}', { params: { path: { token } } })),
  })
  const done = () => {
    setToken('')
    again()
  }
  if (token !== '') {
    return (
      <div className="mx-auto max-w-3xl px-4 py-5">
        <Ready of={ballot}>
          {(b) =>
            b.state === 'open' ? (
              <BallotForm key={token} token={token} ballot={b} way="table" done={done} />
            ) : (
              <button className="button" onClick={done}>
                This ballot was cast meanwhile: to the next
              </button>
            )
          }
        </Ready>
      </div>
    )
  }
  return (
    <Page
      title={
        s.cast === 0
          ? 'Hand this device to the first judge'
          : s.next_token === ''
            ? 'All have voted'
            : 'Thank you. Hand this device on'
      }
      about={`${s.cast} of ${s.panel.judges} have voted`}
      actions={
        <Link className="button" to={`/verdict/panels/${s.panel.id}`}>
          End the round
        </Link>
      }
    >
      {s.next_token !== '' && (
        <section className="sheet grid justify-items-start gap-3">
          <p>Lay the coded copies out of the sight of those who wait. When the next judge sits down alone:</p>
          <button className="button button-main" onClick={() => setToken(s.next_token)}>
            Begin
          </button>
        </section>
      )}
    </Page>
  )
}
