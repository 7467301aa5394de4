import { existsSync } from 'node:fs'

const withoutWindow = '/usr/bin/chromium-headless-shell'

/** Debian's Chromium: the one without a window of its own where it is installed, which opens pages in half of the time. */
export const chromiumPath = process.env.CHROMIUM ?? (existsSync(withoutWindow) ? withoutWindow : '/usr/bin/chromium')
