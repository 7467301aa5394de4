import { expect, type Page } from './clock'

/** What a user does often on the way from an empty record to a result, on one page. */
export type Steps = ReturnType<typeof stepsOn>

export function stepsOn(page: Page) {
  const fill = (label: string, value: string) => page.getByLabel(label, { exact: true }).first().fill(value)
  const press = (name: string) => page.getByRole('button', { name, exact: true }).click()
  const open = (name: string) => page.getByRole('link', { name, exact: true }).first().click()

  async function enterMachine(name: string, width: string, depth: string, px: [string, string]) {
    await page.goto('/kit/machines/new')
    await fill('Name', name)
    await fill('Plate widthmm', width)
    await fill('Plate depthmm', depth)
    await fill('Height it printsmm', '160')
    await fill('Pixels along the width', px[0])
    await fill('Pixels along the depth', px[1])
    await fill('Lift, first stagemm', '6')
    await page.locator('[name=lift1_mm_min]').fill('60')
    await fill('Retract, firstmm', '6')
    await page.locator('[name=retract1_mm_min]').fill('150')
    await fill('Vat, fullml', '250')
    await fill('Power while printingW', '50')
    await fill('List price', '300')
  }

  async function dialIn(machine: string, from: string, cells: [string, string, string, string][]) {
    await page.goto('/dial-in/new')
    await page.getByLabel('Machine', { exact: true }).selectOption({ label: machine })
    await page.getByLabel('Resin', { exact: true }).selectOption({ label: 'Plain Grey' })
    await fill('First exposures', from)
    await fill('Steps', '0,4')
    await fill('Cells', '4')
    await press('Plan these cells')
    await expect(page.getByRole('heading', { name: new RegExp(machine) })).toBeVisible()
    for (const [i, [pin, gap, outer, inner]] of cells.entries()) {
      // By keyboard alone: Enter goes from box to box, and from the last keeps the cell.
      await page.getByLabel(`Cell ${i + 1}, came off whole`).selectOption('yes')
      await page.getByLabel(`Cell ${i + 1}, came off whole`).press('Enter')
      for (const value of [pin, gap, outer, inner, '10', '10']) {
        await page.keyboard.type(value)
        await page.keyboard.press('Enter')
      }
      await expect(page.getByRole('button', { name: `Keep cell ${i + 1}`, exact: true })).toHaveText('Kept')
    }
  }

  async function recordRun(machine: string, first: boolean) {
    await page.goto('/runs/new')
    await page.getByLabel('Machine').selectOption({ label: machine })
    await page.getByLabel('Piece', { exact: true }).selectOption({ label: 'slab' })
    await fill('Copies', '3')
    await page.getByLabel('Resin', { exact: true }).selectOption({ label: 'Plain Grey' })
    await page.getByLabel('Bottle').selectOption({ index: 1 })
    await page.getByLabel('Settings').selectOption({ index: 1 })
    await expect(page.getByText('Our estimate').locator('..')).toContainText('100 layers')
    await fill('Started', '2026-11-01T10:00')
    await fill('Ended', '2026-11-01T10:30')
    if (first) {
      await press('Record this print')
      await expect(page.getByRole('alert').filter({ hasText: 'Still blank' })).toContainText('Film seen clouded')
      await press('None of these is known')
      await page.getByLabel('Film seen clouded: not known').uncheck()
      await page.getByLabel('Film seen clouded', { exact: true }).selectOption('no')
      for (const [label, value] of [
        ['Resin temperature°C', '23,5'],
        ['Resin used, by weightg', '11'],
        ["Software's own estimate", '25 min'],
        ['Surface when judged', 'raw'],
      ]) {
        const name = label!.replace(/(°C|g|s)$/, '')
        await page.getByLabel(`${name}: not known`).uncheck()
        const box = page.getByLabel(label!, { exact: true })
        if (value === 'raw') await box.selectOption(value)
        else await box.fill(value!)
      }
    }
    await press('Record this print')
    await expect(page.getByRole('heading', { name: /^R-00\d: 3 × slab$/ })).toBeVisible()
  }

  return { fill, press, open, enterMachine, dialIn, recordRun }
}
