import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Link } from 'react-router'
import { answer, api, type RunSheet, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { words } from '../../lib/format'
import { n } from '../../lib/input'
import { put, remembered } from '../../lib/outbox'
import { stages, stations } from '../../lib/viewing'

type Specimen = Schemas['Specimen']
type Feature = Schemas['Feature']

const outcomes = choices<Exclude<Kind<'Specimen', 'outcome'>, 'pending'>>({
  whole: 'whole',
  micro_defect: 'a small defect',
  lost: 'lost',
})
const states = choices<Kind<'Reading', 'state'>>({ present: 'present', damaged: 'damaged', missing: 'missing' })

/** The copy in hand: photograph, outcome, readings and surface, each with a thumb, each on its way by itself. */
export function InHand({ specimen, sheet }: { specimen: Specimen; sheet: RunSheet }) {
  const features = sheet.features.filter((f) => f.piece_id === specimen.piece_id && f.retired_ms == null)
  const piece = sheet.pieces.find((p) => p.id === specimen.piece_id)
  return (
    <section className="sheet grid gap-4" aria-label={`Copy ${specimen.code}`}>
      <div>
        <h2 className="num text-xl">{specimen.code}</h2>
        <p className="text-soft">
          {piece?.name}, {sheet.machine.name}, {sheet.resin.name}
        </p>
      </div>
      <Photograph specimen={specimen} sheet={sheet} />
      <Outcome specimen={specimen} runID={sheet.run.id ?? ''} />
      {features.length > 0 && <Readings features={features} specimen={specimen} sheet={sheet} />}
      <Surface specimen={specimen} runID={sheet.run.id ?? ''} />
    </section>
  )
}

/** Sizes with one instrument, checkpoints with a press; ladders, forms and ratings are read on the page of the print. */
function Readings({ features, specimen, sheet }: { features: Feature[]; specimen: Specimen; sheet: RunSheet }) {
  const instruments = useQuery({
    queryKey: ['instruments', 'phone'],
    queryFn: () =>
      remembered(
        'instruments',
        () => answer(api.GET('/api/v1/instruments')),
        () => true,
      ),
  })
  const [tool, setTool] = useState(() => localStorage.getItem('phone-instrument') ?? '')
  const list = instruments.data ?? []
  const chosen = list.find((i) => i.id === tool)?.id ?? list[0]?.id
  const runID = sheet.run.id ?? ''
  const sizes = features.filter((f) => f.kind === 'dimension')
  return (
    <div className="grid gap-3" role="group" aria-label="Readings">
      <h3>Readings</h3>
      {sizes.length > 0 && (
        <Select
          label="With"
          value={chosen ?? ''}
          set={(v) => {
            setTool(v)
            localStorage.setItem('phone-instrument', v)
          }}
          options={list.map((i) => ({ value: i.id ?? '', label: i.name }))}
        />
      )}
      {sizes.map((f) => (
        <Size key={f.id} f={f} specimen={specimen} runID={runID} instrumentID={chosen} />
      ))}
      {features
        .filter((f) => f.kind === 'checkpoint')
        .map((f) => (
          <Checkpoint
            key={f.id}
            f={f}
            specimen={specimen}
            runID={runID}
            before={sheet.readings.find((r) => r.specimen_id === specimen.id && r.feature_id === f.id)}
          />
        ))}
      <p className="text-sm">
        <Link to={`/inspect/${runID}?specimen=${specimen.id}`}>All that is measured and judged on it</Link>
      </p>
    </div>
  )
}

/** How it was taken is said once and stays for the next. */
function Photograph({ specimen, sheet }: { specimen: Specimen; sheet: RunSheet }) {
  const said = (name: string, usual: string) => localStorage.getItem(`phone-${name}`) ?? usual
  const [station, setStation] = useState(() => said('station', 'in_hand'))
  const [stage, setStage] = useState(() => said('stage', 'raw'))
  const [light, setLight] = useState(() => said('light', ''))
  const [magnification, setMagnification] = useState(() => said('magnification', ''))
  const keep = (name: string, set: (v: string) => void) => (v: string) => {
    set(v)
    localStorage.setItem(`phone-${name}`, v)
  }
  const take = (file: File) =>
    put({
      says: `Photograph of ${specimen.code}, ${words(station)}, ${stage}`,
      method: 'POST',
      path: '/api/v1/photographs',
      form: [
        ['of_id', sheet.run.id ?? ''],
        ['specimen_id', specimen.id ?? ''],
        ['station', station],
        ['magnification', station === 'loupe' ? magnification : ''],
        ['stage', stage],
        ['light', light],
        ['file', file, file.name],
      ],
    })
  const ready = light.trim() !== '' && (station !== 'loupe' || magnification.trim() !== '')
  return (
    <div className="grid gap-3" role="group" aria-label="Photograph">
      <h3>Photograph</h3>
      <div className="grid grid-cols-2 gap-3">
        <Select label="From where" value={station} set={keep('station', setStation)} options={stations} />
        <Select label="Surface" value={stage} set={keep('stage', setStage)} options={stages} />
        {station === 'loupe' && (
          <Text label="Magnification, ×" value={magnification} set={keep('magnification', setMagnification)} />
        )}
        <Text label="Light" value={light} set={keep('light', setLight)} />
      </div>
      <label className={`button ${ready ? 'button-main' : ''}`}>
        {ready ? 'Take a photograph' : 'Say the light first'}
        <input
          type="file"
          accept="image/jpeg,image/png,image/webp"
          capture="environment"
          className="sr-only"
          disabled={!ready}
          onChange={(e) => {
            const file = e.target.files?.[0]
            if (file) void take(file)
            e.target.value = ''
          }}
        />
      </label>
    </div>
  )
}

function Outcome({ specimen, runID }: { specimen: Specimen; runID: string }) {
  const symptoms = useQuery({
    queryKey: ['symptoms'],
    staleTime: Infinity,
    queryFn: () =>
      remembered(
        'symptoms',
        () => answer(api.GET('/api/v1/symptoms')),
        () => true,
      ),
  })
  const [wanted, setWanted] = useState<Specimen['outcome']>()
  const [symptom, setSymptom] = useState('')
  const judge = (outcome: Specimen['outcome']) => {
    const standing = specimen.defects ?? []
    const defects =
      outcome === 'whole'
        ? standing
        : [
            ...standing,
            { symptom, severity: '' as const, origin: 'printed' as const, fault: 'unknown' as const, note: '' },
          ]
    void put({
      says: `${specimen.code} is ${words(outcome)}${outcome === 'whole' ? '' : `, ${symptom}`}`,
      method: 'PUT',
      path: `/api/v1/runs/${runID}/outcomes`,
      body: JSON.stringify([{ ...specimen, outcome, defects }]),
    })
    setWanted(undefined)
  }
  const spoilt = wanted === 'lost' || wanted === 'micro_defect'
  return (
    <div className="grid gap-3" role="group" aria-label="Outcome">
      <h3>
        What became of it <span className="font-normal text-soft">(on record: {words(specimen.outcome)})</span>
      </h3>
      <div className="flex flex-wrap gap-2">
        {outcomes.map((o) => (
          <button
            key={o.value}
            className="button flex-1"
            aria-pressed={wanted === o.value}
            onClick={() => (o.value === 'whole' ? judge('whole') : setWanted(o.value))}
          >
            {o.label}
          </button>
        ))}
      </div>
      {spoilt && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            judge(wanted)
          }}
        >
          <div className="min-w-40 flex-1">
            <Select
              label="What is wrong"
              value={symptom}
              set={setSymptom}
              options={[
                { value: '', label: 'choose' },
                ...(symptoms.data ?? []).map((s) => ({ value: s, label: words(s) })),
              ]}
            />
          </div>
          <button className="button button-main" disabled={symptom === ''}>
            Keep it
          </button>
        </form>
      )}
    </div>
  )
}

