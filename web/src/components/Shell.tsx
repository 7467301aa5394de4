import { CircleHelp, DoorOpen, Hand, Keyboard, Search, Smartphone } from 'lucide-react'
import { useCallback, useEffect, useRef, useState } from 'react'
import { Link, NavLink, Outlet, useLocation } from 'react-router'
import type { Schemas } from '../lib/api'
import { useDoor } from '../lib/door'
import { useLiveRecord } from '../lib/live'
import { ComeIn } from './ComeIn'
import { Keys } from './Keys'
import { Palette } from './Palette'
import { Ready } from './Page'
import { SayAgain } from './SayAgain'
import { Standing } from './Standing'
import { Undo } from './Undo'

export const views = [
  { to: '/', label: 'Bench', key: 'b' },
  { to: '/kit', label: 'Kit', key: 'k' },
  { to: '/dial-in', label: 'Dial-in', key: 'd' },
  { to: '/plan', label: 'Plan', key: 'p' },
  { to: '/runs', label: 'Run', key: 'r' },
  { to: '/inspect', label: 'Inspect', key: 'i' },
  { to: '/compare', label: 'Compare', key: 'c' },
  { to: '/verdict', label: 'Verdict', key: 'v' },
]

/** The views that a helper has work in. */
const helperViews = ['/', '/runs', '/inspect']

/** Whoever comes from a network says the passphrase first. */
export function Shell() {
  const door = useDoor()
  return <Ready of={door}>{(d) => (d.scope === '' ? <ComeIn door={d} /> : <Views door={d} />)}</Ready>
}

/** The views are beads on the top cord, in the order of the work. */
function Views({ door }: { door: Schemas['Doorway'] }) {
  const owner = door.scope === 'owner'
  const [palette, setPalette] = useState(false)
  const [keys, setKeys] = useState(false)
  const find = useCallback(() => setPalette(true), [])
  const [gloves, setGloves] = useState(localStorage.getItem('gloves') === 'on')
  const bar = useRef<HTMLUListElement>(null)
  const { pathname } = useLocation()
  const told = useLiveRecord()
  useEffect(() => {
    // On a narrow screen the cord scrolls; the bead of the view stays in sight.
    const current = bar.current?.querySelector('[aria-current]')
    if (bar.current && current instanceof HTMLElement)
      bar.current.scrollLeft = current.offsetLeft + (current.parentElement?.offsetLeft ?? 0) - 60
  }, [pathname])
  useEffect(() => {
    document.documentElement.toggleAttribute('data-gloves', gloves)
    localStorage.setItem('gloves', gloves ? 'on' : 'off')
  }, [gloves])
  return (
    <div className="min-h-dvh">
      <a href="#main" className="button button-main absolute -top-20 left-2 z-50 focus:top-2">
        Skip to the page
      </a>
      <nav
        aria-label="Views"
        className="flex flex-wrap items-center gap-x-6 gap-y-1 border-b border-line bg-sheet px-4 pt-2 sm:px-6"
      >
        <NavLink to="/" className="flex items-center gap-2 text-lg font-extrabold" aria-label="Ojime, to the bench">
          <svg viewBox="-10 -14 20 28" className="h-7" aria-hidden="true">
            <path d="M0 -13v26" stroke="var(--ink)" strokeWidth="4" />
            <circle r="8" fill="var(--act)" />
          </svg>
          ojime
        </NavLink>
        <ul ref={bar} className="relative order-last flex w-full overflow-x-auto sm:order-none sm:w-auto sm:flex-1">
          {views
            .filter((v) => owner || helperViews.includes(v.to))
            .map((v) => (
              <li
                key={v.to}
                className="relative shrink-0 after:absolute after:bottom-[0.65rem] after:left-0 after:h-0.5 after:w-full after:bg-soft"
              >
                <NavLink
                  to={v.to}
                  end={v.to === '/'}
                  className="group relative z-10 flex min-h-(--tap) flex-col items-center justify-end px-3 pb-0.5 aria-[current=page]:font-bold"
                >
                  {v.label}
                  <svg viewBox="-12 -9 24 18" className="h-[1.2rem]" aria-hidden="true">
                    <circle r="3" className="fill-soft group-aria-[current=page]:hidden" />
                    <g className="hidden group-aria-[current=page]:block">
                      <path d="M-11 -4v8M11 -4v8" stroke="var(--ink)" strokeWidth="4" />
                      <circle r="8.5" fill="var(--act)" />
                    </g>
                  </svg>
                </NavLink>
              </li>
            ))}
        </ul>
        <div className="ml-auto flex gap-2 pb-1">
          <button
            className="button"
            onClick={() => setGloves(!gloves)}
            aria-pressed={gloves}
            title="Larger targets for gloved hands"
          >
            <Hand size={18} aria-hidden="true" />{' '}
            <span className="max-sm:sr-only">{gloves ? 'Gloves on' : 'Gloves'}</span>
          </button>
          {owner && <Undo />}
          {!owner && (
            <Link className="button" to="/phone" title="Scan, photograph, enter by thumb">
              <Smartphone size={18} aria-hidden="true" /> <span className="max-sm:sr-only">In the pocket</span>
            </Link>
          )}
          {door.needed && (
            <Link className="button" to="/door" title="Who is in from the network">
              <DoorOpen size={18} aria-hidden="true" />{' '}
              <span className="max-sm:sr-only">{owner ? 'Door' : door.name}</span>
            </Link>
          )}
          <button className="button" onClick={() => setPalette(true)} title="Open anything by name (/)">
            <Search size={18} aria-hidden="true" /> <span className="max-sm:sr-only">Find</span>
          </button>
          {owner && (
            <Link className="button" to="/help" title="Help" aria-label="Help">
              <CircleHelp size={18} aria-hidden="true" />
            </Link>
          )}
          <button className="button max-sm:hidden" onClick={() => setKeys(true)} title="Keys (?)" aria-label="Keys">
            <Keyboard size={18} aria-hidden="true" />
          </button>
        </div>
      </nav>
      <Standing />
      <main id="main" tabIndex={-1} className="outline-none">
        <Outlet />
      </main>
      <p
        role="log"
        aria-label="Readings that came in"
        className={
          told ? 'num fixed right-4 bottom-4 z-40 border-l-4 border-act bg-sheet px-3 py-2 shadow-md' : 'sr-only'
        }
      >
        {told}
      </p>
      <SayAgain />
      <Palette open={palette} onOpenChange={setPalette} />
      <Keys views={views} onFind={find} shown={keys} setShown={setKeys} />
    </div>
  )
}
