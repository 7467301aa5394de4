import { useState } from 'react'
import type { Schemas } from '../../lib/api'
import { n } from '../../lib/input'

type Live = Schemas['LiveRun']
type Kind = Schemas['RunEvent']['kind']

/** What happens to a print, as it is told. */
export interface Doing {
  kind: Kind
  ml?: number | null
  note?: string
  layer?: number | null
  confirmed?: boolean
}

/** What may be said now, each by a large button and a key. */
export function Doings({ l, armed, act, busy }: { l: Live; armed?: Kind; act: (e: Doing) => void; busy: boolean }) {
  const [ml, setML] = useState('')
  const [note, setNote] = useState('')
  const button = (kind: Kind, label: string, key: string, main = false) => (
    <button className={`button ${main ? 'button-main' : ''}`} disabled={busy} onClick={() => act({ kind })}>
      {armed === kind ? 'Once more to end it' : label} <kbd className="num">{key}</kbd>
    </button>
  )
  const [dial, setDial] = useState('')
  const [layer, setLayer] = useState('')
  if (l.state === 'stopped' || l.state === 'finished') {
    return (
      <p className="flex flex-wrap items-center gap-2 text-sm text-soft">
        A key pressed by mistake? {button('undo', 'It has not ended: take that back', 'u')}
      </p>
    )
  }
  return (
    <div className="grid gap-3">
      <div className="flex flex-wrap gap-2">
        {l.state === 'prepared' &&
          button(
            'start',
            l.open > 0
              ? `Start: ${l.open === 1 ? '1 item wants' : `${l.open} items want`} an answer first`
              : 'Start the print',
            's',
            l.open === 0,
          )}
        {l.state === 'printing' && button('pause', 'Pause', 'p')}
        {l.state === 'paused' && button('resume', 'Go on', 'p', true)}
        {l.state !== 'prepared' && button('finish', 'It has finished', 'f', l.state === 'printing')}
        {l.state !== 'prepared' && button('stop', 'Stopped before its end', 'x')}
      </div>
      {l.state !== 'prepared' && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            act({ kind: 'top_up', ml: n(ml) })
            setML('')
          }}
        >
          <label className="grid text-sm font-semibold">
            <span>
              Poured in <span className="num font-normal text-soft">ml</span>
            </span>
            <input
              className="input num w-28 font-normal"
              inputMode="decimal"
              required
              data-key="t"
              aria-keyshortcuts="t"
              value={ml}
              onChange={(e) => setML(e.target.value)}
            />
          </label>
          <button className="button" disabled={busy}>
            Record the top-up <kbd className="num">t</kbd>
          </button>
        </form>
      )}
      {l.state !== 'prepared' && (
        <form
          className="flex flex-wrap items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            act({ kind: 'dial', note: dial, layer: n(layer) })
            setDial('')
            setLayer('')
          }}
        >
          <label className="min-w-60 flex-1 text-sm font-semibold">
            A setting changed while it prints
            <input
              className="input font-normal"
              required
              placeholder="exposure 2.4 s"
              value={dial}
              onChange={(e) => setDial(e.target.value)}
            />
          </label>
          <label className="flex items-center gap-2 text-sm font-semibold">
            from layer
            <input
              className="input num w-24 font-normal"
              inputMode="numeric"
              value={layer}
              onChange={(e) => setLayer(e.target.value)}
            />
          </label>
          <button className="button" disabled={busy}>
            Record the change
          </button>
        </form>
      )}
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          act({ kind: 'note', note })
          setNote('')
        }}
      >
        <label className="min-w-60 flex-1 text-sm font-semibold">
          What was seen
          <input
            className="input font-normal"
            required
            data-key="n"
            aria-keyshortcuts="n"
            value={note}
            onChange={(e) => setNote(e.target.value)}
          />
        </label>
        <button className="button" disabled={busy}>
          Note it <kbd className="num">n</kbd>
        </button>
      </form>
    </div>
  )
}
