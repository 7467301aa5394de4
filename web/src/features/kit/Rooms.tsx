import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { airWords } from '../../lib/room'
import { n, t } from '../../lib/input'
import { listed, moment } from '../../lib/format'

type Card = Schemas['RoomCard']

/** Rooms that machines stand in: a print there may take over what was read in the room, or what it usually is. */
export function Rooms() {
  const client = useQueryClient()
  const rooms = useQuery({ queryKey: ['rooms'], queryFn: () => answer(api.GET('/api/v1/rooms')) })
  const [form, setForm] = useState<string>()
  if (rooms.isError) return <Complaint>{rooms.error.message}</Complaint>
  if (!rooms.data) return null
  const kept = (after: Schemas['Rooms']) => client.setQueryData(['rooms'], after)
  const { rooms: list, nowhere, machines } = rooms.data
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-label="Rooms">
      <div className="flex flex-wrap items-baseline justify-between gap-2">
        <h2>Rooms</h2>
        <button className="button" aria-expanded={form === ''} onClick={() => setForm(form === '' ? undefined : '')}>
          Enter a room
        </button>
      </div>
      {list.length === 0 && (
        <p>
          No room yet. Prints on machines that stand in one room can take over what was read there, instead of being
          told it again.
        </p>
      )}
      {form === '' && <RoomForm kept={kept} done={() => setForm(undefined)} />}
      <ul className="grid gap-3" aria-label="Rooms on record">
        {list.map((c) => (
          <li key={c.room.id} className="grid gap-2 border-t border-line pt-2">
            <div className="flex flex-wrap items-baseline justify-between gap-2">
              <p>
                <span className="num text-soft">{c.room.code}</span> <strong>{c.room.name}</strong>:{' '}
                {c.machines.length === 0 ? 'no machine stands in it' : listed(c.machines.map((m) => m.name))}.{' '}
                <Usually c={c} />
              </p>
              <span className="flex flex-wrap gap-2">
                <button
                  className="button"
                  aria-expanded={form === c.room.id}
                  aria-label={`Change ${c.room.name}`}
                  onClick={() => setForm(form === c.room.id ? undefined : c.room.id)}
                >
                  Change
                </button>
                {c.machines.length === 0 && <Retire room={c.room} kept={kept} />}
              </span>
            </div>
            {form === c.room.id && (
              <RoomForm key={c.room.version} room={c.room} kept={kept} done={() => setForm(undefined)} />
            )}
          </li>
        ))}
      </ul>
      {list.length > 0 && nowhere.length > 0 && (
        <p className="text-soft">In no room yet: {listed(nowhere.map((m) => m.name))}.</p>
      )}
      {list.length > 0 && machines.length > 0 && (
        <Place rooms={list} machines={machines} nowhere={nowhere.map((m) => m.id)} kept={kept} />
      )}
    </section>
  )
}

/** What the room usually is, and what was read in it lately. */
function Usually({ c }: { c: Card }) {
  const usual = airWords(c.room)
  const read = airWords(c.expected.read)
  return (
    <>
      {usual
        ? `Usually ${usual}${c.room.note && `; ${c.room.note.replace(/\.$/, '')}`}.`
        : `What it is usually like is not on record${c.room.note && `; ${c.room.note.replace(/\.$/, '')}`}.`}{' '}
      {c.expected.read_ms != null && `Read ${moment(c.expected.read_ms)} at ${c.expected.read_at}: ${read}.`}
    </>
  )
}

