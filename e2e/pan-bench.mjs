// How long the longest task is while six photographs are panned side by side: printed, not judged. `make bench-pan`.
import { chromium } from '@playwright/test'
import { spawn } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

const base = 'http://127.0.0.1:8490'
const data = mkdtempSync(join(tmpdir(), 'ojime-pan-'))
const server = spawn('../bin/ojime', ['demo', '--addr', '127.0.0.1:8490', '--data', data], { cwd: import.meta.dirname })
const answers = async () => (await fetch(`${base}/healthz`).catch(() => undefined))?.ok
try {
  while (!(await answers())) await new Promise((done) => setTimeout(done, 500))
  const browser = await chromium.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu'],
  })
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  const { lines } = await (await fetch(`${base}/api/v1/runs?most=100`)).json()
  const photographs = []
  for (const line of lines) {
    const sheet = await (await fetch(`${base}/api/v1/runs/${line.id}`)).json()
    photographs.push(...sheet.photographs)
  }
  const six = photographs.slice(0, 6)
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
