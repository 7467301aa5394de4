/* global URL, console, process */
// Fails when the script of a first load outgrows its budget: the entry and what
// it loads at once, plus the largest view with what that loads, gzipped. What a
// view loads only when asked, such as the 3D view, is told but not counted.
import { readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'

const limitBytes = 250_000
const dist = new URL('../internal/api/ui/dist/', import.meta.url)
const manifest = JSON.parse(readFileSync(new URL('.vite/manifest.json', dist), 'utf8'))
const size = (file) => (file.endsWith('.js') ? gzipSync(readFileSync(new URL(file, dist))).length : 0)

/** The files that loading one part loads with it. */
function closure(key, seen = new Set()) {
  const part = manifest[key]
  if (seen.has(part.file)) return seen
  seen.add(part.file)
  for (const next of part.imports ?? []) closure(next, seen)
  return seen
}
const bytes = (files) => [...files].reduce((sum, f) => sum + size(f), 0)

const [entry] = Object.keys(manifest).filter((k) => manifest[k].isEntry)
const views = manifest[entry].dynamicImports ?? []
if (views.length < 10) throw new Error('the views are no longer loaded one by one')
const loads = views.map((v) => ({ v, bytes: bytes(closure(v, closure(entry))) })).sort((a, b) => b.bytes - a.bytes)
const asked = views.flatMap((v) => manifest[v].dynamicImports ?? [])
const largest = loads[0]
console.log(
  `script, gzipped: entry ${bytes(closure(entry))} bytes, largest first load ${largest.bytes} (${largest.v}); it may be ${limitBytes}`,
)
for (const a of asked) console.log(`  when asked: ${a} ${bytes(closure(a))} bytes`)
if (largest.bytes > limitBytes) process.exit(1)
