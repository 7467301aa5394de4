import { Command } from 'cmdk'
import { useEffect, useRef, useState } from 'react'
import { useNavigate } from 'react-router'
import { pageOf, refusal, useKeepLine, useMeaning, type Understood } from '../lib/lines'
import {
  useMachines,
  usePanels,
  usePieces,
  usePlates,
  useResins,
  useReviews,
  useRuns,
  useSeriesList,
} from '../lib/queries'

/** Opens anything by name. */
export function Palette({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  const [chosen, choose] = useState('')
  return (
    <Command.Dialog
      value={chosen}
      onValueChange={choose}
      open={open}
      onOpenChange={onOpenChange}
      label="Open anything by name"
      overlayClassName="fixed inset-0 z-40 bg-black/40"
      contentClassName="sheet fixed top-[10vh] left-1/2 z-50 w-[min(36rem,94vw)] -translate-x-1/2"
    >
      {open && <Entries close={() => onOpenChange(false)} choose={choose} />}
    </Command.Dialog>
  )
}

function Entries({ close, choose }: { close: () => void; choose: (value: string) => void }) {
  const navigate = useNavigate()
  const [typed, setTyped] = useState('')
  const [kept, setKept] = useState<Understood>()
  // A name of several words may also be a thing that happened: its meaning stands first.
  const meaning = useMeaning(typed, typed.trim().includes(' '))
  const keep = useKeepLine((line) => {
    setKept(line)
    setTyped('')
  })
  const says = meaning.data?.says
  useEffect(() => {
    if (says) choose(`line ${typed.trim()}`)
  }, [says, typed, choose])
  const [machines, resins, pieces, series, runs, reviews, plates, panels] = [
    useMachines(),
    useResins(),
    usePieces(),
    useSeriesList(),
    // Runs may be thousands: those whose code is typed, else the newest.
    useRuns({ code: /^[rs]?-?\d+/i.test(typed) ? (/\d+/.exec(typed)?.[0] ?? '') : '', most: 20 }),
    useReviews(),
    usePlates(),
    usePanels(),
  ]
  // Enter may be quicker than the record: it is kept until everything that could be meant is there.
  const reading = [machines, resins, pieces, series, runs, reviews, plates, panels].some((q) => q.isPending)
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
    { to: '/plan/calendar', label: 'Calendar of all machines' },
    { to: '/plan/fill', label: 'Time against copies' },
    { to: '/failures', label: 'Failures: rates, wear and places' },
    { to: '/devices', label: 'Devices and stand-ins' },
    { to: '/help', label: 'Help: the job, each view, how figures are computed' },
    { to: '/phone', label: 'In the pocket: scan, photograph, enter by thumb' },
    { to: '/door', label: 'The door: who is in from the network' },
    { to: '/software', label: 'Programs: times and failures by version' },
    { to: '/changes', label: 'What was changed, and put back' },
    { to: '/upkeep', label: 'Upkeep: what wears and what is due' },
    ...(panels.data ?? []).map((p) => ({
      to: `/verdict/panels/${p.id}`,
      label: `${p.code} blind panel: ${p.question}`,
    })),
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
        placeholder="Name or code, or what happened"
        aria-label="Name or code, or what happened"
        value={typed}
        onValueChange={(text) => {
          setTyped(text)
          setKept(undefined)
          keep.reset()
        }}
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || !reading) return
          early.current = true
          e.preventDefault()
          e.stopPropagation()
        }}
      />
      {(kept || keep.isError) && (
        <p role="status" className="mt-2 px-2">
          {kept && (
            <>
              Kept: {kept.says}{' '}
              <button
                type="button"
                className="button"
                onClick={() => {
                  close()
                  void navigate(pageOf(kept))
                }}
              >
                Open it
              </button>
            </>
          )}
          {keep.isError && (
            <span className="font-semibold text-bad">
              {refusal(keep.error)} {keep.questioned && 'Enter again keeps it.'}
            </span>
          )}
        </p>
      )}
      <Command.List className="mt-2 max-h-[50vh] overflow-y-auto">
        {!meaning.data && (
          <Command.Empty className="p-2 text-soft">
            {reading ? 'Reading the record …' : meaning.error ? refusal(meaning.error) : 'Nothing by that name.'}
          </Command.Empty>
        )}
        {meaning.data && (
          <Command.Item
            forceMount
            value={`line ${typed.trim()}`}
            onSelect={() => !keep.isPending && keep.mutate({ text: typed, says: meaning.data.says })}
            className="flex min-h-(--tap) cursor-pointer items-center px-2 aria-selected:bg-plate aria-selected:font-bold"
          >
            Keep: {meaning.data.says}
          </Command.Item>
        )}
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
