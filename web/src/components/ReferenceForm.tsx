import { useMutation } from '@tanstack/react-query'
import { FormProvider } from 'react-hook-form'
import { answer, api, type Schemas } from '../lib/api'
import { showProblem, useDraftForm } from '../lib/draft'
import { n, t } from '../lib/input'
import { usePieces } from '../lib/queries'
import { DraftOffer } from './DraftOffer'
import { NumberField, SelectField, TextArea, TextField } from './Field'
import { Complaint } from './Page'
import { choices, type Kind } from '../lib/choices'

type Reference = Schemas['Reference']

interface Values {
  name: string
  piece_id: string
  made_by: string
  provenance: string
  copies: string
  surface: string
  note: string
}

const makers = choices<Kind<'Reference', 'made_by'>>({
  casting: 'a casting',
  bought: 'bought',
  another_process: 'made by another process',
  another_person: 'made by another person',
  unknown: 'not known',
})

const surfaces = choices<NonNullable<Reference['surface']>>({
  raw: 'raw',
  primed: 'primed',
  painted: 'painted',
  other: 'other: say which in the note',
})

/** What a reference is and where it comes from; entered anew, or folded to where it comes from and opened to be changed. */
export function ReferenceForm({
  reference,
  done,
  leave,
}: {
  reference?: Reference
  done?: (kept: Schemas['ReferenceSheet']) => void
  leave?: () => void
}) {
  const pieces = usePieces()
  const form = useDraftForm<Values>(
    `draft-reference-${reference?.id ?? 'new'}`,
    {
      name: reference?.name ?? '',
      piece_id: reference?.piece_id ?? '',
      made_by: reference?.made_by ?? 'casting',
      provenance: reference?.provenance ?? '',
      copies: t(reference?.copies ?? 1),
      surface: reference?.surface ?? '',
      note: reference?.note ?? '',
    },
    reference?.version,
  )
  const save = useMutation({
    mutationFn: (v: Values) => {
      const body = {
        ...v,
        version: reference?.version ?? 0,
        made_by: v.made_by as Reference['made_by'],
        copies: n(v.copies),
        surface: (v.surface || null) as Reference['surface'],
      }
      return answer(
        reference
          ? api.PUT('/api/v1/references/{id}', { params: { path: { id: reference.id ?? '' } }, body })
          : api.POST('/api/v1/references', { body }),
      )
    },
    onSuccess: (kept) => {
      form.forget()
      done?.(kept)
    },
    onError: (e) => showProblem(form, e),
  })
  const fields = (
    <FormProvider {...form}>
      <form className="grid gap-3" aria-label="A reference" onSubmit={form.handleSubmit((v) => save.mutate(v))}>
        <DraftOffer old={form.old} />
        <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          <TextField name="name" label="Name of the reference" />
          <SelectField
            name="piece_id"
            label="It is a copy of"
            empty="choose"
            options={(pieces.data ?? []).map((p) => ({ value: p.piece.id ?? '', label: p.piece.name }))}
          />
          <SelectField name="made_by" label="How it was made" options={makers} />
          <NumberField name="copies" label="Copies in hand" />
          <SelectField name="surface" label="Surface" empty="not known" options={surfaces} />
        </div>
        <TextArea name="provenance" label="Where it comes from" />
        <TextField name="note" label="Note" />
        {save.isError && <Complaint>{save.error.message}</Complaint>}
        <div className="flex flex-wrap gap-2">
          <button className="button button-main" disabled={save.isPending}>
            {reference ? 'Save the reference' : 'Keep this reference'}
          </button>
          {leave && (
            <button type="button" className="button" onClick={leave}>
              Leave it
            </button>
          )}
        </div>
      </form>
    </FormProvider>
  )
  if (!reference) return fields
  return (
    <details open={form.restored || form.old !== undefined}>
      <summary className="min-h-(--tap) cursor-pointer content-center">
        <strong>Provenance</strong> <span className="text-soft">{reference.provenance}</span>
      </summary>
      {fields}
    </details>
  )
}
