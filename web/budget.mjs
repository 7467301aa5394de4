/* global URL, console, process */
// Fails when the script of a first load outgrows its budget: the entry and
// what it preloads, plus the largest view, gzipped.
import { readdirSync, readFileSync } from 'node:fs'
import { gzipSync } from 'node:zlib'

const limitBytes = 250_000
const dist = new URL('../internal/api/ui/dist/', import.meta.url)
const size = (file) => gzipSync(readFileSync(new URL(file, dist))).length
const html = readFileSync(new URL('index.html', dist), 'utf8')
const first = [...html.matchAll(/(?:src|href)="\/(assets\/[^"]+\.js)"/g)].map((m) => m[1])
if (first.length === 0) throw new Error('index.html loads no script; is the front end built?')
const rest = readdirSync(new URL('assets/', dist)).filter((f) => f.endsWith('.js') && !first.includes(`assets/${f}`))
const entry = first.reduce((sum, f) => sum + size(f), 0)
// Every other chunk at once is more than any one view loads.
const all = entry + rest.reduce((sum, f) => sum + size(`assets/${f}`), 0)
console.log(`script, gzipped: entry ${entry} bytes, with every view ${all} bytes; first load may be ${limitBytes}`)
if (all > limitBytes) process.exit(1)
