import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Link, useParams } from 'react-router'
import { History } from '../../components/History'
import { Complaint, Page, Ready } from '../../components/Page'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, day, listed } from '../../lib/format'
import { Ballots } from './Ballots'
import { Coding } from './Coding'
import { Shown } from './Shown'

type Sheet = Schemas['PanelSheet']

const kinds: Record<Schemas['Panel']['kind'], string> = {
  preference: 'which of two is better',
  odd_one_out: 'which of three is the odd one',
  ranking: 'all put in order',
  matching: 'which was printed on which',
}

const states: Record<Sheet['state'], string> = {
  coding: 'not sealed yet',
  voting: 'sealed; judges vote',
  closed: 'closed',
  taken_back: 'taken back',
}

/** A blind panel, as the reviewer leads it: coding, sealing, votes, and the key when all have voted. */
export default function PanelPage() {
  const { id = '' } = useParams()
  const panel = useQuery({
    queryKey: ['panels', id],
    queryFn: () => answer(api.GET('/api/v1/panels/{id}', { params: { path: { id } } })),
  })
  const client = useQueryClient()
  const kept = (s: Sheet) => client.setQueryData(['panels', id], s)
  return <Ready of={panel}>{(s) => <Led s={s} kept={kept} />}</Ready>
}

function Led({ s, kept }: { s: Sheet; kept: (s: Sheet) => void }) {
  const p = s.panel
  const path = { id: p.id ?? '' }
  return (
    <Page
      title={p.question}
      about={
        <>
          Blind panel {p.code} of <Link to={`/verdict/${p.review_id}`}>{s.review}</Link>: {kinds[p.kind]},{' '}
          {counted(p.judges, 'judge')}, {p.stage}, {s.station}, {p.light}
          {p.looks_at && `; looked at: ${p.looks_at}`}. <strong>{states[s.state]}</strong>
        </>
      }
      actions={
        p.taken_back_ms == null && (
          <TakeBack
            what={`panel ${p.code}`}
            take={async (why) =>
              kept(await answer(api.POST('/api/v1/panels/{id}/taking-back', { params: { path }, body: { why } })))
            }
          />
        )
      }
    >
      {s.state === 'taken_back' && <Complaint>Taken back, and counts no more: {p.taken_back_why}</Complaint>}
      {s.shown && <Shown shown={s.shown} opening={s.opening} />}
      {s.state === 'coding' && <Coding s={s} kept={kept} />}
      {s.state === 'coding' && <Tells s={s} />}
      {s.state === 'coding' && <Seal s={s} kept={kept} />}
      {s.state !== 'coding' && <Ballots s={s} kept={kept} />}
      {s.state === 'voting' && <Close s={s} kept={kept} />}
      {s.state !== 'coding' && <Tells s={s} />}
      <Arms s={s} />
      <History kind="panel" id={p.id ?? ''} />
    </Page>
  )
}

function Seal({ s, kept }: { s: Sheet; kept: (s: Sheet) => void }) {
  const seal = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/panels/{id}/sealing', { params: { path: { id: s.panel.id ?? '' } } })),
    onSuccess: kept,
  })
  return (
    <section className="sheet grid justify-items-start gap-3" aria-label="Seal">
      <h2>Seal it</h2>
      <p>
        From then on no page, label, history or export tells which code is which, until the panel closes. The hash of
        the key is told now, so that nobody can change the key unseen:{' '}
        <span className="num wrap-anywhere text-soft">{s.panel.key_sha256}</span>
      </p>
      <button
        className={s.left === 0 ? 'button button-main' : 'button'}
        disabled={seal.isPending || s.left > 0}
        onClick={() => seal.mutate()}
      >
        {s.left > 0 ? `${counted(s.left, 'copy', 'copies')} still without a code` : 'Seal the panel'}
      </button>
      {seal.isError && <Complaint>{seal.error.message}</Complaint>}
    </section>
  )
}

/** Closing tells the key; before all have voted it needs a reason, which stays. */
function Close({ s, kept }: { s: Sheet; kept: (s: Sheet) => void }) {
  const [why, setWhy] = useState('')
  const [opening, setOpening] = useState('')
  const close = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/panels/{id}/closing', {
          params: { path: { id: s.panel.id ?? '' } },
          body: { early_why: why, opening },
        }),
      ),
    onSuccess: kept,
  })
  const out = s.panel.judges - s.cast
  return (
    <form
      className="sheet grid justify-items-start gap-3"
      aria-label="Close"
      onSubmit={(e) => {
        e.preventDefault()
        close.mutate()
      }}
    >
      <h2>{out > 0 ? `Open it early: ${counted(out, 'judge')} did not vote` : 'All have voted'}</h2>
      {out > 0 && (
        <label className="w-full max-w-xl text-sm font-semibold">
          Why it is opened early; this stands beside the result for good
          <input className="input font-normal" value={why} onChange={(e) => setWhy(e.target.value)} />
        </label>
      )}
      {s.elsewhere && (
        <label className="w-full max-w-xl text-sm font-semibold">
          What opens it: 64 letters and digits from its page in the record that it came from, once it is closed there
          <input className="input num font-normal" value={opening} onChange={(e) => setOpening(e.target.value)} />
        </label>
      )}
      <button
        className={out > 0 ? 'button' : 'button button-main'}
        disabled={close.isPending || (out > 0 && why.trim() === '')}
      >
        {out > 0 ? 'Open it now' : 'Close it and tell the key'}
      </button>
      {close.isError && <Complaint>{close.error.message}</Complaint>}
    </form>
  )
}

/** What the panel sets against each other. */
function Arms({ s }: { s: Sheet }) {
  return (
    <section className="sheet grid gap-2" aria-label="What is set against each other">
      <h2>What is set against each other</h2>
      <ul className="grid gap-1">
        {s.panel.arms.map((a, i) => {
          const codes = s.to_code.filter((c) => c.arm === i).map((c) => c.code)
          return (
            <li key={i} className="wrap-anywhere">
              <strong>{a.label}</strong>: <span className="num">{listed(codes)}</span>
            </li>
          )
        })}
      </ul>
      {s.panel.sealed_ms != null && (
        <p className="text-sm text-soft">
          {s.panel.coder !== '' && `Codes put on by ${s.panel.coder}, ${s.panel.coded_by}. `}Sealed on{' '}
          {day(s.panel.sealed_ms)}. Hash of the key: <span className="num wrap-anywhere">{s.panel.key_sha256}</span>
        </p>
      )}
    </section>
  )
}

/** What may tell the set-ups apart beside what is asked about: it stands beside the result. */
function Tells({ s }: { s: Sheet }) {
  return (
    <section className="sheet grid gap-2" aria-label="What may tell them apart">
      <h2>What may tell them apart</h2>
      <p className="text-soft">
        {s.state === 'coding'
          ? 'As the record says now. Mend what you can before you seal; what is left stands beside the result.'
          : 'As the record said when the panel was sealed.'}
      </p>
      <ul className="list-disc pl-5">
        {s.tells.map((t) => (
          <li key={t} className="wrap-anywhere">
            {t}
          </li>
        ))}
      </ul>
    </section>
  )
}
