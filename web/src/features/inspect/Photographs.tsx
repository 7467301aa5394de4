import { useQuery } from '@tanstack/react-query'
import { useCallback, useEffect, useRef, useState } from 'react'
import { FormProvider, useWatch } from 'react-hook-form'
import { Link } from 'react-router'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { answer, api, type Schemas } from '../../lib/api'
import { useDraftForm } from '../../lib/draft'
import { counted } from '../../lib/format'
import { useUploadQueue, type Queued } from '../../lib/uploadQueue'
import { photoFile, stages, stations, viewWords } from '../../lib/viewing'
import { standingDefects, type InHand } from './inHand'

interface Values {
  station: string
  magnification: string
  stage: string
  light: string
  feature: string
  defect: string
  note: string
}

/** Photographs of the specimen in hand: how they are taken is said once, then they come by file, drag, paste or camera. */
export function Photographs({ sheet, specimen }: { sheet: InHand; specimen: Schemas['Specimen'] }) {
  const latest = useQuery({
    queryKey: ['sittings', 'latest'],
    queryFn: () => answer(api.GET('/api/v1/sittings/latest')),
  })
  const mine = sheet.photographs.filter((p) => photographed(sheet, p)?.id === specimen.id)
  return (
    <section className="sheet grid grid-cols-[minmax(0,1fr)] gap-3" aria-labelledby="photographs">
      <h2 id="photographs">Photographs of {specimen.code}</h2>
      {mine.length > 0 && (
        <ul className="grid gap-3 sm:grid-cols-3 lg:grid-cols-5" aria-label={`Photographs of ${specimen.code}`}>
          {mine.map((p) => (
            <li key={p.id}>
              <Thumbnail
                p={p}
                feature={sheet.features.find((f) => f.id === p.feature_id)?.name}
                defect={specimen.defects?.find((d) => d.id === p.defect_id)}
              />
            </li>
          ))}
        </ul>
      )}
      {mine.length > 1 && (
        <p>
          <Link
            to={`/compare/photographs?${mine
              .slice(-6)
              .map((p) => `id=${p.id}`)
              .join('&')}`}
          >
            Lay {mine.length > 6 ? 'the last six' : 'them'} side by side
          </Link>
        </p>
      )}
      {latest.isSuccess && (
        <Add
          sheet={sheet}
          specimen={specimen}
          before={sheet.photographs.at(-1) ?? latest.data.sitting ?? undefined}
          open={mine.length === 0}
        />
      )}
    </section>
  )
}

export const photographed = (sheet: InHand, p: Schemas['Pictured']) =>
  sheet.specimens.find((s) => (p.specimen_id ? s.id === p.specimen_id : s.copy === p.copy))

function Thumbnail({ p, feature, defect }: { p: Schemas['Pictured']; feature?: string; defect?: Schemas['Defect'] }) {
  return (
    <Link to={`/photographs/${p.id}`} className="block min-w-0 no-underline">
      <img
        src={photoFile(p.id, 'small')}
        alt={`${p.code}${feature ? `, ${feature}` : ''}, ${viewWords(p)}`}
        loading="lazy"
        width={p.copy_width_px}
        height={p.copy_height_px}
        className="h-36 w-full border border-line bg-plate object-contain"
      />
      <span className="num font-bold underline">{p.code}</span> {feature}
      <span className="block text-sm text-soft">{viewWords(p)}</span>
      {defect && (
        <span className="block text-sm">
          Shows {defect.symptom}
          {defect.taken_back_ms != null && ', which was taken back'}
        </span>
      )}
      {p.blurred && <span className="block text-sm font-semibold text-bad">Blurred: take it again</span>}
    </Link>
  )
}

type View = Pick<Schemas['Photograph'], 'station' | 'magnification' | 'stage' | 'light'>

