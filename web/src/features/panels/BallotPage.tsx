import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { useParams } from 'react-router'
import { Ready } from '../../components/Page'
import { answer, api } from '../../lib/api'
import { BallotForm } from './BallotForm'

/** A ballot as its link opens it: it, and nothing else of the program. */
export default function BallotPage() {
  const { token = '' } = useParams()
  const ballot = useQuery({
    queryKey: ['ballot', token],
    retry: false,
    queryFn: () => answer(api.GET('/api/v1/ballots/{token}', { params: { path: { token } } })),
  })
  useEffect(() => {
    document.title = 'A ballot · Ojime'
  }, [])
  return (
    <main className="mx-auto grid max-w-3xl grid-cols-[minmax(0,1fr)] gap-4 px-4 py-5">
      <Ready of={ballot}>
        {(b) =>
          b.state === 'open' ? (
            <BallotForm token={token} ballot={b} way="link" done={() => void ballot.refetch()} />
          ) : (
            <section className="sheet">
              <h1>{b.state === 'cast' ? 'Thank you' : 'This panel is closed'}</h1>
              <p className="mt-2">
                {b.state === 'cast'
                  ? 'This ballot is cast. It is shown to nobody before all have voted; whoever gave you the link can give it out again.'
                  : 'It takes no more votes.'}
              </p>
            </section>
          )
        }
      </Ready>
    </main>
  )
}
