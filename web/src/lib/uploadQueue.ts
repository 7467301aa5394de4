import { useCallback, useEffect, useRef, useState } from 'react'
import { newID } from './id'
import { LostConnection, sendForm } from './upload'

export type Step = 'waiting' | 'sending' | 'developing' | 'offline' | 'kept' | 'refused' | 'stopped'

export interface Queued {
  job: string
  name: string
  step: Step
  share: number | null
  error?: string
}

interface Entry extends Queued {
  form: FormData
  abort: AbortController
}

/** How long after a lost connection the next try is made, in ms. */
const tryAgainAfter = 2500

/**
 * Files on their way, one after the other. One whose connection is lost waits and is sent again under the same name,
 * so that it is kept once; leaving the page ends what is not kept yet.
 */
export function useUploadQueue(path: string) {
  const entries = useRef<Entry[]>([])
  const busy = useRef(false)
  const gone = useRef(false)
  const [shown, setShown] = useState<Queued[]>([])
  const show = useCallback(() => {
    if (!gone.current)
      setShown(entries.current.map(({ job, name, step, share, error }) => ({ job, name, step, share, error })))
  }, [])
  const next = useCallback(async () => {
    if (busy.current) return
    busy.current = true
    for (;;) {
      const entry = entries.current.find((e) => e.step === 'waiting' || e.step === 'offline')
      if (!entry || gone.current) break
      if (entry.step === 'offline') await new Promise((done) => setTimeout(done, tryAgainAfter))
      if (entry.abort.signal.aborted) continue
      const put = (change: Partial<Entry>) => {
        Object.assign(entry, change)
        show()
      }
      put({ step: 'sending', share: null })
      try {
        await sendForm(path, entry.form, {
          job: entry.job,
          signal: entry.abort.signal,
          sent: (share) => put({ share }),
          arrived: () => put({ step: 'developing', share: null }),
        })
        put({ step: 'kept' })
      } catch (e) {
        if (entry.abort.signal.aborted) put({ step: 'stopped' })
        else if (e instanceof LostConnection) put({ step: 'offline' })
        else put({ step: 'refused', error: e instanceof Error ? e.message : String(e) })
      }
    }
    busy.current = false
  }, [path, show])
  useEffect(() => {
    gone.current = false
    const list = entries.current
    return () => {
      gone.current = true
      for (const e of list) e.abort.abort()
    }
  }, [])
  const add = (files: { name: string; form: FormData }[]) => {
    for (const f of files)
      entries.current.push({
        ...f,
        job: newID(),
        step: 'waiting',
        share: null,
        abort: new AbortController(),
      })
    show()
    void next()
  }
  const stop = (job: string) => {
    const entry = entries.current.find((e) => e.job === job)
    if (!entry) return
    entry.abort.abort()
    if (entry.step === 'waiting' || entry.step === 'offline') entry.step = 'stopped'
    show()
  }
  /** Takes what is over off the list. */
  const clear = () => {
    entries.current = entries.current.filter((e) => !['kept', 'refused', 'stopped'].includes(e.step))
    show()
  }
  return { queue: shown, add, stop, clear }
}
