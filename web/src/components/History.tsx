import type { Schemas } from '../lib/api'
import { figure, moment, words } from '../lib/format'

type Amendment = Schemas['Amendment']

const read = (text: string) => {
  try {
    return JSON.parse(text) as Record<string, unknown>
  } catch {
    return {}
  }
}

/** A value of an entry as people read it. */
function shown(name: string, v: unknown): string {
  if (v === null || v === undefined || v === '') return 'nothing'
  if (typeof v === 'number') return name.endsWith('_ms') ? moment(v) : figure(v, 6)
  if (typeof v === 'boolean') return v ? 'yes' : 'no'
  if (typeof v === 'string') return v
  return Array.isArray(v) ? `${v.length} entries` : 'changed'
}

/** What was changed of an entry, when and why: before and after. Nothing is shown where nothing was. */
export function History({ list }: { list: Amendment[] }) {
  if (list.length === 0) return null
  return (
    <section className="sheet grid gap-2" aria-label="History">
      <h2>What was changed</h2>
      <ul className="grid gap-2">
        {list.toReversed().map((a) => {
          const [before, after] = [read(a.before_entry), read(a.after_entry)]
          return (
            <li key={a.id} className="border-t border-line pt-2">
              <span className="num text-soft">{moment(a.at_ms)}</span> {a.command}
              {a.why && <span className="font-semibold">: {a.why}</span>}
              <ul className="text-sm">
                {Object.keys({ ...before, ...after }).map((k) => (
                  <li key={k}>
                    {words(k.replace(/_(ms|s|c|g|ml|mm|um|pct|id)$/, ''))}:{' '}
                    <s className="text-soft">{shown(k, before[k])}</s> → {shown(k, after[k])}
                  </li>
                ))}
              </ul>
            </li>
          )
        })}
      </ul>
    </section>
  )
}
