import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answer, api, type Schemas } from '../lib/api'
import { Complaint } from './Page'

type Doorway = Schemas['Doorway']

/** Whoever comes from the network says the passphrase, or the code that the bench shows. */
export function ComeIn({ door }: { door: Doorway }) {
  const client = useQueryClient()
  const shown = new URLSearchParams(window.location.search).get('code') ?? ''
  const [passphrase, setPassphrase] = useState('')
  const [code, setCode] = useState(shown)
  const [name, setName] = useState('')
  useEffect(() => {
    document.title = 'Come in · Ojime'
  }, [])
  const inside = (d: Doorway) => {
    client.removeQueries({ predicate: (q) => q.queryKey[0] !== 'door' })
    client.setQueryData(['door'], d)
  }
  const enter = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/door/sessions', { body: { passphrase, name } })),
    onSuccess: inside,
  })
  const pair = useMutation({
    mutationFn: () => answer(api.POST('/api/v1/door/helpers', { body: { code, name } })),
    onSuccess: inside,
  })
  const named = (
    <label className="text-sm font-semibold">
      What this device is called
      <input
        className="input font-normal"
        maxLength={60}
        placeholder="optional"
        value={name}
        onChange={(e) => setName(e.target.value)}
      />
    </label>
  )
  return (
    <main className="mx-auto grid max-w-md grid-cols-[minmax(0,1fr)] gap-4 px-4 py-8">
      <h1 className="flex items-center gap-2">
        <svg viewBox="-10 -14 20 28" className="h-8" aria-hidden="true">
          <path d="M0 -13v26" stroke="var(--ink)" strokeWidth="4" />
          <circle r="8" fill="var(--act)" />
        </svg>
        ojime
      </h1>
      {shown === '' && (
        <form
          className="sheet grid gap-3"
          aria-label="By the passphrase"
          onSubmit={(e) => {
            e.preventDefault()
            enter.mutate()
          }}
        >
          <h2>By the passphrase</h2>
          <label className="text-sm font-semibold">
            Passphrase
            <input
              type="password"
              autoComplete="current-password"
              className="input font-normal"
              value={passphrase}
              onChange={(e) => setPassphrase(e.target.value)}
            />
          </label>
          {named}
          {enter.isError && <Complaint>{enter.error.message}</Complaint>}
          <div>
            <button className="button button-main" disabled={enter.isPending || passphrase === ''}>
              Come in
            </button>
          </div>
        </form>
      )}
      <form
        className="sheet grid gap-3"
        aria-label="By a code from the bench"
        onSubmit={(e) => {
          e.preventDefault()
          pair.mutate()
        }}
      >
        <h2>By a code from the bench</h2>
        <p className="text-soft">As a helper: you see the bench, and enter what is seen and read.</p>
        <label className="text-sm font-semibold">
          Code of eight digits
          <input
            className="input num font-normal"
            inputMode="numeric"
            autoComplete="one-time-code"
            maxLength={20}
            value={code}
            onChange={(e) => setCode(e.target.value)}
          />
        </label>
        {shown !== '' && named}
        {pair.isError && <Complaint>{pair.error.message}</Complaint>}
        <div>
          <button className={shown ? 'button button-main' : 'button'} disabled={pair.isPending || code.trim() === ''}>
            Come in as helper
          </button>
        </div>
      </form>
      <Connection door={door} />
    </main>
  )
}

/** Whether others in the network can read along, and how that is mended. */
export function Connection({ door }: { door: Doorway }) {
  return (
    <p className="border-l-4 border-line pl-3 text-sm wrap-anywhere text-soft">
      {door.secure
        ? 'This connection is encrypted.'
        : 'This connection is not encrypted: whoever is in this network can read along. Browsers then give no camera stream and keep nothing for offline; photographs by file and everything else work. The program is served encrypted when it is started with --tls.'}
      {door.root && (
        <>
          {' '}
          Where the browser does not know its certificate, <a href="/api/v1/door/root.crt">install this root</a>, which
          vouches for this bench alone. Compare its SHA-256 fingerprint with the one that the program said when it
          started: <span className="num">{door.fingerprint}</span>
        </>
      )}
    </p>
  )
}
