import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { FormProvider, useFieldArray, useFormContext } from 'react-hook-form'
import { Link, useParams } from 'react-router'
import { HowItCameSection } from '../../components/HowItCame'
import { History } from '../../components/History'
import { DraftOffer } from '../../components/DraftOffer'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Figure } from '../../components/Figure'
import { SizesDrawn } from '../../components/PieceDrawing'
import { VisibleDetail } from '../../components/VisibleDetail'
import { Complaint, Empty, Page, Ready } from '../../components/Page'
import { answer, api, ProblemError, type Schemas } from '../../lib/api'
import { useDraftForm } from '../../lib/draft'
import { counted, figure, grouped } from '../../lib/format'
import { n, t } from '../../lib/input'
import { usePieces } from '../../lib/queries'
import { AllowanceForm } from './AllowanceForm'
import { Computer } from './Computer'
import { Difficulty } from './Difficulty'
import { Forms } from './Forms'
import { FromKind, PieceKind } from './PieceKind'
import { SlicePanel } from './SlicePanel'
import { choices, type Kind } from '../../lib/choices'

export default function PiecePage() {
  const { id } = useParams()
  const pieces = usePieces()
  return (
    <Ready of={pieces}>
      {(list) => {
        const card = list.find((p) => p.piece.id === id)
        if (!card) {
          return (
            <Page title="No such piece">
              <Empty title="This piece is not on record">
                <Link to="/kit?tab=pieces">All pieces</Link>
              </Empty>
            </Page>
          )
        }
        return <PieceSheet key={card.piece.id} card={card} />
      }}
    </Ready>
  )
}

function PieceSheet({ card }: { card: Schemas['PieceCard'] }) {
  const p = card.piece
  return (
    <Page
      title={p.name}
      about={`${p.code}${p.kind ? `, ${p.kind}` : ''}, revision ${p.revision || 'not named'}, from ${p.file_name}`}
      actions={
        <>
          <a className="button" href={`/api/v1/pieces/${p.id}/mesh`} download>
            Mesh file
          </a>
          <a className="button" href={`/api/v1/pieces/${p.id}/export?format=3mf`} download>
            As 3MF
          </a>
        </>
      }
    >
      <section className="sheet grid gap-3">
        <h2>The mesh</h2>
        <dl className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
          <Figure
            label="Box"
            value={`${figure(p.size_x_mm, 4)} × ${figure(p.size_y_mm, 4)} × ${figure(p.size_z_mm, 4)}`}
            unit="mm"
            source="computed"
          />
          <Figure
            label="Volume"
            value={figure(p.volume_ml)}
            unit="ml"
            source="computed"
            note={p.support_pct > 0 ? `and ${figure(p.support_pct)} % for supports` : undefined}
          />
          <Figure label="Surface" value={figure(p.surface_mm2)} unit="mm²" source="computed" />
          <Figure
            label="Triangles"
            value={grouped(p.triangles)}
            source="measured"
            note={p.open_edges === 0 ? 'watertight' : `${p.open_edges} open edges`}
          />
        </dl>
        <Layers heightMM={p.size_z_mm} />
        {p.mesh_warnings.length > 0 && (
          <ul>
            {p.mesh_warnings.map((w) => (
              <li key={w} className="border-l-4 border-act pl-2">
                {w}
              </li>
            ))}
          </ul>
        )}
        {p.geometry?.difficulty && <Difficulty d={p.geometry.difficulty} />}
      </section>
      <PieceKind key={`kind-${p.version}`} piece={p} />
      <FeatureForm pieceID={p.id ?? ''} card={card} />
      <Forms pieceID={p.id ?? ''} />
      <HowItCameSection of="piece" id={p.id ?? ''} />
      <AllowanceForm key={p.version} piece={p} />
      <SlicePanel piece={p} />
      <Computer pieceID={p.id ?? ''} />
      <VisibleDetail piece={p.id} />
      <History kind="piece" id={p.id ?? ''} />
    </Page>
  )
}

