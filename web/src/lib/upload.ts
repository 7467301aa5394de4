import { ProblemError, type Problem } from './api'
import { commandHeader } from './command'
import { useTask } from './task'

/** Sends a form with a file: first the upload is told, then what the server does with it. */
export function useUpload<T>(path: string) {
  const task = useTask()
  const send = (form: FormData) =>
    task.run<T>(
      { stage: 'sending', share: null },
      ({ job, signal, tell, ask }) =>
        new Promise((resolve, reject) => {
          const xhr = new XMLHttpRequest()
          signal.addEventListener('abort', () => xhr.abort())
          xhr.open('POST', `${path}?job=${job}`)
          xhr.setRequestHeader(commandHeader, job)
          xhr.upload.onprogress = (e) =>
            tell({ stage: 'sending', share: e.lengthComputable ? e.loaded / e.total : null })
          xhr.upload.onload = () => {
            tell({ stage: 'reading', share: null })
            ask()
          }
          xhr.onload = () => {
            const body: unknown = parse(xhr.responseText)
            if (xhr.status >= 200 && xhr.status < 300) resolve(body as T)
            else reject(new ProblemError((body as Problem) ?? { detail: xhr.statusText }))
          }
          xhr.onerror = () => reject(new Error('The connection was lost; nothing was kept. Try again.'))
          xhr.onabort = () => reject(new Error('stopped'))
          xhr.send(form)
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
