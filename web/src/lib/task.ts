import { useEffect, useRef, useState } from 'react'
import type { Schemas } from './api'
import { newID } from './id'

export interface Progress {
  stage: string
  /** 0 to 1, or null while it cannot be told. */
  share: number | null
}

/** How often a running task is asked how far it has come, in ms. */
const askEvery = 300

/** What is done sooner, in ms, shows no bar: it would only flicker. */
const quick = 300

/** Thrown when the one who asked stopped it. */
export class Stopped extends Error {
  constructor() {
    super('Stopped; nothing was kept.')
  }
}

interface Running {
  /** The name under which the server tells how far it has come. */
  job: string
  signal: AbortSignal
  tell: (p: Progress) => void
  /** From now on the server is asked. */
  ask: () => void
}

/** A task that may take long: it shows how far it has come, and can be stopped, the server's part too. */
export function useTask() {
  const [progress, setProgress] = useState<Progress>()
  const stopper = useRef<AbortController>(null)
  useEffect(() => () => stopper.current?.abort(), [])
  const run = async <T>(first: Progress, task: (r: Running) => Promise<T>): Promise<T> => {
    stopper.current?.abort()
    const abort = new AbortController()
    stopper.current = abort
    const job = newID()
    let latest = first
    let shown = false
    let asking = 0
    const tell = (p: Progress) => {
      latest = p
      if (shown) setProgress(p)
    }
    const begin = window.setTimeout(() => {
      shown = true
      setProgress(latest)
    }, quick)
    const ask = () => {
      asking = window.setInterval(() => {
        void fetch(`/api/v1/progress/${job}`)
          .then((r) => r.json() as Promise<Schemas['JobState']>)
          .then((s) => s.stage && tell({ stage: s.stage, share: s.share || null }))
          .catch(() => undefined) // the answer itself will tell
      }, askEvery)
    }
    try {
      return await task({ job, signal: abort.signal, tell, ask })
    } catch (e) {
      throw abort.signal.aborted ? new Stopped() : e
    } finally {
      clearTimeout(begin)
      clearInterval(asking)
      setProgress(undefined)
    }
  }
  return { run, progress, stop: () => stopper.current?.abort() }
}
