import type { Schemas } from '../lib/api'

/** What the figures would be with a print that is left out. */
export function Effects({ of }: { of: Schemas['LeftOutPrint'] }) {
  if (of.effects.length === 0) return <p className="text-sm text-soft">It changes no figure.</p>
  return (
    <ul className="mt-1 grid gap-1 text-sm">
      {of.effects.map((e) => (
        <li key={e}>{e}</li>
      ))}
    </ul>
  )
}
