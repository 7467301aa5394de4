import { ArrowDown, ArrowUp } from 'lucide-react'
import { useState, type MouseEvent, type ReactNode } from 'react'
import type { Schemas } from '../../lib/api'
import { counted } from '../../lib/format'
import { OwnPart } from './OwnPart'

type Part = Schemas['WriteUpPart']

/** A part of a write-up in its place: moved, left out, or with something written below it. */
export function PartRow({
  p,
  photographs,
  first,
  last,
  move,
  change,
  write,
  children,
}: {
  p: Part
  photographs: Schemas['Choosable'][]
  first: boolean
  last: boolean
  move: (by: number) => void
  change: (next?: Part) => void
  write?: () => void
  children?: ReactNode
}) {
  const [editing, setEditing] = useState(false)
  // A row that is moved loses what is focused in it.
  const moved = (by: number) => (e: MouseEvent<HTMLButtonElement>) => {
    const button = e.currentTarget
    move(by)
    requestAnimationFrame(() => button.focus())
  }
  const pictures = p.pictures?.length ?? 0
  return (
    <li className="border-t border-line py-2">
      <div className="flex flex-wrap items-center gap-2">
        <button className="button" aria-label={`Move ${p.name} up`} disabled={first} onClick={moved(-1)}>
          <ArrowUp size={18} aria-hidden />
        </button>
        <button className="button" aria-label={`Move ${p.name} down`} disabled={last} onClick={moved(1)}>
          <ArrowDown size={18} aria-hidden />
        </button>
        <span className={`min-w-0 grow basis-56 wrap-anywhere ${p.out ? 'text-soft line-through' : ''}`}>
          {p.own ? <em>{p.name}</em> : p.name}
          {p.own && pictures > 0 && <span className="text-soft"> with {counted(pictures, 'picture')}</span>}
          {p.empty && <span className="text-soft"> (nothing on record yet)</span>}
        </span>
        <label className="flex min-h-(--tap) items-center gap-2">
          <input
            type="checkbox"
            checked={!p.out}
            aria-label={`${p.name} stands in it`}
            onChange={() => change({ ...p, out: !p.out })}
          />
          stands
        </label>
        {p.own && (
          <button className="button" aria-label={`Change ${p.name}`} onClick={() => setEditing(!editing)}>
            Change
          </button>
        )}
        {write && (
          <button className="button" aria-label={`Write something below ${p.name}`} onClick={write}>
            Write below
          </button>
        )}
      </div>
      {editing && (
        <OwnPart
          own={p}
          photographs={photographs}
          busy={false}
          close={() => setEditing(false)}
          keep={(own) => {
            change({ ...p, ...own, name: own.title || 'Your own words' })
            setEditing(false)
          }}
          remove={() => change(undefined)}
        />
      )}
      {children}
    </li>
  )
}
