import { test as plain } from '@playwright/test'
export { expect } from '@playwright/test'
export type { APIRequestContext, Browser, Locator, Page } from '@playwright/test'

/** How far the tests' time is ahead of this computer's; the configuration sets it once for all. */
const ahead = Number(process.env.OJIME_E2E_AHEAD_MS ?? 0)

/** Milliseconds of the tests' time, as the program that they run against has it. */
export const now = () => Date.now() + ahead

/** Runs in each page before its scripts: time there is that of the program. */
function shifted(by: number) {
  const Real = Date
  class Shifted extends Real {
    constructor(...given: [] | [number]) {
      if (given.length === 0) super(Real.now() + by)
      else super(...given)
    }
    static override now() {
      return Real.now() + by
    }
  }
  globalThis.Date = Shifted as DateConstructor
}

/** Tests whose pages live at the program's time, in whichever context they are opened. */
export const test = plain.extend<object, { shiftedBrowser: void }>({
  shiftedBrowser: [
    async ({ browser }, use) => {
      const open = browser.newContext.bind(browser)
      browser.newContext = async (options) => {
        const context = await open(options)
        if (ahead !== 0) await context.addInitScript(shifted, ahead)
        return context
      }
      await use()
    },
    { scope: 'worker', auto: true },
  ],
})
