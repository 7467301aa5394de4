import { defineConfig } from '@playwright/test'
import { execFileSync } from 'node:child_process'
import { cpSync, mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromiumPath } from './chromium.mjs'

// The tests live at an instant of their own, so that they say the same on every day. Another one is set
// from outside, and an empty one stands for this computer's time.
process.env.OJIME_NOW ??= '2026-11-25T14:05:00Z'
process.env.OJIME_E2E_AHEAD_MS ??= String(process.env.OJIME_NOW ? Date.parse(process.env.OJIME_NOW) - Date.now() : 0)

// Every worker process reads this file; the folder is made once and handed on.
process.env.OJIME_E2E_DATA ??= filled()
const data = process.env.OJIME_E2E_DATA

/** A folder that holds the demo often, made once: filling it takes longer than all servers to start. */
function filled(): string {
  const made = mkdtempSync(join(tmpdir(), 'ojime-e2e-'))
  execFileSync('../bin/ojime', ['demo', '--fill-only', '--data', join(made, 'demo')], { cwd: import.meta.dirname })
  for (const copy of ['reviews', 'seen', 'panels', 'verdict', 'going-out', 'door'])
    cpSync(join(made, 'demo'), join(made, copy), { recursive: true })
  return made
}

const serve = (command: string, folder: string, port: number) => ({
  command: `../bin/ojime ${command} --addr 127.0.0.1:${port} --data ${join(data, folder)}`,
  url: `http://127.0.0.1:${port}/healthz`,
  reuseExistingServer: false,
})

export default defineConfig({
  testDir: '.',
  timeout: 240_000,
  // A busy machine with two cores may take its time; nothing is timed here.
  expect: { timeout: 40_000 },
  workers: 2,
  reporter: [['list']],
  use: {
    baseURL: 'http://127.0.0.1:8471',
    viewport: { width: 1280, height: 800 },
    timezoneId: 'UTC',
    // Traces slow every step down by a quarter: TRACE=1 keeps those of what fails.
    trace: process.env.TRACE ? 'retain-on-failure' : 'off',
    launchOptions: {
      executablePath: chromiumPath,
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        // A name that is no loopback: what came from there over plain HTTP is not trusted.
        '--host-resolver-rules=MAP bench.test 127.0.0.2',
      ],
    },
  },
  // An empty record for the whole job, a second to import into, the demo to look at, empty ones to plan, to print, to err, to walk, to experiment, to measure, to endure, to compare, to slice, to undo, to unpack, to begin from and to count in, and demos whose reviews are worked on and whose specimens are looked at.
  webServer: [
    serve('serve', 'empty', 8471),
    serve('serve', 'second', 8472),
    serve('demo', 'demo', 8473),
    serve('serve', 'plan', 8474),
    serve('serve', 'print', 8475),
    serve('serve', 'trust', 8476),
    serve('serve', 'walk', 8477),
    serve('demo', 'reviews', 8478),
    serve('demo', 'seen', 8491),
    serve('demo', 'panels', 8492),
    serve('demo', 'verdict', 8494),
    serve('demo', 'going-out', 8495),
    // Another address of the loopback stands for the network.
    {
      command: `echo four words on a door | ../bin/ojime passphrase --data ${join(data, 'door')} && ../bin/ojime serve --addr 127.0.0.2:8493 --host bench.test --data ${join(data, 'door')}`,
      url: 'http://127.0.0.2:8493/healthz',
      reuseExistingServer: false,
    },
    serve('serve', 'experiment', 8479),
    serve('serve', 'measure', 8480),
    serve('serve', 'endure', 8481),
    serve('serve', 'sides', 8482),
    serve('serve', 'tables', 8486),
    serve('serve', 'sliced', 8487),
    serve(`serve --backup-to ${join(data, 'safe')} --backup-every 1h`, 'undo', 8488),
    serve('serve', 'first-days', 8489),
    serve('serve', 'templates', 8490),
    serve('serve', 'first-start', 8496),
    serve('serve', 'count-settings', 8483),
    serve('serve', 'count-resins', 8484),
    serve('serve', 'count-pieces', 8485),
  ],
})
