import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { words } from '../../lib/format'
import { useReviews } from '../../lib/queries'
import { ClaimForm } from './ClaimForm'
import { useLedger } from './Claims'

type Row = Schemas['LedgerRow']

const interests: Record<string, string> = {
  maker: 'its maker',
  seller: 'sells it',
  paid: 'was paid to say so',
  competitor: 'sells another',
  owner: 'owns one',
  none: 'gains nothing by it',
  unknown: 'interest not known',
}

/** What is claimed of the machines and resins of a review: by whom, what would show it, what was measured, and its state. */
export default function ClaimsPage() {
  const { id = '' } = useParams()
  const review = useReviews().data?.find((r) => r.id === id)
  const ledger = useLedger(id)
  const [writing, setWriting] = useState<{ row?: Row }>()
  return (
    <Page
      title="What is claimed"
      about={
        <>
          {review && <Link to={`/verdict/${id}`}>{review.question}</Link>} Each claim in the words in which it is made,
          with what was measured for it. What nobody tested stays here.
        </>
      }
      actions={
        <button className="button button-main" onClick={() => setWriting({})}>
          Write a claim down
        </button>
      }
    >
      <Ready of={ledger}>
        {(s) => (
          <>
            {writing && review && (
              <ClaimForm
                key={writing.row?.key ?? 'new'}
                row={writing.row}
                review={review}
                measures={s.measures}
                close={() => setWriting(undefined)}
              />
            )}
            {s.rows.length === 0 ? (
              <Empty title="No claim is written down">
                A number off a box, a sentence from a shop, another reviewer’s verdict: each can be held against your
                prints.
              </Empty>
            ) : (
              <ul className="grid gap-3" aria-label="Claims">
                {s.rows.map((r) => (
                  <ClaimRow key={r.key} r={r} change={() => setWriting({ row: r })} />
                ))}
              </ul>
            )}
          </>
        )}
      </Ready>
    </Page>
  )
}

function ClaimRow({ r, change }: { r: Row; change: () => void }) {
  const c = r.claim
  return (
    <li className="sheet grid gap-2 lg:grid-cols-[1fr_1fr_15rem] lg:gap-6">
      <div className="grid content-start gap-1 wrap-anywhere">
        <p className="text-lg">“{r.words}”</p>
        <p className="text-sm text-soft">
          {c && <span className="num">{c.code} </span>}of {r.subject}
          {r.number && `, claimed: ${r.number}`}
          {r.base && `, against ${r.base}`}. Says {r.source} ({interests[r.interest]}).
        </p>
      </div>
      <div className="grid content-start gap-1 wrap-anywhere">
        <p>
          <strong>{words(r.state)}</strong>
          {r.judged && <span className="text-soft"> as you judged</span>}: {r.says}
        </p>
        {(r.state === 'untested' || r.state === 'cannot_tell') && (
          <p className="text-sm text-soft">What would show it: {r.test}</p>
        )}
      </div>
      <div className="flex flex-wrap content-start gap-2 lg:justify-end">
        {r.event_id !== '' ? (
          <Link className="button" to={`/knots/${r.event_id}`}>
            Open the upgrade
          </Link>
        ) : (
          <button className="button" aria-label={`${c ? 'Change' : 'Judge'}: ${r.words}`} onClick={change}>
            {c ? 'Change' : 'Judge'}
          </button>
        )}
        {c && (
          <TakeBack
            what={c.code ?? ''}
            take={(why) =>
              answer(
                api.POST('/api/v1/claims/{id}/taking-back', { params: { path: { id: c.id ?? '' } }, body: { why } }),
              )
            }
          />
        )}
      </div>
    </li>
  )
}
