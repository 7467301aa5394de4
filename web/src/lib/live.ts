import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { isOwn } from './command'
import { takeReading, type SentReading } from './reading'
import { refresh } from './touch'

/** How long a word about a reading stays, in ms. */
const shownFor = 6000

/**
 * Reads anew whatever a page shows when the record changes, here or in another window, and takes readings that
 * devices send into the field in hand. Returns what became of the last one.
 */
export function useLiveRecord() {
  const client = useQueryClient()
  const [told, setTold] = useState('')
  useEffect(() => {
    const stream = new EventSource('/api/v1/events')
    let lost = false
    stream.addEventListener('error', () => {
      lost = true
    })
    // What happened while nothing was heard is not told again.
    stream.addEventListener('open', () => {
      if (lost) void client.invalidateQueries()
      lost = false
    })
    stream.addEventListener('change', (e: MessageEvent<string>) => {
      const { of, by } = JSON.parse(e.data) as { of: string[]; by: string }
      if (!isOwn(by)) refresh(client, of)
    })
    stream.addEventListener('reading', (e: MessageEvent<string>) => {
      const said = takeReading(JSON.parse(e.data) as SentReading)
      if (said) setTold(said)
    })
    return () => stream.close()
  }, [client])
  useEffect(() => {
    if (!told) return
    const fade = setTimeout(() => setTold(''), shownFor)
    return () => clearTimeout(fade)
  }, [told])
  return told
}
