import { useMutation } from '@tanstack/react-query'
import type { ReactNode } from 'react'
import { FormProvider, useFieldArray, useFormContext } from 'react-hook-form'
import { CheckField, NumberField, SelectField, TextArea, TextField } from '../../components/Field'
import { Complaint } from '../../components/Page'
import { answer, api, type Schemas } from '../../lib/api'
import { choices, type Kind } from '../../lib/choices'
import { showProblem, useDraftForm } from '../../lib/draft'

import { blanks, bodyOf, usual, valuesOf, type Values } from './unitValues'

const statuses = choices<Exclude<Kind<'UnitFile', 'status'>, ''>>({
  retail: 'retail',
  lent: 'lent',
  pre_production: 'pre-production',
  first_batch: 'first batch',
  used: 'used',
})
const found = choices<Kind<'BoxContent', 'found'>>({
  there: 'there',
  missing: 'missing',
  broken: 'broken',
  not_looked: 'not looked for',
})
const ports = choices<Kind<'UnitPort', 'state'>>({
  absent: 'absent',
  present: 'present',
  tested: 'tested',
  used: 'used',
})
const answers = choices<Kind<'UnitOpenness', 'answer'>>({
  yes: 'yes',
  partly: 'partly',
  no: 'no',
  unknown: 'not known',
})
const solved = choices<Exclude<Kind<'VendorContact', 'solved'>, ''>>({ yes: 'yes', partly: 'partly', no: 'no' })

