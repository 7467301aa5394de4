import { Tabs } from 'radix-ui'
import { useCallback } from 'react'
import { Link, useLocation, useSearchParams } from 'react-router'
import { Empty, Page, Ready } from '../../components/Page'
import { figure, grouped } from '../../lib/format'
import { useBottles, useMachines, usePieces, useResins, useSettings } from '../../lib/queries'
import { Assemblies } from './Assemblies'
import { References } from './References'
import { InstrumentPanel } from './InstrumentPanel'
import { ProfilePanel } from './ProfilePanel'
import { Kinds } from './Kinds'
import { Rooms } from './Rooms'
import { SettingsPanel } from './SettingsPanel'

const tabs = [
  { value: 'machines', label: 'Machines' },
  { value: 'resins', label: 'Resins and bottles' },
  { value: 'pieces', label: 'Pieces' },
  { value: 'settings', label: 'Settings on record' },
  { value: 'instruments', label: 'Instruments' },
  { value: 'costs', label: 'Costs' },
]

export default function KitPage() {
  const [params, setParams] = useSearchParams()
  return (
    <Page
      title="Kit"
      about="What you print with, print from and measure with. What follows from each entry stands beside it."
    >
      <Tabs.Root value={params.get('tab') ?? 'machines'} onValueChange={(tab) => setParams({ tab }, { replace: true })}>
        <Tabs.List className="mb-4 flex flex-wrap gap-x-1 border-b border-line" aria-label="Kit">
          {tabs.map((t) => (
            <Tabs.Trigger
              key={t.value}
              value={t.value}
              className="-mb-px min-h-(--tap) border-b-4 border-transparent px-3 data-[state=active]:border-act data-[state=active]:font-bold"
            >
              {t.label}
            </Tabs.Trigger>
          ))}
        </Tabs.List>
        <Tabs.Content value="machines" tabIndex={-1}>
          <div className="grid grid-cols-[minmax(0,1fr)] gap-6">
            <Machines />
            <Rooms />
          </div>
        </Tabs.Content>
        <Tabs.Content value="resins" tabIndex={-1}>
          <Resins />
        </Tabs.Content>
        <Tabs.Content value="pieces" tabIndex={-1}>
          <div className="grid gap-6">
            <Pieces />
            <Kinds />
            <Assemblies />
            <References />
          </div>
        </Tabs.Content>
        <Tabs.Content value="settings" tabIndex={-1}>
          <ProfilePanel />
        </Tabs.Content>
        <Tabs.Content value="instruments" tabIndex={-1}>
          <InstrumentPanel />
        </Tabs.Content>
        <Tabs.Content value="costs" tabIndex={-1}>
          <SettingsPanel />
        </Tabs.Content>
      </Tabs.Root>
    </Page>
  )
}