/** How many layers the piece is at a layer height, as the timing model counts them. */
function Layers({ heightMM }: { heightMM: number }) {
  const [layer, setLayer] = useState('50')
  const um = n(layer)
  const body = { height_mm: heightMM, layer_um: um, bottom: { layers: 0, exposure_s: 1 }, exposure_s: 1, release_s: 0 }
  const timing = useQuery({
    queryKey: ['layers', body],
    enabled: typeof um === 'number',
    placeholderData: keepPreviousData,
    queryFn: () => answer(api.POST('/api/v1/calc/timing/masked', { body })),
  })
  return (
    <div className="flex flex-wrap items-end gap-4">
      <dl>
        <Figure
          label="Layers"
          value={timing.data && !timing.isError ? grouped(timing.data.layers) : '–'}
          source="computed"
        />
      </dl>
      <label className="flex items-center gap-2 text-sm">
        at
        <input
          className="input num w-20"
          inputMode="decimal"
          value={layer}
          onChange={(e) => setLayer(e.target.value)}
          aria-label="Layer height, µm"
        />
        µm
      </label>
    </div>
  )
}

interface Row {
  id: string
  kind: string
  name: string
  nominal_mm: string
  axis: string
  face: string
  rungs: string
  place: string
  shape: string
}

const kinds = choices<Kind<'Feature', 'kind'>>({
  dimension: 'dimension',
  pins: 'ladder of pins',
  gaps: 'ladder of gaps',
  checkpoint: 'checkpoint',
})
const axes = choices<Kind<'Feature', 'axis'>>({ x: 'x', y: 'y', z: 'z' })
const faces = choices<Kind<'Feature', 'face'>>({ outer: 'outer', inner: 'inner' })
const blank: Row = {
  id: '',
  kind: 'dimension',
  name: '',
  nominal_mm: '',
  axis: 'x',
  face: 'outer',
  rungs: '',
  place: '',
  shape: '',
}

const rowOf = (f: Schemas['Feature']): Row => ({
  id: f.id ?? '',
  kind: f.kind,
  name: f.name,
  nominal_mm: t(f.nominal_mm),
  axis: f.axis ?? 'x',
  face: f.face ?? 'outer',
  rungs: (f.rungs_mm ?? []).join('; '),
  place: f.place,
  shape: f.shape ?? '',
})

function featureOf(r: Row): Schemas['Feature'] {
  const dimension = r.kind === 'dimension'
  const ladder = r.kind === 'pins' || r.kind === 'gaps'
  return {
    id: r.id,
    kind: r.kind as 'pins',
    name: r.name,
    nominal_mm: dimension ? n(r.nominal_mm) : null,
    axis: dimension ? (r.axis as 'x') : null,
    face: dimension ? (r.face as 'outer') : null,
    place: r.place,
    shape: r.shape,
    rungs_mm: ladder
      ? r.rungs
          .split(/[;\s]+/)
          .filter(Boolean)
          .map(n)
      : [],
  }
}

interface Features {
  /** That of the features as they were when these rows were read. */
  version: string
  features: Row[]
}

