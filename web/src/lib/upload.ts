import { ProblemError, type Problem } from './api'
import { commandHeader } from './command'
import { useTask } from './task'

/** The connection broke before the server answered; what was sent may be sent again. */
export class LostConnection extends Error {
  constructor() {
    super('The connection was lost; nothing was kept. Try again.')
  }
}

interface Sending {
  /** The name of the command, and of its progress: sent again under the same, it is done once. */
  job: string
  signal: AbortSignal
  /** The share that was sent, null while it cannot be told. */
  sent: (share: number | null) => void
  /** All of it was sent; now the server works on it. */
  arrived: () => void
}

/** Sends a form with a file. */
export const sendForm = <T>(path: string, form: FormData, { job, signal, sent, arrived }: Sending) =>
  new Promise<T>((resolve, reject) => {
    const xhr = new XMLHttpRequest()
    signal.addEventListener('abort', () => xhr.abort())
    xhr.open('POST', `${path}?job=${job}`)
    xhr.setRequestHeader(commandHeader, job)
    xhr.upload.onprogress = (e) => sent(e.lengthComputable ? e.loaded / e.total : null)
    xhr.upload.onload = arrived
    xhr.onload = () => {
      const body: unknown = parse(xhr.responseText)
      if (xhr.status >= 200 && xhr.status < 300) resolve(body as T)
      else reject(new ProblemError((body as Problem) ?? { detail: xhr.statusText }))
    }
    xhr.onerror = () => reject(new LostConnection())
    xhr.onabort = () => reject(new Error('stopped'))
    xhr.send(form)
  })

/** Sends a form with a file: first the upload is told, then what the server does with it. */
export function useUpload<T>(path: string) {
  const task = useTask()
  const send = (form: FormData) =>
    task.run<T>({ stage: 'sending', share: null }, ({ job, signal, tell, ask }) =>
      sendForm<T>(path, form, {
        job,
        signal,
        sent: (share) => tell({ stage: 'sending', share }),
        arrived: () => {
          tell({ stage: 'reading', share: null })
          ask()
        },
      }),
    )
  return { send, progress: task.progress, stop: task.stop }
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text)
  } catch {
    return undefined
  }
}