function Add({
  sheet,
  specimen,
  before,
  open,
}: {
  sheet: InHand
  specimen: Schemas['Specimen']
  before?: View
  open: boolean
}) {
  const form = useDraftForm<Values>('draft-photograph', {
    station: before?.station ?? 'in_hand',
    magnification: before?.magnification == null ? '' : String(before.magnification),
    stage: before?.stage ?? 'raw',
    light: before?.light ?? '',
    feature: '',
    defect: '',
    note: '',
  })
  const station = useWatch({ control: form.control, name: 'station' })
  const { queue, add, stop, clear } = useUploadQueue('/api/v1/photographs')
  const features = sheet.features.filter((f) => f.retired_ms == null && f.piece_id === specimen.piece_id)
  const defects = standingDefects(specimen)
  const [over, setOver] = useState(false)
  // Open to begin with where there is none; what was kept meanwhile folds nothing away.
  const [began] = useState(open)
  const { getValues, setError, clearErrors } = form
  const take = useCallback(
    (files: File[]) => {
      const v = getValues()
      clearErrors()
      if (files.length === 0) return
      if (v.light.trim() === '') {
        setError('light', { message: 'is missing; say under which light, then choose the files again' })
        return
      }
      add(
        files.map((file) => {
          const data = new FormData()
          data.append('file', file)
          data.append('of_id', sheet.id)
          data.append('specimen_id', specimen.id ?? '')
          data.append('feature_id', features.some((f) => f.id === v.feature) ? v.feature : '')
          data.append('defect_id', defects.some((d) => d.id === v.defect) ? v.defect : '')
          data.append('station', v.station)
          if (v.station === 'loupe') data.append('magnification', v.magnification)
          data.append('stage', v.stage)
          data.append('light', v.light)
          data.append('note', v.note)
          return { name: `${file.name} of ${specimen.code}`, form: data }
        }),
      )
    },
    [add, clearErrors, defects, features, getValues, setError, sheet.id, specimen.id, specimen.code],
  )
  usePastedPictures(take)
  return (
    <details open={began || undefined}>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        Add photographs of {specimen.code}
      </summary>
      <div
        className={`grid gap-3 border-2 border-dashed p-3 ${over ? 'border-act' : 'border-line'}`}
        onDragOver={(e) => {
          e.preventDefault()
          setOver(true)
        }}
        onDragLeave={() => setOver(false)}
        onDrop={(e) => {
          e.preventDefault()
          setOver(false)
          take([...e.dataTransfer.files])
        }}
      >
        <FormProvider {...form}>
          <form
            className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3"
            aria-label="How they are taken"
            onSubmit={(e) => e.preventDefault()}
          >
            <SelectField name="station" label="From where" options={stations} />
            {station === 'loupe' && <NumberField name="magnification" label="Magnification" unit="×" />}
            <SelectField name="stage" label="Stage of the surface" options={stages} />
            <TextField name="light" label="Light" hint="daylight, a desk lamp from the left …" />
            <SelectField
              name="feature"
              label="What is on it"
              empty="the whole piece"
              options={features.map((f) => ({ value: f.id ?? '', label: f.name }))}
            />
            {defects.length > 0 && (
              <SelectField
                name="defect"
                label="Which defect it shows"
                empty="none in particular"
                options={defects.map((d) => ({ value: d.id ?? '', label: d.symptom }))}
              />
            )}
            <TextField name="note" label="Note of the photograph" />
          </form>
        </FormProvider>
        <div className="flex flex-wrap items-center gap-3">
          <Picker label="Choose pictures" take={take} />
          <Picker label="Use the camera" take={take} camera />
          <span className="text-sm text-soft">
            or drop them here, or paste one. JPEG, PNG or WebP, up to 30 MiB; where they were taken is removed from the
            copies.
          </span>
        </div>
        <Queue queue={queue} stop={stop} clear={clear} />
      </div>
    </details>
  )
}

/** A button that opens the files, or the camera, of this device. */
function Picker({ label, take, camera }: { label: string; take: (files: File[]) => void; camera?: boolean }) {
  const input = useRef<HTMLInputElement>(null)
  return (
    <>
      <button type="button" className="button" onClick={() => input.current?.click()}>
        {label}
      </button>
      <input
        ref={input}
        type="file"
        className="sr-only"
        tabIndex={-1}
        aria-label={`${label}: files`}
        accept={camera ? 'image/*' : 'image/jpeg,image/png,image/webp,.heic,.heif'}
        multiple={!camera}
        capture={camera ? 'environment' : undefined}
        onChange={(e) => {
          take([...(e.target.files ?? [])])
          e.target.value = ''
        }}
      />
    </>
  )
}

function usePastedPictures(take: (files: File[]) => void) {
  useEffect(() => {
    const paste = (e: ClipboardEvent) => {
      const files = [...(e.clipboardData?.files ?? [])].filter((f) => f.type.startsWith('image/'))
      if (files.length === 0) return
      e.preventDefault()
      take(files)
    }
    window.addEventListener('paste', paste)
    return () => window.removeEventListener('paste', paste)
  }, [take])
}

const steps: Record<Queued['step'], string> = {
  waiting: 'waits for the one before',
  sending: 'is sent',
  developing: 'is turned upright and copied',
  offline: 'was cut off; it is sent again as soon as the connection is back',
  kept: 'kept',
  refused: '',
  stopped: 'stopped; nothing of it was kept',
}

function Queue({ queue, stop, clear }: { queue: Queued[]; stop: (job: string) => void; clear: () => void }) {
  if (queue.length === 0) return null
  const over = queue.every((q) => ['kept', 'refused', 'stopped'].includes(q.step))
  const kept = queue.filter((q) => q.step === 'kept').length
  return (
    <div className="grid gap-2">
      <ul className="grid gap-1" aria-label="Pictures on their way">
        {queue.map((q) => (
          <li key={q.job} className="flex flex-wrap items-center gap-3">
            <span className="min-w-0 flex-1 break-words">
              {q.step === 'refused' ? (
                <span className="font-semibold text-bad">
                  {q.name} was not kept: {q.error}
                </span>
              ) : (
                <>
                  {q.name} {steps[q.step]}
                </>
              )}
              {q.step === 'sending' && (
                <progress
                  className="block h-2 w-full accent-(--act)"
                  aria-label={`${q.name}, sent`}
                  max={1}
                  value={q.share ?? undefined}
                />
              )}
            </span>
            {!['kept', 'refused', 'stopped'].includes(q.step) && (
              <button type="button" className="button" onClick={() => stop(q.job)}>
                Stop {q.name}
              </button>
            )}
          </li>
        ))}
      </ul>
      <p role="status">
        {over ? `${counted(kept, 'picture')} kept. ` : ''}
        {over && (
          <button type="button" className="button" onClick={clear}>
            Clear this list
          </button>
        )}
      </p>
    </div>
  )
}