function Machines() {
  const machines = useMachines()
  const saved = (useLocation().state as { next?: boolean } | null)?.next
  // After one was saved, the next begins here.
  const next = useCallback(
    (link: HTMLAnchorElement | null) => {
      if (saved) link?.focus()
    },
    [saved],
  )
  const settings = useSettings()
  return (
    <Ready of={machines}>
      {(list) => (
        <div className="grid justify-items-start gap-3">
          <div className="flex flex-wrap gap-2">
            <Link ref={next} to="/kit/machines/new" className="button button-main">
              Enter a machine
            </Link>
            <Link to="/tables/machines" className="button">
              Several as a table
            </Link>
          </div>
          {list.length === 0 ? (
            <Empty title="No machine yet">Plate, pixels and motion give you pitch, time and wear.</Empty>
          ) : (
            <div className="sheet w-full overflow-x-auto">
              <table className="rows">
                <thead>
                  <tr>
                    <th>Machine</th>
                    <th>Light</th>
                    <th>Pitch or spot, µm ◇</th>
                    <th>Plate, mm</th>
                    <th>Same-equipment price, {settings.data?.currency} ◇</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map(({ machine: m, pitch, price, problem, usable }) => (
                    <tr key={m.id}>
                      <td>
                        <span className="num text-soft">{m.code}</span>{' '}
                        <Link to={`/kit/machines/${m.id}`}>{m.name}</Link>
                        <span className="block text-sm text-soft">{m.maker}</span>
                        <CardProblem>{problem}</CardProblem>
                      </td>
                      <td>{m.light_engine === 'masked_lcd' ? 'masked LCD' : m.light_engine}</td>
                      <td className="num">
                        {pitch ? figure(pitch.pitch_um) : `spot ${figure(m.spot_um)}`}
                        {pitch?.warnings.map((w) => (
                          <span key={w.code} className="block font-sans text-sm">
                            {w.message}
                          </span>
                        ))}
                      </td>
                      <td className="num whitespace-nowrap">
                        {m.width_mm} × {m.depth_mm} × {m.height_mm}
                        {usable && (
                          <span className="block text-sm">
                            usable {figure(usable.width_mm, 5)} × {figure(usable.depth_mm, 5)} ×{' '}
                            {figure(usable.height_mm, 5)} ●
                          </span>
                        )}
                      </td>
                      <td className="num">{price ? price.paid.toFixed(2) : problem ? '–' : 'not stated'}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </div>
      )}
    </Ready>
  )
}

function Resins() {
  const resins = useResins()
  const bottles = useBottles()
  const settings = useSettings()
  return (
    <Ready of={resins}>
      {(list) => (
        <div className="grid justify-items-start gap-3">
          <div className="flex flex-wrap gap-2">
            <Link to="/kit/resins/new" className="button button-main">
              Enter a resin
            </Link>
            <Link to="/tables/resins" className="button">
              Several, with bottles, as a table
            </Link>
          </div>
          {list.length === 0 ? (
            <Empty title="No resin yet">Price, density and age of a bottle carry into cost and comparison.</Empty>
          ) : (
            <div className="sheet w-full overflow-x-auto">
              <table className="rows">
                <thead>
                  <tr>
                    <th>Resin</th>
                    <th>Family</th>
                    <th>{settings.data?.currency} per litre ◇</th>
                    <th>Density, g/ml</th>
                    <th>Bottles</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map(({ resin: r, price, problem }) => (
                    <tr key={r.id}>
                      <td>
                        <span
                          className="mr-2 inline-block size-3 rounded-full"
                          style={{ background: r.colour }}
                          aria-hidden="true"
                        />
                        <span className="num text-soft">{r.code}</span> <Link to={`/kit/resins/${r.id}`}>{r.name}</Link>
                        <span className="block text-sm text-soft">{r.maker}</span>
                        <CardProblem>{problem}</CardProblem>
                      </td>
                      <td>{r.family || '–'}</td>
                      <td className="num">{price?.per_litre == null ? '–' : price.per_litre.toFixed(2)}</td>
                      <td className="num">{figure(r.density_g_ml, 4)}</td>
                      <td>
                        {(bottles.data ?? [])
                          .filter((b) => b.resin_id === r.id)
                          .map((b) => (
                            <span key={b.id} className="block text-sm">
                              <span className="num">{b.code}</span> {b.lot || 'lot not known'}, opened{' '}
                              {b.opened_on ?? 'not yet or not known'}
                            </span>
                          ))}
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </div>
      )}
    </Ready>
  )
}

function Pieces() {
  const pieces = usePieces()
  return (
    <Ready of={pieces}>
      {(list) => (
        <div className="grid justify-items-start gap-3">
          <div className="flex flex-wrap gap-2">
            <Link to="/kit/pieces/new" className="button button-main">
              Import a piece
            </Link>
            <Link to="/kit/coupons/new" className="button">
              Make a coupon
            </Link>
            <Link to="/tables/features" className="button">
              What is measured, as a table
            </Link>
          </div>
          {list.length === 0 ? (
            <Empty title="No piece yet">
              Import an STL, 3MF or OBJ file; nothing is kept until you have seen what is in it. Or make a coupon of
              your own.
            </Empty>
          ) : (
            <div className="sheet w-full overflow-x-auto">
              <table className="rows">
                <thead>
                  <tr>
                    <th>Piece</th>
                    <th>Size, mm ◇</th>
                    <th>Volume, ml ◇</th>
                    <th>Triangles</th>
                    <th>Measured on it</th>
                  </tr>
                </thead>
                <tbody>
                  {list.map(({ piece: p, features, problem }) => (
                    <tr key={p.id}>
                      <td>
                        <span className="num text-soft">{p.code}</span> <Link to={`/kit/pieces/${p.id}`}>{p.name}</Link>
                        <span className="block text-sm text-soft">
                          {p.kind ? `${p.kind}, ` : ''}revision {p.revision || 'not named'}
                        </span>
                        <CardProblem>{problem}</CardProblem>
                      </td>
                      <td className="num whitespace-nowrap">
                        {figure(p.size_x_mm, 4)} × {figure(p.size_y_mm, 4)} × {figure(p.size_z_mm, 4)}
                      </td>
                      <td className="num">{figure(p.volume_ml)}</td>
                      <td className="num whitespace-nowrap">{grouped(p.triangles)}</td>
                      <td>{features.map((f) => f.name).join(', ') || 'nothing yet'}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </div>
      )}
    </Ready>
  )
}

/** What cannot be worked out of an entry, beside it; the others stand as they are. */
function CardProblem({ children }: { children: string }) {
  return children ? <span className="block text-sm font-semibold text-bad">{children}</span> : null
}