function RoomForm({
  room,
  kept,
  done,
}: {
  room?: Schemas['Workroom']
  kept: (after: Schemas['Rooms']) => void
  done: () => void
}) {
  const [v, setV] = useState({
    name: room?.name ?? '',
    room_temp_c: t(room?.room_temp_c),
    humidity_pct: t(room?.humidity_pct),
    heater_on: room?.heater_on == null ? '' : room.heater_on ? 'yes' : 'no',
    note: room?.note ?? '',
  })
  const save = useMutation({
    mutationFn: () => {
      const body = {
        version: room?.version ?? 0,
        name: v.name,
        room_temp_c: n(v.room_temp_c) as number | null,
        humidity_pct: n(v.humidity_pct) as number | null,
        heater_on: v.heater_on === '' ? null : v.heater_on === 'yes',
        note: v.note,
      }
      return room
        ? answer(api.PUT('/api/v1/rooms/{id}', { params: { path: { id: room.id ?? '' } }, body }))
        : answer(api.POST('/api/v1/rooms', { body }))
    },
    onSuccess: (after) => {
      kept(after)
      done()
    },
  })
  const field = (key: 'room_temp_c' | 'humidity_pct', label: string, unit: string) => (
    <label className="text-sm font-semibold">
      {label} <span className="num font-normal text-soft">{unit}</span>
      <input
        className="input num font-normal"
        inputMode="decimal"
        autoComplete="off"
        value={v[key]}
        onChange={(e) => setV({ ...v, [key]: e.target.value })}
      />
    </label>
  )
  return (
    <form
      className="grid gap-2"
      aria-label={room ? `Change ${room.name}` : 'A room'}
      onSubmit={(e) => {
        e.preventDefault()
        save.mutate()
      }}
    >
      <div className="grid gap-3 sm:grid-cols-3 lg:grid-cols-5">
        <label className="text-sm font-semibold">
          Name
          <input
            className="input font-normal"
            autoComplete="off"
            required
            readOnly={room !== undefined}
            autoFocus={room === undefined}
            value={v.name}
            onChange={(e) => setV({ ...v, name: e.target.value })}
          />
        </label>
        {field('room_temp_c', 'Usual temperature', '°C')}
        {field('humidity_pct', 'Humidity', '%')}
        <label className="text-sm font-semibold">
          Heater
          <select
            className="input font-normal"
            value={v.heater_on}
            onChange={(e) => setV({ ...v, heater_on: e.target.value })}
          >
            <option value="">differs</option>
            <option value="yes">usually on</option>
            <option value="no">none, or off</option>
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
      {save.isError && <Complaint>{save.error.message}</Complaint>}
      <button className="button button-main justify-self-start" disabled={save.isPending}>
        Keep the room
      </button>
    </form>
  )
}

function Retire({ room, kept }: { room: Schemas['Workroom']; kept: (after: Schemas['Rooms']) => void }) {
  const retire = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/rooms/{id}/retirement', {
          params: { path: { id: room.id ?? '' } },
          body: { version: room.version ?? 0 },
        }),
      ),
    onSuccess: kept,
  })
  return (
    <>
      <button
        className="button"
        disabled={retire.isPending}
        aria-label={`Take ${room.name} out of use`}
        onClick={() => retire.mutate()}
      >
        Take out of use
      </button>
      {retire.isError && <Complaint>{retire.error.message}</Complaint>}
    </>
  )
}

/** Which machine stands where. Carried there, it has moved, and its level is to be looked at. */
function Place({
  rooms,
  machines,
  nowhere,
  kept,
}: {
  rooms: Card[]
  machines: Schemas['Standing'][]
  nowhere: string[]
  kept: (after: Schemas['Rooms']) => void
}) {
  const [machineID, setMachineID] = useState('')
  const [roomID, setRoomID] = useState('')
  const [carried, setCarried] = useState(false)
  const [allAlong, setAllAlong] = useState(true)
  const stood = machineID !== '' && !nowhere.includes(machineID)
  const place = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/machines/{id}/room', {
          params: { path: { id: machineID } },
          body: { room_id: roomID, carried, all_along: !stood && allAlong },
        }),
      ),
    onSuccess: (after) => {
      setMachineID('')
      setCarried(false)
      kept(after)
    },
  })
  return (
    <form
      className="flex flex-wrap items-end gap-3 border-t border-line pt-2"
      aria-label="Where a machine stands"
      onSubmit={(e) => {
        e.preventDefault()
        place.mutate()
      }}
    >
      <label className="text-sm font-semibold">
        Machine
        <select
          className="input font-normal"
          required
          value={machineID}
          onChange={(e) => {
            setMachineID(e.target.value)
            // What stood in a room before was carried, unless it is said otherwise.
            setCarried(e.target.value !== '' && !nowhere.includes(e.target.value))
          }}
        >
          <option value="">choose</option>
          {machines.map((m) => (
            <option key={m.id} value={m.id}>
              {m.code} {m.name}
            </option>
          ))}
        </select>
      </label>
      <label className="text-sm font-semibold">
        stands in
        <select className="input font-normal" required value={roomID} onChange={(e) => setRoomID(e.target.value)}>
          <option value="">choose</option>
          {rooms.map((c) => (
            <option key={c.room.id} value={c.room.id}>
              {c.room.name}
            </option>
          ))}
        </select>
      </label>
      {machineID !== '' && !stood && (
        <label className="flex min-h-(--tap) items-center gap-2">
          <input type="checkbox" checked={allAlong} onChange={(e) => setAllAlong(e.target.checked)} />
          It has stood there all along
        </label>
      )}
      {stood && (
        <label className="flex min-h-(--tap) items-center gap-2">
          <input type="checkbox" checked={carried} onChange={(e) => setCarried(e.target.checked)} />
          It was carried there: it has moved
        </label>
      )}
      <button className="button" disabled={place.isPending}>
        {machineID !== '' && !stood && allAlong ? 'It stands there' : 'It stands there from now on'}
      </button>
      {place.isError && <Complaint>{place.error.message}</Complaint>}
    </form>
  )
}
