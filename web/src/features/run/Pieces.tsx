import { get, useFieldArray, useFormContext } from 'react-hook-form'
import { usePieces } from '../../lib/queries'
import type { RunValues } from './conditions'

/** Each piece on the plate with its copies: several are ordinary. */
export function Pieces() {
  const pieces = usePieces()
  const { register, control, formState } = useFormContext<RunValues>()
  const { fields, append, remove } = useFieldArray({ control, name: 'pieces' as never })
  const complaint = (get(formState.errors, 'pieces') as { message?: string } | undefined)?.message
  return (
    <fieldset className="grid gap-2">
      <legend className="text-sm font-semibold">Pieces on the plate</legend>
      {fields.map((f, i) => {
        const wrong = get(formState.errors, `pieces.${i}`) as Record<string, { message?: string }> | undefined
        const says = wrong && Object.values(wrong).find((w) => w?.message)?.message
        return (
          <div key={f.id} className="grid items-end gap-2 sm:grid-cols-[minmax(0,2fr)_7rem_7rem_auto]">
            <label className="text-sm font-semibold">
              Piece
              <select
                className="input font-normal"
                aria-label={i === 0 ? 'Piece' : `Piece ${i + 1}`}
                {...register(`pieces.${i}.piece_id` as never)}
              >
                <option value="">choose</option>
                {(pieces.data ?? []).map((p) => (
                  <option key={p.piece.id} value={p.piece.id}>
                    {p.piece.name}
                  </option>
                ))}
              </select>
            </label>
            <label className="text-sm font-semibold">
              Copies
              <input
                className="input num font-normal"
                inputMode="numeric"
                aria-label={i === 0 ? 'Copies' : `Copies ${i + 1}`}
                {...register(`pieces.${i}.copies` as never)}
              />
            </label>
            <label className="text-sm font-semibold">
              <span>
                Scale <span className="num font-normal text-soft">%</span>
              </span>
              <input
                className="input num font-normal"
                inputMode="decimal"
                aria-label={i === 0 ? 'Scale' : `Scale ${i + 1}`}
                {...register(`pieces.${i}.scale_pct` as never)}
              />
            </label>
            {fields.length > 1 && (
              <button type="button" className="button" onClick={() => remove(i)}>
                Take out
              </button>
            )}
            {says && (
              <p role="alert" className="text-sm font-semibold text-bad sm:col-span-4">
                {says}
              </p>
            )}
          </div>
        )
      })}
      {complaint && (
        <p role="alert" className="text-sm font-semibold text-bad">
          Pieces {complaint}
        </p>
      )}
      <button
        type="button"
        className="button justify-self-start"
        onClick={() => append({ piece_id: '', copies: '1', scale_pct: '100' } as never)}
      >
        Another piece on this plate
      </button>
    </fieldset>
  )
}
