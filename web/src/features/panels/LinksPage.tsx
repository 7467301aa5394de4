import { useQuery } from '@tanstack/react-query'
import { Link, useParams } from 'react-router'
import { Page, Ready } from '../../components/Page'
import { answer, api } from '../../lib/api'

/** A link for each judge's own phone: it opens that ballot, once, and nothing else. */
export default function LinksPage() {
  const { id = '' } = useParams()
  const panel = useQuery({
    queryKey: ['panels', id],
    queryFn: () => answer(api.GET('/api/v1/panels/{id}', { params: { path: { id } } })),
  })
  const here = window.location
  const alone = ['127.0.0.1', 'localhost', '[::1]'].includes(here.hostname)
  return (
    <Ready of={panel}>
      {(s) => (
        <Page
          title={`${s.panel.code}: links for judges`}
          about="Each opens one ballot, once, and nothing else."
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
          {alone && (
            <p className="border-l-4 border-act pl-3">
              The program answers only on this computer now, under {here.host}: these links open here, in any browser.
              Phones cannot reach it; hand this device round instead.
            </p>
          )}
          <ul className="grid gap-2 sm:grid-cols-2 lg:grid-cols-3 print:grid-cols-3" aria-label="Links">
            {s.ballots
              .filter((b) => b.cast_ms == null)
              .map((b) => (
                <li
                  key={b.judge}
                  className="flex break-inside-avoid gap-3 border border-dashed border-soft bg-white p-2 text-black"
                >
                  <img
                    className="size-28 [image-rendering:pixelated]"
                    src={`/api/v1/panels/${id}/ballots/${b.judge}/qr.png?url=${encodeURIComponent(here.origin)}`}
                    alt={`Code that opens the ballot of judge ${b.judge}`}
                  />
                  <div className="min-w-0">
                    <p className="text-lg font-bold">Judge {b.judge}</p>
                    <a className="num text-sm wrap-anywhere underline" href={`/ballot/${b.token}`}>
                      {`${here.origin}/ballot/${b.token}`}
                    </a>
                  </div>
                </li>
              ))}
          </ul>
        </Page>
      )}
    </Ready>
  )
}
