import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Connection } from '../../components/ComeIn'
import { Complaint, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { useDoor } from '../../lib/door'
import { moment, words } from '../../lib/format'

/** Who is in from the network, how a phone is brought in, and what happened at the door. */
export default function DoorPage() {
  const door = useDoor()
  return (
    <Page title="The door" about="Who is in from the network, and what was asked for at the door.">
      <Ready of={door}>
        {(d) =>
          d.needed ? (
            <Inside door={d} />
          ) : (
            <section className="sheet grid gap-2">
              <h2>Only this computer can reach it</h2>
              <p>
                To let phones and others in the room’s network in, set a passphrase with{' '}
                <code className="num">ojime passphrase --data DIR</code>, and start the program with the address that it
                has in that network: <code className="num">ojime serve --addr 192.168.1.20:8420 --tls --data DIR</code>.
              </p>
            </section>
          )
        }
      </Ready>
    </Page>
  )
}

function Inside({ door }: { door: Schemas['Doorway'] }) {
  const client = useQueryClient()
  const leave = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/door/leaving')),
    onSettled: () => void client.resetQueries({ queryKey: ['door'] }),
  })
  return (
    <>
      <section className="sheet grid justify-items-start gap-2" aria-label="You">
        <h2>
          You are in as {door.scope}
          {door.name !== door.scope && `, ${door.name}`}
        </h2>
        <Connection door={door} />
        <button className="button" disabled={leave.isPending} onClick={() => leave.mutate()}>
          Leave
        </button>
      </section>
      {door.scope === 'owner' && (
        <>
          <Pairing />
          <Sessions />
          <Log />
        </>
      )}
    </>
  )
}

/** A code that brings one phone in as helper, once. */
function Pairing() {
  const [drawn, setDrawn] = useState<Schemas['PairingCode']>()
  const draw = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/door/codes')),
    onSuccess: setDrawn,
  })
  return (
    <section className="sheet grid justify-items-start gap-3" aria-label="Bring a phone in">
      <h2>Bring a phone in</h2>
      <p>It comes in as helper: it sees the bench, and enters what is seen, read and photographed; no settings.</p>
      {drawn && (
        <div className="flex flex-wrap items-center gap-4" role="status">
          <img
            className="size-36 [image-rendering:pixelated]"
            src={`/api/v1/door/codes/${drawn.code}/qr.png?url=${encodeURIComponent(window.location.origin)}`}
            alt="Code that opens the way in on a phone"
          />
          <p>
            <strong className="num block text-3xl">{drawn.code}</strong>
            <span className="text-soft">for one phone, until {moment(drawn.until_ms)}</span>
          </p>
        </div>
      )}
      <button
        className={drawn ? 'button' : 'button button-main'}
        disabled={draw.isPending}
        onClick={() => draw.mutate()}
      >
        {drawn ? 'Another code' : 'Draw a code'}
      </button>
      {draw.isError && <Complaint>{draw.error.message}</Complaint>}
    </section>
  )
}

function Sessions() {
  const client = useQueryClient()
  const key = ['door', 'sessions']
  const sessions = useQuery({
    queryKey: key,
    refetchInterval: 20_000,
    queryFn: () => answer(api.GET('/api/v1/door/sessions')),
  })
  const end = useMutation({
    mutationFn: (id: string) => answer(api.POST('/api/v1/door/sessions/{id}/ending', { params: { path: { id } } })),
    onSuccess: (list) => client.setQueryData(key, list),
  })
  const endAll = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/door/ending')),
    onSettled: () => void client.resetQueries({ queryKey: ['door'] }),
  })
  return (
    <section className="sheet grid gap-3" aria-label="Who is in">
      <h2>Who is in</h2>
      <Ready of={sessions}>
        {(list) => (
          <div className="overflow-x-auto">
            <table className="rows">
              <thead>
                <tr>
                  <th scope="col">Who</th>
                  <th scope="col">As</th>
                  <th scope="col">From</th>
                  <th scope="col">Since</th>
                  <th scope="col">Last seen</th>
                  <th scope="col">
                    <span className="sr-only">End</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {list.map((s) => (
                  <tr key={s.id}>
                    <th scope="row" className="wrap-anywhere">
                      {s.name}
                      {s.own && <span className="font-normal text-soft"> (this one)</span>}
                    </th>
                    <td>{s.scope}</td>
                    <td className="num">{s.from}</td>
                    <td className="whitespace-nowrap">{moment(s.created_ms)}</td>
                    <td className="whitespace-nowrap">{moment(s.seen_ms)}</td>
                    <td>
                      {!s.own && (
                        <button
                          className="button"
                          aria-label={`End the session of ${s.name}`}
                          onClick={() => end.mutate(s.id)}
                        >
                          End
                        </button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </Ready>
      {(end.isError || endAll.isError) && <Complaint>{(end.error ?? endAll.error)?.message}</Complaint>}
      <div>
        <button className="button" onClick={() => endAll.mutate()}>
          End all sessions, this one too
        </button>
      </div>
    </section>
  )
}

function Log() {
  const log = useQuery({ queryKey: ['door', 'log'], queryFn: () => answer(api.GET('/api/v1/door/log')) })
  return (
    <details className="sheet">
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">What happened at the door</summary>
      <Ready of={log}>
        {(events) => (
          <div className="max-h-96 overflow-auto" tabIndex={0} role="group" aria-label="Events at the door">
            <table className="rows">
              <thead>
                <tr>
                  <th scope="col">When</th>
                  <th scope="col">What</th>
                  <th scope="col">Who</th>
                  <th scope="col">From</th>
                  <th scope="col">About</th>
                </tr>
              </thead>
              <tbody>
                {events.map((e, i) => (
                  <tr key={i}>
                    <td className="whitespace-nowrap">{moment(e.at_ms)}</td>
                    <td>{words(e.what)}</td>
                    <td className="wrap-anywhere">{e.who}</td>
                    <td className="num">{e.from}</td>
                    <td className="wrap-anywhere">{e.detail}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </Ready>
    </details>
  )
}
