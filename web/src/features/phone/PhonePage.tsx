import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { Link } from 'react-router'
import { Complaint, Page } from '../../components/Page'
import { answer, api, ProblemError, type RunSheet, type Schemas } from '../../lib/api'
import { drop, onKept, remembered, retry, useOutbox } from '../../lib/outbox'
import { kindOf, refresh } from '../../lib/touch'
import { moment } from '../../lib/format'
import { InHand } from './InHand'
import { Scan } from './Scan'

/** The phone in the pocket as scanner and camera of the bench: what is entered waits while the network is away. */
export default function PhonePage() {
  const client = useQueryClient()
  const [code, setCode] = useState(() => sessionStorage.getItem('phone-code') ?? '')
  useEffect(() => sessionStorage.setItem('phone-code', code), [code])
  useEffect(() => onKept((path) => refresh(client, [kindOf(path)])), [client])
  useEffect(() => void keepPage(), [])
  return (
    <Page title="In the pocket" about="Scan a copy, photograph it, say what became of it and what was read.">
      <Waiting />
      <Scan take={setCode} />
      {code !== '' && <Copy key={code} code={code} />}
      <AtTheBench />
    </Page>
  )
}

/** A trusted, encrypted page is kept by the phone, with what it has loaded, so that it opens while the network is away. */
async function keepPage() {
  if (!window.isSecureContext || !('serviceWorker' in navigator)) return
  try {
    await navigator.serviceWorker.register('/sw.js')
    await navigator.serviceWorker.ready
    const loaded = performance.getEntriesByType('resource').map((r) => new URL(r.name))
    const assets = loaded.filter((u) => u.origin === window.location.origin && u.pathname.startsWith('/assets/'))
    await (await caches.open('ojime-shell-1')).addAll(['/', ...new Set(assets.map((u) => u.pathname))])
  } catch {
    // A certificate that is not trusted: the page works, and keeps nothing.
  }
}

const isAway = (e: unknown) => !(e instanceof ProblemError) || e.problem.status === undefined

/** The copy of a label, with its print, as the bench tells of it, or told last. */
function Copy({ code }: { code: string }) {
  const found = useQuery({
    queryKey: ['runs', 'of', code],
    retry: false,
    queryFn: () =>
      remembered(
        code,
        async () => {
          const { specimen } = await answer(api.GET('/api/v1/specimens/{code}', { params: { path: { code } } }))
          const sheet = await answer(api.GET('/api/v1/runs/{id}', { params: { path: { id: specimen.run_id ?? '' } } }))
          return { id: specimen.id ?? '', sheet }
        },
        isAway,
      ),
  })
  if (found.isPending) return <p className="text-soft">Looking for {code}…</p>
  if (found.isError)
    return (
      <Complaint>
        {found.error instanceof ProblemError
          ? found.error.message
          : `The network is away, and ${code} was not looked at on this device before.`}
      </Complaint>
    )
  const specimen = found.data.sheet.specimens.find((s) => s.id === found.data.id)
  return specimen ? <InHand specimen={specimen} sheet={found.data.sheet as RunSheet} /> : null
}

/** What waits to be sent, and what the bench refused. */
function Waiting() {
  const { entries, state } = useOutbox()
  const waits = entries.filter((e) => e.refused === undefined)
  const refused = entries.filter((e) => e.refused !== undefined)
  return (
    <section className="sheet grid gap-2" aria-label="What waits">
      <p role="status">
        {waits.length === 0 && (refused.length === 0 ? 'Everything is at the bench.' : 'Refused by the bench:')}
        {waits.length > 0 &&
          {
            quiet: 'Waiting to be sent:',
            sending: 'Being sent:',
            away: 'The network is away; kept here until it is back:',
            outside: 'The session is over; come in again, and this is sent:',
          }[state]}
      </p>
      {waits.length > 0 && (
        <ul className="grid gap-1">
          {waits.map((e) => (
            <li key={e.id} className="flex flex-wrap items-center gap-2">
              <span className="min-w-0 flex-1 wrap-anywhere">
                {e.says} <span className="text-sm text-soft">{moment(e.at)}</span>
              </span>
              {state === 'away' && (
                <button className="button" aria-label={`Drop ${e.says}`} onClick={() => void drop(e.id)}>
                  Drop
                </button>
              )}
            </li>
          ))}
        </ul>
      )}
      {state === 'outside' && <Link to="/">Come in again</Link>}
      {refused.map((e) => (
        <div key={e.id} className="grid gap-2 border-l-4 border-bad pl-3">
          <p className="wrap-anywhere">
            {e.says}: <span className="font-semibold text-bad">{e.refused}</span>
          </p>
          <div className="flex gap-2">
            <button className="button" onClick={() => void retry(e)}>
              {e.questioned ? 'It is right: keep it' : 'Send again'}
            </button>
            <button className="button" aria-label={`Drop ${e.says}`} onClick={() => void drop(e.id)}>
              Drop
            </button>
          </div>
        </div>
      ))}
      {!window.isSecureContext && (
        <p className="text-sm text-soft">
          This page is not encrypted, or its certificate is not trusted: what waits is kept while the page is open, and
          the camera comes by file. <Link to="/door">How to mend that</Link>
        </p>
      )}
    </section>
  )
}

/** What prints, and when to top up. */
function AtTheBench() {
  const bench = useQuery({
    queryKey: ['bench'],
    retry: false,
    refetchInterval: 30_000,
    queryFn: () => remembered('bench', () => answer(api.GET('/api/v1/bench')), isAway),
  })
  const next: Schemas['NextStep'][] = bench.data?.next ?? []
  return (
    <section className="sheet grid gap-2" aria-label="At the bench">
      <h2>At the bench</h2>
      {bench.isSuccess && next.length === 0 && <p className="text-soft">Nothing waits.</p>}
      <ul className="grid gap-2">
        {next.slice(0, 6).map((s) => (
          <li key={s.link + s.title}>
            <Link to={s.link}>{s.title}</Link>
            <span className="block text-sm text-soft">{s.why}</span>
          </li>
        ))}
      </ul>
    </section>
  )
}
