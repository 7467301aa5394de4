import { useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type RunSheet, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { figure, moment, moment as clock } from '../../lib/format'
import { n, t } from '../../lib/input'
import { airWords } from '../../lib/room'

type Reading = Schemas['RoomReading']
type Moment = Kind<'RoomReading', 'moment'>

const moments = choices<Moment>({ start: 'at the start', during: 'while it prints', end: 'at the end' })
const empty = { room_temp_c: '', humidity_pct: '', resin_temp_c: '', heater_on: '', note: '' }

/** What the print is made in: read at its start, while it prints and at its end; what it comes to, and how it drifted. */
export function Room({ s }: { s: RunSheet }) {
  const stated = s.resin.prints_from_c != null || s.resin.prints_to_c != null
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="The room">
      <h2>The room</h2>
      <p>
        {s.room.says ? (
          <span className="inline-block first-letter:uppercase">{s.room.says}.</span>
        ) : (
          'What it was made in is not on record.'
        )}{' '}
        {s.room.drifted && <strong>It drifted while it printed.</strong>}{' '}
        {s.room_outside === true && <strong>That is outside what is stated for {s.resin.name}.</strong>}
        {s.room_outside === false && `That is within what is stated for ${s.resin.name}.`}
        {s.room_outside == null && stated && `${s.resin.name} has a stated temperature; it was not read here.`}
      </p>
      {s.room_readings.length > 0 && (
        <details>
          <summary className="min-h-(--tap) cursor-pointer font-semibold">Readings ({s.room_readings.length})</summary>
          <ul className="grid gap-1">
            {s.room_readings.map((r) => (
              <li key={r.id} className={`flex flex-wrap items-center gap-2 ${r.taken_back_ms ? 'text-soft' : ''}`}>
                <span className="min-w-0 flex-1 wrap-anywhere">
                  {moment(r.at_ms ?? 0)}, {moments.find((m) => m.value === r.moment)?.label}: {read(r)}{' '}
                  {r.device_id ? '● told by a device' : '●'}
                  {r.note && `, ${r.note}`}
                  {r.taken_back_ms && `. Taken back: ${r.taken_back_why}`}
                </span>
                {!r.taken_back_ms ? (
                  <TakeBack
                    what={`the reading of ${moment(r.at_ms ?? 0)}`}
                    take={(why) =>
                      answer(
                        api.POST('/api/v1/runs/{id}/room-readings/{reading_id}/taking-back', {
                          params: { path: { id: s.run.id ?? '', reading_id: r.id ?? '' } },
                          body: { why },
                        }),
                      )
                    }
                  />
                ) : (
                  <PutAgain kind="room_reading" id={r.id} what={`the reading of ${moment(r.at_ms ?? 0)}`} />
                )}
              </li>
            ))}
          </ul>
        </details>
      )}
      <Read s={s} />
    </section>
  )
}

const read = (r: Reading) =>
  [
    r.room_temp_c != null && `room ${figure(r.room_temp_c)} °C`,
    r.humidity_pct != null && `humidity ${figure(r.humidity_pct)} %`,
    r.resin_temp_c != null && `resin ${figure(r.resin_temp_c)} °C`,
    r.heater_on != null && `heater ${r.heater_on ? 'on' : 'off'}`,
  ]
    .filter(Boolean)
    .join(', ')

/** One reading; which moment it is of follows from where the print stands, until it is said. */
function Read({ s }: { s: RunSheet }) {
  const begun = s.room_readings.some((r) => !r.taken_back_ms)
  const stands: Moment = s.run.ended_ms != null ? 'end' : begun ? 'during' : 'start'
  const [moment, setMoment] = useState<Moment>()
  const [v, setV] = useState(empty)
  const keep = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/runs/{id}/room-readings', {
          params: { path: { id: s.run.id ?? '' } },
          body: {
            moment: moment ?? stands,
            room_temp_c: n(v.room_temp_c),
            humidity_pct: n(v.humidity_pct),
            resin_temp_c: n(v.resin_temp_c),
            heater_on: v.heater_on === '' ? null : v.heater_on === 'on',
            note: v.note,
          },
        }),
      ),
    onSuccess: () => {
      setV(empty)
      setMoment(undefined)
    },
  })
  const number = (key: 'room_temp_c' | 'humidity_pct' | 'resin_temp_c', label: string, unit: string) => (
    <label className="text-sm font-semibold">
      {label} <span className="num font-normal text-soft">{unit}</span>
      <input
        className="input num font-normal"
        inputMode="decimal"
        autoComplete="off"
        data-unit={unit}
        value={v[key]}
        onChange={(e) => setV({ ...v, [key]: e.target.value })}
      />
    </label>
  )
  return (
    <form
      className="grid gap-2"
      aria-label="Read the room"
      onSubmit={(e) => {
        e.preventDefault()
        keep.mutate()
      }}
    >
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3 lg:grid-cols-6">
        <label className="text-sm font-semibold">
          When
          <select
            className="input font-normal"
            value={moment ?? stands}
            onChange={(e) => setMoment(e.target.value as Moment)}
          >
            {moments.map(({ value, label }) => (
              <option key={value} value={value}>
                {label}
              </option>
            ))}
          </select>
        </label>
        {number('room_temp_c', 'Room', '°C')}
        {number('humidity_pct', 'Humidity', '%')}
        {number('resin_temp_c', 'Resin', '°C')}
        <label className="text-sm font-semibold">
          Heater
          <select
            className="input font-normal"
            value={v.heater_on}
            onChange={(e) => setV({ ...v, heater_on: e.target.value })}
          >
            <option value="">not looked at</option>
            <option value="on">on</option>
            <option value="off">off</option>
          </select>
        </label>
        <label className="text-sm font-semibold">
          Note
          <input
            className="input font-normal"
            autoComplete="off"
            value={v.note}
            onChange={(e) => setV({ ...v, note: e.target.value })}
          />
        </label>
      </div>
      <Lately s={s} take={(a) => setV({ ...v, ...a })} />
      {keep.isError && <Complaint>{keep.error.message}</Complaint>}
      <button type="submit" className="button justify-self-start" disabled={keep.isPending}>
        Keep this reading
      </button>
    </form>
  )
}

/** What was read lately in the same room, at another print: it need not be read again. */
function Lately({ s, take }: { s: RunSheet; take: (v: Partial<typeof empty>) => void }) {
  const machineID = s.run.machine_id
  const at = s.run.ended_ms ?? 0
  const expected = useQuery({
    queryKey: ['rooms', 'expected', machineID, at],
    queryFn: () =>
      answer(api.GET('/api/v1/room-expected', { params: { query: { machine_id: machineID, at_ms: at } } })),
  })
  const e = expected.data
  if (!e || e.read_ms == null || e.read_at === s.run.code) return null
  const { room_temp_c, humidity_pct, heater_on } = e.read
  return (
    <button
      type="button"
      className="button justify-self-start"
      onClick={() =>
        take({
          ...(room_temp_c != null && { room_temp_c: t(room_temp_c) }),
          ...(humidity_pct != null && { humidity_pct: t(humidity_pct) }),
          ...(heater_on != null && { heater_on: heater_on ? 'on' : 'off' }),
          note: `as read at ${e.read_at}`,
        })
      }
    >
      As read {clock(e.read_ms)} at {e.read_at} in {e.room}: {airWords(e.read)}
    </button>
  )
}