/** Everything of a unit is one form: it is unpacked once, and added to now and then. */
export function UnitForm({
  machineID,
  file,
  kept,
}: {
  machineID: string
  file?: Schemas['UnitFile']
  kept: () => unknown
}) {
  const form = useDraftForm<Values>(`draft-unit-${machineID}`, valuesOf(file), String(file?.version ?? 0))
  const save = useMutation({
    mutationFn: (v: Values) =>
      answer(
        api.PUT('/api/v1/machines/{id}/unit-file', {
          params: { path: { id: machineID } },
          body: { ...bodyOf(v), version: file?.version ?? 0 },
        }),
      ),
    onSuccess: () => {
      form.forget()
      return kept()
    },
    onError: (e) => showProblem(form, e),
  })
  return (
    <details open={form.restored}>
      <summary className="min-h-(--tap) cursor-pointer content-center font-semibold">
        {file ? 'Change or add to it' : 'Unpack it'}
      </summary>
      <FormProvider {...form}>
        <form className="grid gap-5" aria-label="The very unit" onSubmit={form.handleSubmit((v) => save.mutate(v))}>
          <div className="grid gap-3 sm:grid-cols-3 lg:grid-cols-5">
            <SelectField name="status" label="How it came" options={statuses} empty="not known" />
            <TextField name="received_on" label="Received on" type="date" />
            <TextField name="revision" label="Revision" />
            <TextField name="serial" label="Serial, as you write it" />
            <TextField name="firmware" label="Firmware when it came" />
            <NumberField name="body_width_mm" label="Wide" unit="mm" optional />
            <NumberField name="body_depth_mm" label="Deep" unit="mm" optional />
            <NumberField name="body_height_mm" label="High" unit="mm" optional />
            <NumberField name="lid_open_mm" label="High, lid open" unit="mm" optional />
            <NumberField name="mass_kg" label="Mass" unit="kg" optional />
            <NumberField name="unpack_min" label="Unpacked and set up in" unit="min" optional />
            <TextField name="set_up_by" label="By whom, how experienced" />
          </div>
          <List
            name="contents"
            title="In the box"
            one="thing"
            grid="sm:grid-cols-[minmax(0,1fr)_5rem_10rem_minmax(0,1fr)_auto]"
          >
            {(at) => (
              <>
                <TextField name={`${at}.what`} label="What" />
                <NumberField name={`${at}.count`} label="Count" />
                <SelectField name={`${at}.found`} label="Found" options={found} />
                <TextField name={`${at}.note`} label="Note" />
              </>
            )}
          </List>
          <List
            name="peels"
            title="Films and locks, before the first print"
            one="film or lock"
            grid="sm:grid-cols-[minmax(0,1fr)_12rem_auto]"
          >
            {(at) => (
              <>
                <TextField name={`${at}.what`} label="What" />
                <CheckField name={`${at}.keep`} label="it stays on" />
              </>
            )}
          </List>
          <List name="ports" title="Ways in" one="way in" grid="sm:grid-cols-[minmax(0,1fr)_10rem_minmax(0,1fr)_auto]">
            {(at) => (
              <>
                <TextField name={`${at}.what`} label="What" />
                <SelectField name={`${at}.state`} label="State" options={ports} />
                <TextField name={`${at}.note`} label="Note" />
              </>
            )}
          </List>
          <List
            name="openness"
            title="How open it is"
            one="fact"
            grid="sm:grid-cols-[minmax(0,1fr)_10rem_minmax(0,1fr)_auto]"
          >
            {(at) => (
              <>
                <TextField name={`${at}.what`} label="What" />
                <SelectField name={`${at}.answer`} label="Answer" options={answers} />
                <TextField name={`${at}.note`} label="Note" />
              </>
            )}
          </List>
          <List
            name="contacts"
            title="Asked its vendor"
            one="question"
            grid="sm:grid-cols-2 lg:grid-cols-[minmax(0,1fr)_13rem_13rem_8rem_minmax(0,1fr)_auto]"
          >
            {(at) => (
              <>
                <TextField name={`${at}.about`} label="About" />
                <TextField name={`${at}.asked_ms`} label="Asked" type="datetime-local" />
                <TextField name={`${at}.answered_ms`} label="Answered" type="datetime-local" />
                <SelectField name={`${at}.solved`} label="Solved" options={solved} empty="open" />
                <TextField name={`${at}.how`} label="How" />
              </>
            )}
          </List>
          <List name="claimed" title="What is claimed" one="claim" grid="sm:grid-cols-[minmax(0,1fr)_14rem_auto]">
            {(at) => (
              <>
                <TextField name={`${at}.says`} label="Claim" />
                <TextField name={`${at}.source`} label="Where it stands" />
              </>
            )}
          </List>
          <TextArea name="note" label="Note" />
          {save.isError && <Complaint>{save.error.message}</Complaint>}
          <div>
            <button className="button button-main" disabled={save.isPending}>
              Keep the unit file
            </button>
          </div>
        </form>
      </FormProvider>
    </details>
  )
}

type Lists = 'contents' | 'peels' | 'ports' | 'openness' | 'contacts' | 'claimed'

/** A list of the unit file, row by row; where there are usual rows, an empty list can begin with them. */
function List({
  name,
  title,
  one,
  grid,
  children,
}: {
  name: Lists
  title: string
  one: string
  grid: string
  children: (at: string) => ReactNode
}) {
  const { control } = useFormContext<Values>()
  const rows = useFieldArray({ control, name })
  const begin = usual[name]
  return (
    <fieldset className="grid gap-2">
      <legend className="mb-1 font-semibold">{title}</legend>
      {rows.fields.map((field, i) => (
        <div key={field.id} role="group" aria-label={`${one} ${i + 1}`} className={`grid items-end gap-3 ${grid}`}>
          {children(`${name}.${i}`)}
          <button type="button" className="button" onClick={() => rows.remove(i)}>
            Remove
            <span className="sr-only">
              {' '}
              {one} {i + 1}
            </span>
          </button>
        </div>
      ))}
      <div className="flex flex-wrap gap-2">
        <button type="button" className="button" onClick={() => rows.append(blanks[name]() as never)}>
          Add a {one}
        </button>
        {rows.fields.length === 0 && begin && (
          <button type="button" className="button" onClick={() => rows.append(begin() as never)}>
            Begin with the usual<span className="sr-only">: {title}</span>
          </button>
        )}
      </div>
    </fieldset>
  )
}