const reading = (specimen: Specimen, f: Feature, read: Partial<Schemas['Reading']>) =>
  JSON.stringify({ readings: [{ specimen_id: specimen.id, feature_id: f.id, ...read }], confirmed: false })

/** What was seen before, where it was, is corrected by what is seen now. */
function Checkpoint({
  f,
  specimen,
  runID,
  before,
}: {
  f: Feature
  specimen: Specimen
  runID: string
  before?: Schemas['Reading']
}) {
  return (
    <div role="group" aria-label={f.name}>
      <p className="text-sm font-semibold">
        {f.name}{' '}
        <span className="font-normal text-soft">
          {f.place}
          {before?.state && ` (on record: ${before.state})`}
        </span>
      </p>
      <div className="flex flex-wrap gap-2">
        {states.map((s) => (
          <button
            key={s.value}
            className="button flex-1"
            onClick={() =>
              void put({
                says: `${f.name} of ${specimen.code}: ${s.label}`,
                method: 'POST',
                path: `/api/v1/runs/${runID}/readings`,
                body: reading(specimen, f, { state: s.value, corrects_id: before?.id ?? null }),
              })
            }
          >
            {s.label}
          </button>
        ))}
      </div>
    </div>
  )
}

function Size({
  f,
  specimen,
  runID,
  instrumentID,
}: {
  f: Feature
  specimen: Specimen
  runID: string
  instrumentID?: string
}) {
  const [typed, setTyped] = useState('')
  const value = n(typed)
  return (
    <form
      className="grid grid-cols-[minmax(0,1fr)_auto] items-end gap-2"
      aria-label={f.name}
      onSubmit={(e) => {
        e.preventDefault()
        void put({
          says: `${f.name} of ${specimen.code}: ${typed} mm`,
          method: 'POST',
          path: `/api/v1/runs/${runID}/readings`,
          body: reading(specimen, f, { value_mm: value, instrument_id: instrumentID }),
        })
        setTyped('')
      }}
    >
      <label className="text-sm font-semibold">
        {f.name} <span className="num font-normal text-soft">mm</span>
        <input
          className="input num font-normal"
          inputMode="decimal"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </label>
      <button className="button" disabled={typeof value !== 'number' || !instrumentID}>
        Keep
      </button>
    </form>
  )
}

function Surface({ specimen, runID }: { specimen: Specimen; runID: string }) {
  const [stage, setStage] = useState('primed')
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      aria-label="Surface"
      onSubmit={(e) => {
        e.preventDefault()
        void put({
          says: `${specimen.code} is ${stage} now`,
          method: 'POST',
          path: `/api/v1/runs/${runID}/stages`,
          body: JSON.stringify({ specimen_ids: [specimen.id], stage, rework_min: null, note: '' }),
        })
      }}
    >
      <div className="min-w-40 flex-1">
        <Select label="Its surface came to" value={stage} set={setStage} options={stages} />
      </div>
      <button className="button">Note it</button>
    </form>
  )
}

function Select({
  label,
  value,
  set,
  options,
}: {
  label: string
  value: string
  set: (v: string) => void
  options: { value: string; label: string }[]
}) {
  return (
    <label className="text-sm font-semibold">
      {label}
      <select className="input font-normal" value={value} onChange={(e) => set(e.target.value)}>
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
    </label>
  )
}

function Text({ label, value, set }: { label: string; value: string; set: (v: string) => void }) {
  return (
    <label className="text-sm font-semibold">
      {label}
      <input className="input font-normal" value={value} onChange={(e) => set(e.target.value)} />
    </label>
  )
}
