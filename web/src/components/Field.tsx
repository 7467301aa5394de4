import { useId, type ReactNode } from 'react'
import { get, useController, useFormContext, useWatch } from 'react-hook-form'
import { understood } from '../lib/duration'

interface Props {
  name: string
  label: string
  unit?: string
  hint?: string
}

/** Label, unit, input and the server's complaint about it, tied together for screen readers. */
function Frame({ id, name, label, unit, hint, children }: Props & { id: string; children: ReactNode }) {
  const { formState } = useFormContext()
  const complaint = (get(formState.errors, name) as { message?: string } | undefined)?.message
  return (
    <div className="min-w-0">
      <label htmlFor={id} className="mb-0.5 block text-sm font-semibold">
        {label}
        {unit && <span className="num ml-1 font-normal text-soft">{unit}</span>}
      </label>
      {children}
      {hint && !complaint && (
        <p id={`${id}-note`} className="mt-0.5 text-sm text-soft">
          {hint}
        </p>
      )}
      {complaint && (
        <p id={`${id}-note`} role="alert" className="mt-0.5 text-sm font-semibold text-bad">
          {label} {complaint}
        </p>
      )}
    </div>
  )
}

/** The id is the field's own: two forms on a page may use the same names. */
function useInput(name: string, hint?: string) {
  const id = useId()
  const { register, formState } = useFormContext()
  const wrong = Boolean(get(formState.errors, name))
  return {
    ...register(name),
    id,
    'aria-invalid': wrong,
    'aria-describedby': hint || wrong ? `${id}-note` : undefined,
    className: 'input',
  }
}

export function TextField({ type = 'text', ...props }: Props & { type?: string }) {
  const input = useInput(props.name, props.hint)
  return (
    <Frame {...props} id={input.id}>
      <input type={type} autoComplete="off" {...input} />
    </Frame>
  )
}

export function NumberField({ optional, ...props }: Props & { optional?: boolean }) {
  const input = useInput(props.name, props.hint)
  return (
    <Frame {...props} id={input.id}>
      <input
        inputMode="decimal"
        autoComplete="off"
        placeholder={optional ? 'optional' : undefined}
        data-unit={props.unit}
        {...input}
        className="input num"
      />
    </Frame>
  )
}

/** A time, in whatever way it is written; how it is understood stands beneath. */
export function DurationField({ optional, ...props }: Props & { optional?: boolean }) {
  const typed = useWatch({ name: props.name }) as string | undefined
  const hint = typed ? understood(typed) : (props.hint ?? understood(''))
  const input = useInput(props.name, hint)
  return (
    <Frame {...props} hint={hint} id={input.id}>
      <input autoComplete="off" placeholder={optional ? 'optional' : undefined} {...input} className="input num" />
    </Frame>
  )
}

export function TextArea(props: Props) {
  const input = useInput(props.name, props.hint)
  return (
    <Frame {...props} id={input.id}>
      <textarea rows={3} {...input} />
    </Frame>
  )
}

export interface Option {
  value: string
  label: string
}

/** Controlled, so that a value whose options arrive later is shown once they are there. */
export function SelectField({ options, empty, ...props }: Props & { options: Option[]; empty?: string }) {
  const id = useId()
  const { field, fieldState } = useController({ name: props.name })
  const described = props.hint || fieldState.error ? `${id}-note` : undefined
  return (
    <Frame {...props} id={id}>
      <select {...field} id={id} aria-invalid={fieldState.invalid} aria-describedby={described} className="input">
        {empty !== undefined && <option value="">{empty}</option>}
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
    </Frame>
  )
}

export function CheckField({ name, label }: { name: string; label: string }) {
  const { register } = useFormContext()
  return (
    <label className="flex min-h-(--tap) items-center gap-2">
      <input type="checkbox" className="size-5 accent-(--act)" {...register(name)} />
      <span>{label}</span>
    </label>
  )
}

/** Several of a list, as boxes to tick; the value is the list of those ticked. */
/** From how many on there is a way to choose all at once. */
const worthAll = 3

export function ManyField({
  name,
  label,
  options,
  none,
  all,
}: {
  name: string
  label: string
  options: Option[]
  none?: string
  /** Offers to choose all at once. */
  all?: boolean
}) {
  const { register, formState, setValue } = useFormContext()
  const complaint = (get(formState.errors, name) as { message?: string } | undefined)?.message
  return (
    <fieldset className="min-w-0">
      <legend className="mb-0.5 text-sm font-semibold">{label}</legend>
      {options.length === 0 && <p className="text-soft">{none}</p>}
      <div className="flex flex-wrap gap-x-5">
        {all && options.length >= worthAll && (
          <button
            type="button"
            className="button"
            onClick={() =>
              setValue(
                name,
                options.map((o) => o.value),
                { shouldDirty: true },
              )
            }
          >
            All {options.length}
            <span className="sr-only"> {label.toLowerCase()}</span>
          </button>
        )}
        {options.map((o) => (
          <label key={o.value} className="flex min-h-(--tap) items-center gap-2">
            <input type="checkbox" value={o.value} className="size-5 accent-(--act)" {...register(name)} />
            {o.label}
          </label>
        ))}
      </div>
      {complaint && (
        <p role="alert" className="text-sm font-semibold text-bad">
          {label} {complaint}
        </p>
      )}
    </fieldset>
  )
}
