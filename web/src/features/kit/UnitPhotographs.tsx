import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useId, useState } from 'react'
import { Complaint } from '../../components/Page'
import { ProgressBar } from '../../components/ProgressBar'
import { PutAgain } from '../../components/PutAgain'
import { TakeBack } from '../../components/TakeBack'
import { answer, api, type Schemas } from '../../lib/api'
import { day } from '../../lib/format'
import { useUpload } from '../../lib/upload'

type Photo = Schemas['UnitPhotograph']
const fileOf = (p: Photo, size: 'large' | 'small') => `/api/v1/unit-photographs/${p.id}/files/${size}`

/** Photographs of the unit: the box, what was broken, its ports. */
export function UnitPhotographs({ machineID, shown }: { machineID: string; shown: string[] }) {
  const client = useQueryClient()
  const key = ['unit-photographs', machineID]
  const list = useQuery({
    queryKey: key,
    queryFn: () => answer(api.GET('/api/v1/machines/{id}/photographs', { params: { path: { id: machineID } } })),
  })
  if (list.isError) return <Complaint>{list.error.message}</Complaint>
  if (!list.data) return null
  const kept = (after: Photo[]) => client.setQueryData(key, after)
  return (
    <div className="grid grid-cols-[minmax(0,1fr)] gap-3" role="group" aria-label="Photographs of the unit">
      <h3>Photographs of it</h3>
      {list.data.length > 0 && (
        <ul className="grid gap-3 sm:grid-cols-3 lg:grid-cols-5" aria-label="Photographs kept">
          {list.data.map((p) => (
            <li key={p.id} className={`min-w-0 ${p.taken_back_ms ? 'text-soft' : ''}`}>
              {p.erased_ms == null && !p.taken_back_ms && (
                <a href={fileOf(p, 'large')} target="_blank" rel="noreferrer" className="block no-underline">
                  <img
                    src={fileOf(p, 'small')}
                    alt={`${p.code}, ${p.shows}`}
                    loading="lazy"
                    width={p.copy_width_px}
                    height={p.copy_height_px}
                    className="h-32 w-full border border-line bg-plate object-contain"
                  />
                </a>
              )}
              <p className="wrap-anywhere">
                <span className="num text-soft">{p.code}</span> {p.shows}
                {p.note && `: ${p.note}`} <span className="text-sm text-soft">{day(p.created_ms ?? 0)}</span>
                {p.taken_back_ms && `. Taken back: ${p.taken_back_why}`}
              </p>
              {!p.taken_back_ms ? (
                <TakeBack
                  what={`photograph ${p.code}`}
                  take={async (why) =>
                    kept(
                      await answer(
                        api.POST('/api/v1/unit-photographs/{id}/taking-back', {
                          params: { path: { id: p.id ?? '' } },
                          body: { why, erase: false },
                        }),
                      ),
                    )
                  }
                />
              ) : (
                <PutAgain kind="unit_photograph" id={p.id} what={`photograph ${p.code}`} />
              )}
            </li>
          ))}
        </ul>
      )}
      <Add machineID={machineID} shown={shown} kept={kept} />
    </div>
  )
}

function Add({ machineID, shown, kept }: { machineID: string; shown: string[]; kept: (after: Photo[]) => void }) {
  const id = useId()
  const upload = useUpload<Photo[]>(`/api/v1/machines/${machineID}/photographs`)
  const [shows, setShows] = useState('')
  const [note, setNote] = useState('')
  const [wrong, setWrong] = useState('')
  const send = async (files: FileList | null) => {
    setWrong('')
    try {
      for (const file of Array.from(files ?? [])) {
        const data = new FormData()
        data.append('file', file)
        data.append('shows', shows)
        data.append('note', note)
        kept(await upload.send(data))
      }
      setNote('')
    } catch (e) {
      setWrong(e instanceof Error ? e.message : String(e))
    }
  }
  return (
    <div className="flex flex-wrap items-end gap-3">
      <label className="min-w-48 text-sm font-semibold">
        What is on it
        <input
          className="input font-normal"
          list={id}
          autoComplete="off"
          value={shows}
          onChange={(e) => setShows(e.target.value)}
        />
      </label>
      <datalist id={id}>
        {['the box', 'what came in it', 'damage', 'its ports', ...shown].map((s) => (
          <option key={s} value={s} />
        ))}
      </datalist>
      <label className="min-w-48 text-sm font-semibold">
        Note
        <input
          className="input font-normal"
          autoComplete="off"
          value={note}
          onChange={(e) => setNote(e.target.value)}
        />
      </label>
      <label className="text-sm font-semibold">
        Files
        <input
          className="input font-normal"
          type="file"
          multiple
          accept="image/jpeg,image/png,image/webp"
          disabled={shows.trim() === '' || upload.progress != null}
          onChange={(e) => {
            void send(e.target.files)
            e.target.value = ''
          }}
        />
      </label>
      {shows.trim() === '' && <p className="text-sm text-soft">Say what is on it; then choose the files.</p>}
      {upload.progress && <ProgressBar of={upload.progress} name="The photograph" stop={upload.stop} />}
      {wrong && <Complaint>{wrong}</Complaint>}
    </div>
  )
}