function FeatureForm({ pieceID, card }: { pieceID: string; card: Schemas['PieceCard'] }) {
  const version = card.features_version
  const form = useDraftForm<Features>(
    `draft-features-${pieceID}`,
    { version, features: card.features.map(rowOf) },
    version,
  )
  const list = useFieldArray({ control: form.control, name: 'features', keyName: 'key' })
  const save = useMutation({
    mutationFn: (v: Features) =>
      answer(
        api.PUT('/api/v1/pieces/{id}/features', {
          params: { path: { id: pieceID } },
          body: { version: v.version, features: v.features.map(featureOf) },
        }),
      ),
    onSuccess: (saved) => {
      form.reset({ version: saved.features_version, features: saved.features.map(rowOf) })
      form.forget()
    },
    // Once it was said that the piece changed meanwhile, saving again means it.
    onError: (e) => {
      if (e instanceof ProblemError && e.problem.status === 409) form.setValue('version', version)
    },
  })
  return (
    <FormProvider {...form}>
      <form
        className="sheet grid gap-3"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
        aria-label="What is measured"
      >
        <h2>What is measured on it</h2>
        <DraftOffer old={form.old} />
        <p className="text-sm text-soft">Separate the rungs of a ladder with ; or a space, such as 0.15; 0.2; 0.3.</p>
        {list.fields.length === 0 && (
          <p className="text-soft">
            Nothing yet. Name the sizes a caliper will take, the ladders of pins and gaps, and the places to look at.
          </p>
        )}
        {list.fields.map((field, i) => (
          <FeatureRow key={field.key} i={i} remove={() => list.remove(i)} />
        ))}
        <SizesDrawn piece={card.piece} features={card.features} />
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        {save.isSuccess && !form.formState.isDirty && <p role="status">Saved.</p>}
        <div className="flex flex-wrap gap-2">
          <button type="button" className="button" onClick={() => list.append(blank)}>
            Add a feature
          </button>
          <CopyFrom
            except={pieceID}
            take={(features) => {
              const known = form.getValues('features').map((f) => f.name)
              list.append(features.filter((f) => !known.includes(f.name)).map((f) => ({ ...rowOf(f), id: '' })))
            }}
          />
          <FromKind
            kind={card.piece.kind ?? ''}
            take={(checkpoints) => {
              const known = form.getValues('features').map((f) => f.name.toLowerCase())
              list.append(
                checkpoints
                  .filter((c) => !known.includes(c.name.toLowerCase()))
                  .map((c) => ({ ...blank, kind: 'checkpoint', name: c.name, place: c.place ?? '' })),
              )
            }}
            seen={form
              .watch('features')
              .filter((f) => f.kind === 'checkpoint' && f.name.trim() !== '')
              .map((f) => ({ name: f.name, place: f.place }))}
          />
          <Link className="button" to="/tables/features">
            What is measured, as a table
          </Link>
          <button className="button button-main" disabled={save.isPending}>
            Save what is measured
          </button>
        </div>
      </form>
    </FormProvider>
  )
}

/** Features of another piece, to be kept or changed here: what has the name of one that is here already is left out. */
function CopyFrom({ except, take }: { except: string; take: (features: Schemas['Feature'][]) => void }) {
  const others = (usePieces().data ?? []).filter((p) => p.piece.id !== except && p.features.length > 0)
  if (others.length === 0) return null
  return (
    <label className="flex flex-wrap items-center gap-2 text-sm font-semibold">
      Copy from
      <select
        className="input w-auto font-normal"
        value=""
        onChange={(e) => take(others.find((p) => p.piece.id === e.target.value)?.features ?? [])}
      >
        <option value="">another piece</option>
        {others.map((p) => (
          <option key={p.piece.id} value={p.piece.id}>
            {p.piece.code} {p.piece.name}: {counted(p.features.length, 'feature')}
          </option>
        ))}
      </select>
    </label>
  )
}

function FeatureRow({ i, remove }: { i: number; remove: () => void }) {
  const { watch } = useFormContext<{ features: Row[] }>()
  const kind = watch(`features.${i}.kind`)
  const at = (name: keyof Row) => `features.${i}.${name}`
  return (
    <fieldset className="grid items-end gap-3 border-t border-line pt-2 sm:grid-cols-2 lg:grid-cols-6">
      <legend className="sr-only">Feature {i + 1}</legend>
      <SelectField name={at('kind')} label="Kind" options={kinds} />
      <TextField name={at('name')} label="Name" />
      {kind === 'dimension' && (
        <>
          <NumberField name={at('nominal_mm')} label="Nominal" unit="mm" />
          <SelectField name={at('axis')} label="Axis" options={axes} />
          <SelectField name={at('face')} label="Face" options={faces} />
        </>
      )}
      {(kind === 'pins' || kind === 'gaps') && (
        <div className="lg:col-span-3">
          <TextField name={at('rungs')} label="Rungs, finest to coarsest" unit="mm" />
        </div>
      )}
      {kind === 'checkpoint' && (
        <div className="lg:col-span-3">
          <TextField name={at('place')} label="Where to look" />
        </div>
      )}
      <button type="button" className="button" onClick={remove}>
        Remove <span className="sr-only">feature {i + 1}</span>
      </button>
    </fieldset>
  )
}
