import { useQuery } from '@tanstack/react-query'
import { useFormContext, useWatch } from 'react-hook-form'
import { answer, api, type Schemas } from '../../lib/api'
import { moment } from '../../lib/format'
import { t } from '../../lib/input'
import { airWords } from '../../lib/room'
import { unknownKey, type RunValues } from './conditions'

/** What the room of a print is expected to be like when it began: as it was read there, or as it usually is. */
export function RoomOffer({ machineID }: { machineID: string }) {
  const { control, setValue, getValues, clearErrors } = useFormContext<RunValues>()
  const started = useWatch({ control, name: 'started' }) as string
  const at = new Date(started || '').getTime()
  const expected = useQuery({
    queryKey: ['rooms', 'expected', machineID, at],
    enabled: Number.isFinite(at),
    queryFn: () =>
      answer(api.GET('/api/v1/room-expected', { params: { query: { machine_id: machineID, at_ms: at } } })),
  })
  const e = expected.data
  if (!e?.room) return null
  const take = (a: Schemas['MachineAir'], saying?: string) => {
    const heater = a.heater_on == null ? '' : a.heater_on ? 'yes' : 'no'
    const values: [string, string][] = [
      ['room_temp_c', t(a.room_temp_c)],
      ['humidity_pct', t(a.humidity_pct)],
      ['heater_on', heater],
    ]
    for (const [key, value] of values) {
      if (value === '') continue
      setValue(key, value, { shouldDirty: true })
      setValue(unknownKey(key), false)
      clearErrors(key)
    }
    const before = String(getValues('observed') ?? '')
    if (saying && !before.includes(saying)) {
      setValue('observed', [before, saying].filter(Boolean).join('; '), { shouldDirty: true })
    }
  }
  const read = airWords(e.read)
  const usual = airWords(e.usual)
  return (
    <div className="flex flex-wrap items-center gap-2 text-sm sm:col-span-full" role="group" aria-label="The room">
      <span>It stood in {e.room}.</span>
      {e.read_ms != null && (
        <button type="button" className="button" onClick={() => take(e.read)}>
          As read {moment(e.read_ms)} at {e.read_at}: {read}
        </button>
      )}
      {usual && (
        <button type="button" className="button" onClick={() => take(e.usual, `${e.room} as usual, not read`)}>
          As usual, not read: {usual}
        </button>
      )}
      {!read && !usual && <span className="text-soft">Nothing was read there in the three hours before.</span>}
    </div>
  )
}
