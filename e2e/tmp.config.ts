import { defineConfig } from '@playwright/test'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'

// Every worker process reads this file; the folder is made once and handed on.
process.env.OJIME_E2E_DATA ??= mkdtempSync(join(tmpdir(), 'ojime-e2e-'))
const data = process.env.OJIME_E2E_DATA

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
    trace: 'retain-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
