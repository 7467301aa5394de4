import { useEffect, useRef, useState } from 'react'
import { ProblemError, type Problem, type Schemas } from './api'

export interface Progress {
  stage: string
  /** 0 to 1, or null while it cannot be told. */
  share: number | null
}

/** How often a running task is asked how far it has come, in ms. */
const askEvery = 300

/** What is done sooner, in ms, shows no bar: it would only flicker. */
const quick = 300

/**
 * Sends a form with a file and says how far it has come: first the upload,
 * then what the server does with it. Stopping it stops the server too.
 */
export function useUpload<T>(path: string) {
  const [progress, setProgress] = useState<Progress>()
  const request = useRef<XMLHttpRequest>(null)
  useEffect(() => () => request.current?.abort(), [])
  const send = (form: FormData) =>
    new Promise<T>((resolve, reject) => {
      request.current?.abort()
      const job = crypto.randomUUID()
      const xhr = new XMLHttpRequest()
      request.current = xhr
      let timer = 0
      let latest: Progress = { stage: 'sending', share: null }
      let shown = false
      const begin = window.setTimeout(() => {
        shown = true
        setProgress(latest)
      }, quick)
      const tell = (p: Progress) => {
        latest = p
        if (shown) setProgress(p)
      }
      const over = () => {
        clearTimeout(begin)
        clearInterval(timer)
        setProgress(undefined)
      }
      xhr.open('POST', `${path}?job=${job}`)
      xhr.upload.onprogress = (e) => tell({ stage: 'sending', share: e.lengthComputable ? e.loaded / e.total : null })
      xhr.upload.onload = () => {
        tell({ stage: 'reading', share: null })
        timer = window.setInterval(() => {
          void fetch(`/api/v1/progress/${job}`)
            .then((r) => r.json() as Promise<Schemas['JobState']>)
            .then((s) => s.stage && tell({ stage: s.stage, share: s.share || null }))
            .catch(() => undefined) // the answer itself will tell
        }, askEvery)
      }
      xhr.onload = () => {
        over()
        const body: unknown = parse(xhr.responseText)
        if (xhr.status >= 200 && xhr.status < 300) resolve(body as T)
        else reject(new ProblemError((body as Problem) ?? { detail: xhr.statusText }))
      }
      xhr.onerror = () => {
        over()
        reject(new Error('The connection was lost; nothing was kept. Try again.'))
      }
      xhr.onabort = () => {
        over()
        reject(new Stopped())
      }
      xhr.send(form)
    })
  return { send, progress, stop: () => request.current?.abort() }
}

/** Thrown when the one who asked stopped it. */
export class Stopped extends Error {
  constructor() {
    super('Stopped; nothing was kept.')
  }
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}
