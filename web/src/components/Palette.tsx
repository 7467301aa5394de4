import { Command } from 'cmdk'
import { useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { useMachines, usePieces, usePlates, useResins, useReviews, useRuns, useSeriesList } from '../lib/queries'

/** Opens anything by name. */
export function Palette({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Command.Dialog
      open={open}
      onOpenChange={onOpenChange}
      label="Open anything by name"
      overlayClassName="fixed inset-0 z-40 bg-black/40"
      contentClassName="sheet fixed top-[10vh] left-1/2 z-50 w-[min(36rem,94vw)] -translate-x-1/2"
    >
      {open && <Entries close={() => onOpenChange(false)} />}
    </Command.Dialog>
  )
}

function Entries({ close }: { close: () => void }) {
  const navigate = useNavigate()
  const [typed, setTyped] = useState('')
  const [machines, resins, pieces, series, runs, reviews, plates] = [
    useMachines(),
    useResins(),
    usePieces(),
    useSeriesList(),
    // Runs may be thousands: those whose code is typed, else the newest.
    useRuns({ code: /^[rs]?-?\d+/i.test(typed) ? (/\d+/.exec(typed)?.[0] ?? '') : '', most: 20 }),
    useReviews(),
    usePlates(),
  ]
  // Enter may be quicker than the record: it is kept until everything that could be meant is there.
  const reading = [machines, resins, pieces, series, runs, reviews, plates].some((q) => q.isPending)
  const input = useRef<HTMLInputElement>(null)
  const early = useRef(false)
  useEffect(() => {
    if (reading || !early.current) return
    early.current = false
    input.current?.dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true }))
  }, [reading])
  const entries = [
    { to: '/runs/new', label: 'Record a print' },
    { to: '/runs/prepare', label: 'Prepare a print' },
    { to: '/dial-in/new', label: 'Plan a series' },
    { to: '/kit/machines/new', label: 'Enter a machine' },
    { to: '/kit/pieces/new', label: 'Import a piece' },
    { to: '/kit/coupons/new', label: 'Make a coupon' },
    { to: '/plan/new', label: 'Lay a plate' },
    { to: '/plan/fill', label: 'Time against copies' },
    { to: '/failures', label: 'Failures: rates, wear and places' },
    { to: '/devices', label: 'Devices and stand-ins' },
    { to: '/upkeep', label: 'Upkeep: what wears and what is due' },
    ...(plates.data ?? []).map((p) => ({ to: `/plan/${p.plate.id}`, label: `${p.plate.code} ${p.plate.name}` })),
    ...(machines.data ?? []).map((m) => ({
      to: `/kit/machines/${m.machine.id}`,
      label: `${m.machine.code} ${m.machine.name}`,
    })),
    ...(resins.data ?? []).map((r) => ({ to: `/kit/resins/${r.resin.id}`, label: `${r.resin.code} ${r.resin.name}` })),
    ...(pieces.data ?? []).map((p) => ({ to: `/kit/pieces/${p.piece.id}`, label: `${p.piece.code} ${p.piece.name}` })),
    ...(series.data ?? []).map((s) => ({
      to: `/dial-in/${s.series.id}`,
      label: `${s.series.code} ${s.machine}, ${s.resin}`,
    })),
    ...(runs.data?.lines ?? []).map((r) => ({ to: `/runs/${r.id}`, label: `${r.code} ${r.printed}, ${r.machine}` })),
    ...(reviews.data ?? []).map((r) => ({ to: `/verdict/${r.id}`, label: `${r.code} ${r.question}` })),
  ]
  return (
    <>
      <Command.Input
        ref={input}
        className="input"
        placeholder="Name or code"
        aria-label="Name or code"
        value={typed}
        onValueChange={setTyped}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || !reading) return
          early.current = true
          e.preventDefault()
          e.stopPropagation()
        }}
      />
      <Command.List className="mt-2 max-h-[50vh] overflow-y-auto">
        <Command.Empty className="p-2 text-soft">
          {reading ? 'Reading the record …' : 'Nothing by that name.'}
        </Command.Empty>
        {entries.map((e) => (
          <Command.Item
            key={e.to}
            value={e.label + e.to}
            onSelect={() => {
              close()
              void navigate(e.to)
            }}
            className="flex min-h-(--tap) cursor-pointer items-center px-2 aria-selected:bg-plate aria-selected:font-bold"
          >
            {e.label}
          </Command.Item>
        ))}
      </Command.List>
    </>
  )
}
