import { useQuery } from '@tanstack/react-query'
import { useId } from 'react'
import { answer, api } from '../lib/api'

export const useKinds = () =>
  useQuery({ queryKey: ['piece-kinds'], queryFn: () => answer(api.GET('/api/v1/piece-kinds')) })

/** Some kinds to begin with; any other word does as well. */
const usual = ['figure', 'bust', 'vehicle', 'terrain', 'test piece', 'functional part']

/** What sort of model a piece is, in a word: those on record are offered. */
export function KindInput({
  value,
  onChange,
  name,
}: {
  value?: string
  onChange?: (kind: string) => void
  name?: string
}) {
  const kinds = useKinds().data ?? []
  const id = useId()
  const known = kinds.map((k) => k.kind)
  return (
    <>
      <input
        className="input font-normal"
        name={name}
        list={id}
        autoComplete="off"
        maxLength={60}
        placeholder="figure, bust, vehicle"
        value={value}
        onChange={onChange && ((e) => onChange(e.target.value))}
      />
      <datalist id={id}>
        {[...known, ...usual.filter((u) => !known.some((k) => k.toLowerCase() === u))].map((k) => (
          <option key={k} value={k} />
        ))}
      </datalist>
    </>
  )
}
