import { useMutation, useQuery } from '@tanstack/react-query'
import { FormProvider, useWatch } from 'react-hook-form'
import { NumberField, SelectField, TextField } from '../../components/Field'
import { Complaint, Ready } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { showProblem, useDraftForm } from '../../lib/draft'
import { figure } from '../../lib/format'
import { useFormKinds } from '../../lib/forms'
import { n } from '../../lib/input'

const blank = { kind: 'round', name: '', place: '', nominal: '', rungs: '' }

/** What is measured of a piece beyond single sizes: roundness, angles, warp, the elephant foot, fits and threads. */
export function Forms({ pieceID }: { pieceID: string }) {
  const kinds = useFormKinds()
  const forms = useQuery({
    queryKey: ['pieces', 'forms', pieceID],
    queryFn: () => answer(api.GET('/api/v1/pieces/{id}/forms', { params: { path: { id: pieceID } } })),
  })
  return (
    <details className="sheet" open={(forms.data ?? []).length > 0}>
      <summary className="min-h-(--tap) cursor-pointer content-center text-lg font-semibold">
        Roundness, angles, warp, fits and threads
      </summary>
      <div className="grid grid-cols-[minmax(0,1fr)] gap-3">
        <Ready of={forms}>
          {(list) =>
            list.length === 0 ? (
              <p className="text-soft">
                None yet. Each is read on its own: three diameters, four corners, a named nut.
              </p>
            ) : (
              <ul className="grid gap-1" aria-label="Forms">
                {list.map((f) => (
                  <Listed key={f.id} f={f} kinds={kinds.data ?? []} />
                ))}
              </ul>
            )
          }
        </Ready>
        <Add pieceID={pieceID} kinds={kinds.data ?? []} />
      </div>
    </details>
  )
}

function Listed({ f, kinds }: { f: Schemas['Form']; kinds: Schemas['MetrologyFormKind'][] }) {
  const retire = useMutation({
    mutationFn: () =>
      answer(
        api.POST('/api/v1/pieces/{id}/forms/{form_id}/retiring', {
          params: { path: { id: f.piece_id ?? '', form_id: f.id ?? '' } },
        }),
      ),
  })
  return (
    <li className="flex flex-wrap items-center gap-2">
      <span>
        <span className="font-semibold">{f.name}</span>, {kinds.find((k) => k.key === f.kind)?.name.toLowerCase()}
        {f.place && <span className="text-soft">, {f.place}</span>}
        {f.nominal != null && <span className="num">, {figure(f.nominal)}°</span>}
        {(f.rungs_mm ?? []).length > 0 && (
          <span className="num text-soft">, clearances {f.rungs_mm!.map((v) => figure(v)).join(', ')} mm</span>
        )}
      </span>
      <button className="button" aria-label={`Measure ${f.name} no more`} onClick={() => retire.mutate()}>
        Measure no more
      </button>
      {retire.isError && <Complaint>{retire.error.message}</Complaint>}
    </li>
  )
}

function Add({ pieceID, kinds }: { pieceID: string; kinds: Schemas['MetrologyFormKind'][] }) {
  const form = useDraftForm(`draft-form-${pieceID}`, blank)
  const kind = useWatch({ control: form.control, name: 'kind' })
  const asks = kinds.find((k) => k.key === kind)?.asks ?? []
  const save = useMutation({
    mutationFn: (v: typeof blank) =>
      answer(
        api.POST('/api/v1/pieces/{id}/forms', {
          params: { path: { id: pieceID } },
          body: {
            kind: v.kind as Schemas['Form']['kind'],
            name: v.name.trim() || ' ',
            place: v.place,
            nominal: v.kind === 'angle' ? n(v.nominal) : null,
            rungs_mm:
              v.kind === 'fit'
                ? v.rungs
                    .split(/[;\s]+/)
                    .filter(Boolean)
                    .map(n)
                : [],
          },
        }),
      ),
    onSuccess: () => {
      form.reset({ ...blank, kind: form.getValues('kind') })
      form.forget()
      form.setFocus('name')
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <FormProvider {...form}>
      <form
        className="grid items-start gap-3 sm:grid-cols-2 lg:grid-cols-4"
        aria-label="Another form"
        onSubmit={form.handleSubmit((v) => save.mutate(v))}
      >
        <SelectField
          name="kind"
          label="Form"
          options={kinds.map((k) => ({ value: k.key, label: k.name }))}
          hint={asks.length > 0 ? `Read: ${asks.join(', ')}.` : 'Tried with a named part.'}
        />
        <TextField name="name" label="Name" hint="the rim, peg and socket, hole for a bolt" />
        <TextField name="place" label="Where" />
        {kind === 'angle' && <NumberField name="nominal" label="It should be" unit="°" />}
        {kind === 'fit' && <TextField name="rungs" label="Clearances" unit="mm" hint="rising, apart by spaces" />}
        <div className="sm:mt-6">
          <button className="button" disabled={save.isPending}>
            Add this form
          </button>
        </div>
      </form>
      {save.isError && <Complaint>{save.error.message}</Complaint>}
    </FormProvider>
  )
}
