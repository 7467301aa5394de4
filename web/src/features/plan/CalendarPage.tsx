import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { hours, localInput, moment } from '../../lib/format'
import { CalendarCords } from './CalendarCords'
import { CalendarTable } from './CalendarTable'

/** What prints and what waits on all machines, laid into the hours of one person. */
export default function CalendarPage() {
  const [by, setBy] = useState('')
  const at = by === '' ? 0 : new Date(by).getTime()
  // What waits stands there also when an hour is asked for that cannot be.
  const calendar = useCalendar(0)
  const asked = useCalendar(at)
  return (
    <Page
      title="Calendar"
      about="What prints and what waits on every machine, looked after by one person: when each begins, ends and is ready."
      actions={
        <a className="button" href="/api/v1/calendar.ics" download>
          Take it into a calendar (ICS)
        </a>
      }
    >
      {calendar.data && asked.isError && <Complaint>{asked.error.message}</Complaint>}
      <Ready of={calendar}>
        {(all) => {
          const c = asked.data ?? all
          return (
            <>
              <ReadyBy by={by} setBy={setBy} c={c} />
              {c.machines.length === 0 ? (
                <Empty title="Nothing prints and nothing waits">
                  <p>
                    <Link to="/plan/new">Lay a plate</Link>, or have a review plan the prints that it lacks; they come
                    into this calendar by themselves.
                  </p>
                </Empty>
              ) : (
                <Laid c={c} />
              )}
            </>
          )
        }}
      </Ready>
    </Page>
  )
}

const useCalendar = (readyByMS: number) =>
  useQuery({
    queryKey: ['calendar', readyByMS],
    placeholderData: keepPreviousData,
    // The clock moves what is still to come.
    refetchInterval: 60_000,
    retry: false,
    queryFn: () => answer(api.GET('/api/v1/calendar', { params: { query: { ready_by_ms: readyByMS } } })),
  })

function ReadyBy({ by, setBy, c }: { by: string; setBy: (by: string) => void; c: Schemas['Calendar'] }) {
  return (
    <section className="sheet grid gap-2" aria-label="Ready by">
      <div className="flex flex-wrap items-end gap-3">
        <label className="text-sm font-semibold">
          All to be ready by
          <input
            className="input font-normal"
            type="datetime-local"
            value={by}
            min={localInput(c.now_ms)}
            onChange={(e) => setBy(e.target.value)}
          />
        </label>
        {c.choices.map((choice) => (
          <button
            key={choice.words}
            type="button"
            className="button"
            aria-pressed={by === localInput(choice.at_ms)}
            onClick={() => setBy(localInput(choice.at_ms))}
          >
            {choice.words}
          </button>
        ))}
        {by !== '' && (
          <button type="button" className="button" onClick={() => setBy('')}>
            No such hour
          </button>
        )}
      </div>
      <p className="text-sm text-soft">
        {c.hours_say} <Link to="/kit?tab=costs">Change these hours</Link>
      </p>
    </section>
  )
}

function Laid({ c }: { c: Schemas['Calendar'] }) {
  return (
    <>
      {(c.notes.length > 0 || c.warnings.length > 0) && (
        <section className="sheet" aria-label="To look at">
          <ul className="grid gap-1">
            {c.warnings.map((w) => (
              <li key={w.code} className="border-l-4 border-warn pl-2">
                {w.message}
              </li>
            ))}
            {c.notes.map((note) => (
              <li key={note.says} className="border-l-4 border-warn pl-2">
                {note.says} <Link to={note.link}>Open it</Link>
              </li>
            ))}
          </ul>
        </section>
      )}
      <section className="sheet grid gap-3" aria-label="The cords ahead">
        <p>
          {c.ready_ms == null ? (
            'No waiting print can be laid out.'
          ) : (
            <>
              All that is laid out is ready <strong className="num">{moment(c.ready_ms)}</strong>:{' '}
              <span className="num">{hours(c.run_h)}</span> of printing,{' '}
              <span className="num">{hours(c.attended_h)}</span> of yours to make machines ready.
            </>
          )}
        </p>
        <CalendarCords c={c} />
      </section>
      <CalendarTable c={c} />
    </>
  )
}
