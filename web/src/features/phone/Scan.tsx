import { useRef, useState } from 'react'
import { Complaint } from '../../components/Page'

/** The code that a label says: by itself, or at the end of the address that it opens. */
const codeOf = (text: string) => (/\/specimens\/([^/?#]+)/.exec(text)?.[1] ?? text).trim().toUpperCase()

/** The decoder is loaded when it is first needed. */
const reader = async () => new (await import('@zxing/browser')).BrowserQRCodeReader()

/** A label is scanned by the camera, read off a photograph of it, or typed. */
export function Scan({ take }: { take: (code: string) => void }) {
  const [typed, setTyped] = useState('')
  const [wrong, setWrong] = useState('')
  const [live, setLive] = useState(false)
  const video = useRef<HTMLVideoElement>(null)
  const stop = useRef<() => void>(undefined)
  const found = (text: string) => {
    setWrong('')
    setTyped('')
    take(codeOf(text))
  }
  const end = () => {
    stop.current?.()
    stop.current = undefined
    setLive(false)
  }
  const scan = async () => {
    setWrong('')
    setLive(true)
    try {
      const controls = await (
        await reader()
      ).decodeFromConstraints({ video: { facingMode: 'environment' } }, video.current ?? undefined, (result) => {
        if (!result) return
        end()
        found(result.getText())
      })
      stop.current = () => controls.stop()
    } catch (e) {
      end()
      setWrong(
        `The camera cannot be used (${e instanceof Error ? e.message : String(e)}); photograph the label, or type it.`,
      )
    }
  }
  const photograph = async (file: File) => {
    setWrong('')
    const url = URL.createObjectURL(file)
    try {
      found((await (await reader()).decodeFromImageUrl(url)).getText())
    } catch {
      setWrong('No code was found on that photograph; come nearer, or type what the label says.')
    } finally {
      URL.revokeObjectURL(url)
    }
  }
  // Browsers give a camera stream to trusted, encrypted pages alone.
  const canStream = window.isSecureContext && 'mediaDevices' in navigator
  return (
    <section className="sheet grid gap-3" aria-label="Scan a label">
      <form
        className="flex flex-wrap items-end gap-2"
        onSubmit={(e) => {
          e.preventDefault()
          if (typed.trim()) found(typed)
        }}
      >
        <label className="min-w-40 flex-1 text-sm font-semibold">
          Label of a copy
          <input
            className="input num font-normal"
            autoComplete="off"
            autoCapitalize="characters"
            value={typed}
            onChange={(e) => setTyped(e.target.value)}
          />
        </label>
        <button className="button" disabled={typed.trim() === ''}>
          Take it
        </button>
      </form>
      <div className="flex flex-wrap gap-2">
        {canStream && (
          <button className="button button-main" onClick={() => (live ? end() : void scan())}>
            {live ? 'Stop the camera' : 'Scan with the camera'}
          </button>
        )}
        <label className={canStream ? 'button' : 'button button-main'}>
          Photograph the label
          <input
            type="file"
            accept="image/*"
            capture="environment"
            className="sr-only"
            onChange={(e) => {
              const file = e.target.files?.[0]
              if (file) void photograph(file)
              e.target.value = ''
            }}
          />
        </label>
      </div>
      <video
        ref={video}
        className={live ? 'w-full border border-line' : 'hidden'}
        muted
        playsInline
        aria-label="What the camera sees"
      />
      {wrong !== '' && <Complaint>{wrong}</Complaint>}
    </section>
  )
}
