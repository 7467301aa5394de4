import type { Schemas } from '../../lib/api'

type Computation = Schemas['Computation']

/** A computation in its own words, with what it takes and gives. */
export function Computed({ c, open }: { c: Computation; open?: boolean }) {
  return (
    <details className="group border-t border-line" open={open}>
      <summary className="min-h-(--tap) cursor-pointer content-center">
        <code className="num font-semibold">{c.name}</code>{' '}
        <span className="text-soft group-open:hidden">{c.says.split(/(?<=\.) /)[0]}</span>
      </summary>
      <div className="grid gap-3 pb-3">
        {c.says.split('\n\n').map((p) => (
          <p key={p} className="wrap-anywhere">
            {p}
          </p>
        ))}
        <Values title="It takes" list={c.takes} />
        <Values title="It gives" list={c.gives} />
        <p className="text-sm wrap-anywhere text-soft">
          <code className="num">{c.form}</code>
        </p>
      </div>
    </details>
  )
}

function Values({ title, list }: { title: string; list: Computation['takes'] }) {
  if (list.length === 0) return null
  return (
    <div>
      <h3>{title}</h3>
      <dl className="grid gap-x-4 sm:grid-cols-[minmax(0,16rem)_1fr]">
        {list.map((v, i) => (
          <div key={`${v.name} ${i}`} className={v.name === '' ? 'col-span-full' : 'contents'}>
            <dt className="wrap-anywhere">
              {v.name !== '' && <code className="num">{v.name}</code>}{' '}
              <span className="text-sm text-soft">{v.kind}</span>
            </dt>
            <dd className="mb-1 text-sm wrap-anywhere">{v.says}</dd>
          </div>
        ))}
      </dl>
    </div>
  )
}
