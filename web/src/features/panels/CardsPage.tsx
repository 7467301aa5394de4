import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { answer, api } from '../../lib/api'

/** Cards to cut out, a code on each and nothing else: one for the bag, one for the holder. */
export default function CardsPage() {
  const { id = '' } = useParams()
  const panel = useQuery({
    queryKey: ['panels', id],
    queryFn: () => answer(api.GET('/api/v1/panels/{id}', { params: { path: { id } } })),
  })
  return (
    <Ready of={panel}>
      {(s) => (
        <Page
          title={`${s.panel.code}: cards and holders`}
          about="In the order of their codes, which says nothing of what they go on."
          actions={
            <>
              <Link className="button" to={`/verdict/panels/${id}`}>
                Back to the panel
              </Link>
              <button className="button button-main" onClick={() => window.print()}>
                Print
              </button>
            </>
          }
        >
          <p className="no-print">
            Cut along the lines. The small card goes into the bag; the large one is folded at its dashed line and stands
            before the copy.
          </p>
          <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3 print:grid-cols-3" aria-label="Cards">
            {s.cards.map((code) => (
              <li key={code} className="break-inside-avoid border border-black bg-white text-center text-black">
                <p className="num border-b border-black py-1 text-xl font-bold">{code}</p>
                <p aria-hidden="true" className="num rotate-180 py-3 text-4xl font-bold">
                  {code}
                </p>
                <p aria-hidden="true" className="num border-t border-dashed border-black py-3 text-4xl font-bold">
                  {code}
                </p>
              </li>
            ))}
          </ul>
        </Page>
      )}
    </Ready>
  )
}
