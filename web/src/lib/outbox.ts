import { openDB, type DBSchema, type IDBPDatabase } from 'idb'
import { useEffect, useState } from 'react'
import { commandHeader } from './command'
import { newID } from './id'
import type { Problem } from './api'

/** Something entered, on its way to the bench. Its id is the command's: sent twice, it is done once. */
export interface Entry {
  id: string
  at: number
  says: string
  method: 'POST' | 'PUT'
  path: string
  body?: string
  form?: [name: string, value: string | Blob, fileName?: string][]
  /** Why the bench refused it; it waits for somebody to look. */
  refused?: string
  /** The bench asks whether a value is right, and keeps it once that is said. */
  questioned?: boolean
}

interface Kept extends DBSchema {
  entries: { key: string; value: Entry; indexes: { at: number } }
  known: { key: string; value: { key: string; at: number; value: unknown } }
}

let opened: Promise<IDBPDatabase<Kept>> | undefined
const db = () =>
  (opened ??= openDB<Kept>('ojime', 1, {
    upgrade(d) {
      d.createObjectStore('entries', { keyPath: 'id' }).createIndex('at', 'at')
      d.createObjectStore('known', { keyPath: 'key' })
    },
  }))

/** How the sending stands: what waits, and why nothing is sent. */
export interface Standing {
  entries: Entry[]
  state: 'quiet' | 'sending' | 'away' | 'outside'
}

let standing: Standing = { entries: [], state: 'quiet' }
const listeners = new Set<(s: Standing) => void>()
async function tell(state: Standing['state']) {
  standing = { entries: await (await db()).getAllFromIndex('entries', 'at'), state }
  for (const l of listeners) l(standing)
}

let kept: (path: string) => void = () => undefined
/** Says who wants to hear of what the bench has kept. */
export const onKept = (listen: (path: string) => void) => {
  kept = listen
}

/** Puts an entry where it survives the page, and sends what waits. */
export async function put(entry: Omit<Entry, 'id' | 'at'>) {
  await (await db()).put('entries', { ...entry, id: newID(), at: Date.now() })
  await tell(standing.state)
  void send()
}

/** Takes an entry back that was not sent, or was refused. */
export async function drop(id: string) {
  await (await db()).delete('entries', id)
  await tell(standing.state)
}

/** Sends a refused entry again: as it is, or with the word that it is right where that was asked. */
export async function retry(entry: Entry) {
  const body =
    entry.questioned && entry.body
      ? JSON.stringify({ ...(JSON.parse(entry.body) as object), confirmed: true })
      : entry.body
  // Another body is another command.
  const again = { ...entry, body, id: entry.questioned ? newID() : entry.id, refused: undefined, questioned: undefined }
  const d = await db()
  await d.delete('entries', entry.id)
  await d.put('entries', again)
  void send()
}

const formOf = (fields: NonNullable<Entry['form']>) => {
  const form = new FormData()
  for (const [name, value, fileName] of fields)
    if (value instanceof Blob) form.append(name, value, fileName)
    else form.append(name, value)
  return form
}

const post = (e: Entry) =>
  fetch(e.form ? `${e.path}?job=${e.id}` : e.path, {
    method: e.method,
    headers: { [commandHeader]: e.id, ...(e.form ? {} : { 'Content-Type': 'application/json' }) },
    body: e.form ? formOf(e.form) : e.body,
  })

/** One after the other, in the order in which they were entered; a lost connection ends it until it is back. */
async function sendAll(): Promise<Standing['state']> {
  const d = await db()
  for (;;) {
    const entry = (await d.getAllFromIndex('entries', 'at')).find((e) => e.refused === undefined)
    if (!entry) return 'quiet'
    await tell('sending')
    let answer: Response
    try {
      answer = await post(entry)
    } catch {
      return 'away'
    }
    const problem = answer.ok ? undefined : ((await answer.json().catch(() => ({}))) as Problem)
    if (answer.ok || problem?.type === 'urn:ojime:done') {
      await d.delete('entries', entry.id)
      kept(entry.path)
    } else if (answer.status === 401) return 'outside'
    else if (answer.status >= 500 || answer.status === 429) return 'away'
    else
      await d.put('entries', {
        ...entry,
        refused: problem?.detail ?? answer.statusText,
        questioned: problem?.type === 'urn:ojime:questioned',
      })
  }
}

let busy: Promise<void> | undefined
/** Sends what waits; one at a time, however often it is asked for, and over windows of the same browser too. */
export function send(): Promise<void> {
  busy ??= (async () => {
    const locks = (navigator as { locks?: LockManager }).locks // not in every page
    const state = locks ? await locks.request('ojime-outbox', sendAll) : await sendAll()
    await tell(state)
  })().finally(() => {
    busy = undefined
  })
  return busy
}

/** How often what waits is tried again, in ms. */
const tryAgainAfter = 4000

/** What waits, and how the sending stands, for as long as a page shows it. */
export function useOutbox(): Standing {
  const [s, set] = useState(standing)
  useEffect(() => {
    listeners.add(set)
    const back = () => void send()
    back()
    window.addEventListener('online', back)
    const again = setInterval(() => {
      if (standing.state !== 'quiet' || standing.entries.some((e) => e.refused === undefined)) back()
    }, tryAgainAfter)
    return () => {
      listeners.delete(set)
      window.removeEventListener('online', back)
      clearInterval(again)
    }
  }, [])
  return s
}

/** How many answers are kept for when the network is away. */
const mostKnown = 60

/** Reads from the bench, and, where it is away, what it said last. */
export async function remembered<T>(key: string, ask: () => Promise<T>, isAway: (e: unknown) => boolean): Promise<T> {
  const d = await db()
  try {
    const value = await ask()
    await d.put('known', { key, at: Date.now(), value })
    const all = await d.getAll('known')
    for (const old of all.sort((a, b) => b.at - a.at).slice(mostKnown)) await d.delete('known', old.key)
    return value
  } catch (e) {
    const before = isAway(e) ? await d.get('known', key) : undefined
    if (!before) throw e
    return before.value as T
  }
}
