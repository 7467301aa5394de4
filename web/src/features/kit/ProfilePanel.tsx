import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Complaint, Ready } from '../../components/Page'
import { SlicedFiles } from '../../components/SlicedFiles'
import { answer, api, type Schemas } from '../../lib/api'
import { counted, figure, moment } from '../../lib/format'
import { useSettingsCards } from '../../lib/queries'
import { ProfileForm } from './ProfileForm'

type Card = Schemas['SettingsCard']

/** Settings by machine, resin and layer height. What they set never changes: a change makes new ones. */
export function ProfilePanel() {
  const cards = useSettingsCards()
  // A blank form, or one that begins from other settings.
  const [from, setFrom] = useState<Card | 'blank'>()
  const [archived, setArchived] = useState(false)
  return (
    <section className="grid justify-items-start gap-3">
      <div className="flex flex-wrap gap-2">
        <Link to="/dial-in/new" className="button button-main">
          Dial in an exposure
        </Link>
        <button className="button" onClick={() => setFrom(from ? undefined : 'blank')} aria-expanded={from === 'blank'}>
          Enter settings by hand
        </button>
        <Link to="/tables/settings" className="button">
          Several as a table
        </Link>
      </div>
      {from && (
        <ProfileForm
          key={from === 'blank' ? 'blank' : from.profile.id}
          from={from === 'blank' ? undefined : from}
          done={() => setFrom(undefined)}
        />
      )}
      <Ready of={cards}>
        {(list) => {
          const shown = list.filter((c) => c.profile.basis !== 'series' && (archived || c.profile.archived_ms == null))
          const hidden = list.filter((c) => c.profile.archived_ms != null).length
          return (
            <>
              {shown.length === 0 && (
                <p className="sheet w-full">
                  No settings yet. A series finds them; a maker's default or a sealed profile is entered by hand.
                </p>
              )}
              <h2 className="sr-only">Settings on record</h2>
              <ul className="grid w-full gap-3">
                {shown.map((c) => (
                  <SettingsCard
                    key={c.profile.id}
                    c={c}
                    duplicate={() => {
                      setFrom(c)
                      window.scrollTo({ top: 0 })
                    }}
                  />
                ))}
              </ul>
              {hidden > 0 && (
                <button className="button" onClick={() => setArchived(!archived)}>
                  {archived ? 'Hide what was withdrawn' : `Show ${counted(hidden, 'withdrawn set', 'withdrawn sets')}`}
                </button>
              )}
            </>
          )
        }}
      </Ready>
    </section>
  )
}

/** One set of settings: its name, all it says, what it changed, and what may be done with it. */
function SettingsCard({ c, duplicate }: { c: Card; duplicate: () => void }) {
  const p = c.profile
  const id = p.id ?? ''
  const [name, setName] = useState<string>()
  const [why, setWhy] = useState<string>()
  const [sliced, setSliced] = useState(false)
  const rename = useMutation({
    mutationFn: () =>
      answer(
        api.PATCH('/api/v1/profiles/{id}', {
          params: { path: { id } },
          body: { version: p.version ?? 0, name: name ?? '', note: p.note },
        }),
      ),
    onSuccess: () => setName(undefined),
  })
  const archive = useMutation({
    mutationFn: (reason: string) =>
      answer(
        api.POST('/api/v1/profiles/{id}/archiving', {
          params: { path: { id } },
          body: { version: p.version ?? 0, why: reason },
        }),
      ),
    onSuccess: () => setWhy(undefined),
  })
  const template = c.template
  const begin = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/profiles/{id}/template', {
          params: { path: { id } },
          body: { version: p.version ?? 0, template: !template },
        }),
      ),
  })
  return (
    <li className="sheet grid gap-2">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h3>
          {c.name}{' '}
          <span className="font-normal text-soft">
            {c.machine}, {c.resin}, {c.runs === 0 ? 'not printed with yet' : counted(c.runs, 'print')}
          </span>
        </h3>
        <div className="flex flex-wrap gap-2">
          <button className="button" onClick={duplicate} aria-label={`Duplicate and change ${c.name}`}>
            Duplicate and change
          </button>
          <button className="button" onClick={() => setName(p.name ?? '')} aria-label={`Name ${c.name}`}>
            Name it
          </button>
          {p.archived_ms == null && p.basis !== 'sealed' && (
            <button
              className="button"
              aria-pressed={template}
              disabled={begin.isPending}
              onClick={() => begin.mutate()}
              aria-label={`New settings of ${c.machine} begin with ${c.name}`}
            >
              {template ? 'New ones begin with these ✓' : 'Begin new ones with these'}
            </button>
          )}
          <button
            className="button"
            aria-expanded={sliced}
            onClick={() => setSliced(!sliced)}
            aria-label={`Sliced file of ${c.name}`}
          >
            Sliced file
          </button>
          {p.archived_ms == null ? (
            <button className="button" onClick={() => setWhy('')} aria-label={`Withdraw ${c.name}`}>
              Withdraw
            </button>
          ) : (
            <button className="button" onClick={() => archive.mutate('')} aria-label={`Bring ${c.name} back`}>
              Bring back
            </button>
          )}
        </div>
      </div>
      <p>{c.words.join('; ')}.</p>
      {begin.isError && <Complaint>{begin.error.message}</Complaint>}
      {p.note && <p className="text-soft">{p.note}</p>}
      {sliced && <SlicedFiles of="profiles" id={id} />}
      {c.parent && (
        <div className="text-sm">
          <p className="text-soft">Changed from {c.parent}:</p>
          {c.changed.length === 0 ? (
            <p>nothing that it sets</p>
          ) : (
            <ul>
              {c.changed.map((x) => (
                <li key={x.what}>
                  {x.what}: <s className="text-soft">{x.from || 'none'}</s> → {x.to || 'none'}
                  {x.pct != null && (
                    <span className="num">
                      {' '}
                      ({x.pct > 0 && '+'}
                      {figure(x.pct)} %)
                    </span>
                  )}
                </li>
              ))}
            </ul>
          )}
        </div>
      )}
      {p.archived_ms != null && (
        <p className="border-l-4 border-act pl-3 text-sm">
          Withdrawn {moment(p.archived_ms)}: {p.archived_why}. What was printed with it stays.
        </p>
      )}
      {name !== undefined && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            rename.mutate()
          }}
        >
          <label className="min-w-60 flex-1 text-sm font-semibold">
            A name of its own
            <input className="input font-normal" value={name} onChange={(e) => setName(e.target.value)} />
          </label>
          <button className="button" disabled={rename.isPending}>
            Keep the name
          </button>
        </form>
      )}
      {why !== undefined && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            archive.mutate(why)
          }}
        >
          <label className="min-w-60 flex-1 text-sm font-semibold">
            Why they are withdrawn
            <input className="input font-normal" required value={why} onChange={(e) => setWhy(e.target.value)} />
          </label>
          <button className="button" disabled={archive.isPending}>
            Withdraw these settings
          </button>
        </form>
      )}
      {(rename.isError || archive.isError) && <Complaint>{(rename.error ?? archive.error)?.message}</Complaint>}
    </li>
  )
}
