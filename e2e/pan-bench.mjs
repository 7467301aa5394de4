// How long the longest task is while six photographs are panned side by side: printed, not judged. `make bench-pan`.
import { chromium } from '@playwright/test'
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromiumPath } from './chromium.mjs'

/** Six pictures of two megapixels each, drawn in the page and kept as photographs of one copy. */
async function take(of) {
  const kept = []
  for (let n = 0; n < 6; n++) {
    const canvas = new OffscreenCanvas(1732, 1155)
    const context = canvas.getContext('2d')
    for (let i = 0; i < 4000; i++) {
      context.fillStyle = `hsl(${(i * 37 + n * 60) % 360} 40% ${30 + (i % 50)}%)`
      context.fillRect((i * 7919) % 1732, (i * 104729) % 1155, 40, 40)
    }
    const form = new FormData()
    const words = { ...of, station: 'in_hand', stage: 'raw', light: 'a lamp' }
    for (const [name, value] of Object.entries(words)) form.set(name, value)
    form.set('file', await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 }), `${n}.jpg`)
    const answer = await fetch('/api/v1/photographs', { method: 'POST', body: form })
    if (!answer.ok) throw new Error(await answer.text())
    kept.push(await answer.json())
  }
  return kept
}

const base = 'http://127.0.0.1:8490'
const data = mkdtempSync(join(tmpdir(), 'ojime-pan-'))
const server = spawn('../bin/ojime', ['demo', '--addr', '127.0.0.1:8490', '--data', data], { cwd: import.meta.dirname })
const answers = async () => (await fetch(`${base}/healthz`).catch(() => undefined))?.ok
try {
  while (!(await answers())) await new Promise((done) => setTimeout(done, 500))
  const browser = await chromium.launch({
    executablePath: chromiumPath,
    args: ['--no-sandbox', '--disable-gpu'],
  })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const { lines } = await (await fetch(`${base}/api/v1/runs?most=100`)).json()
  const sheets = await Promise.all(lines.map(async (l) => (await fetch(`${base}/api/v1/runs/${l.id}`)).json()))
  const { run, specimens } = sheets.find((s) => s.stages.length === 0 && s.specimens.some((p) => p.outcome === 'whole'))
  await page.goto(base)
  const six = await page.evaluate(take, { of_id: run.id, specimen_id: specimens.find((p) => p.outcome === 'whole').id })
  await page.goto(`${base}/compare/photographs?${six.map((p) => `id=${p.id}`).join('&')}`)
  await page.waitForLoadState('networkidle')
  await page.evaluate(() => {
    window.tasks = []
    new PerformanceObserver((list) => window.tasks.push(...list.getEntries().map((e) => e.duration))).observe({
      type: 'longtask',
    })
  })
  const pane = await page.locator('main img, main canvas').first().boundingBox()
  const [x, y] = [pane.x + pane.width / 2, pane.y + pane.height / 2]
  await page.mouse.move(x, y)
  for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -240)
  await page.mouse.down()
  for (let i = 0; i < 240; i++) await page.mouse.move(x + 80 * Math.sin(i / 12), y + 50 * Math.cos(i / 9))
  await page.mouse.up()
  const tasks = await page.evaluate(() => window.tasks)
  const megapixels = six.map((p) => ((p.width_px * p.height_px) / 1e6).toFixed(1)).join(', ')
  console.log(`six photographs of ${megapixels} megapixels, 240 moves: ${tasks.length} tasks over 50 ms`)
  console.log(`the longest: ${tasks.length === 0 ? 'under 50' : Math.max(...tasks).toFixed(0)} ms`)
  await browser.close()
} finally {
  server.kill()
  rmSync(data, { recursive: true, force: true })
}
