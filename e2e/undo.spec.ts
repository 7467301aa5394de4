import { expect, test, type Page } from './clock'
import { axeFinds } from './axe'
import { bench } from './bench'

// What was entered by mistake is undone within minutes, from any page and in any window; what was changed long ago is
// put back from the history.
test.describe.configure({ mode: 'serial' })
const base = 'http://127.0.0.1:8488'

let page: Page
test.beforeAll(async ({ browser, request }) => {
  await bench(request, base)
  page = await browser.newPage({ baseURL: base })
})
test.afterAll(() => page.close())

const recent = () => page.getByRole('dialog', { name: 'Done in the last minutes' })
const openRecent = () => page.getByRole('button', { name: 'Undo', exact: true }).first().click()

test('1 outcomes are undone by keyboard, shown at once, and done again', async ({ browser }) => {
  await page.goto('/')
  await page.getByRole('link', { name: /^Planned: T-01 Eight towers/ }).click()
  await page.getByRole('link', { name: 'Prepare the print' }).click()
  await page.getByRole('button', { name: 'Prepare it', exact: true }).click()
  await expect(page.getByRole('heading', { level: 1, name: /^R-001/ })).toBeVisible()
  await page.getByRole('button', { name: 'All whole', exact: false }).first().click()
  await expect(page.getByLabel('S-001-01, outcome')).toHaveValue('whole')

  const other = await browser.newPage({ baseURL: base })
  await other.goto(page.url())
  await expect(other.getByLabel('S-001-01, outcome')).toHaveValue('whole')
  await page.getByRole('button', { name: 'Undo', exact: true }).focus()
  await page.keyboard.press('Enter')
  await expect(recent()).toContainText('Say what became of the specimens: S-001-01')
  expect(await axeFinds(page)).toEqual([])
  await recent()
    .getByRole('button', { name: /^Undo Say what became of the specimens/ })
    .press('Enter')
  await expect(recent()).toContainText('Undo: Say what became of the specimens')
  await page.keyboard.press('Escape')
  await expect(page.getByLabel('S-001-01, outcome')).toHaveValue('pending')
  await expect(other.getByLabel('S-001-01, outcome')).toHaveValue('pending')
  await other.close()

  await openRecent()
  await recent()
    .getByRole('button', { name: /^Undo Undo: Say what became of the specimens/ })
    .click()
  await expect(recent()).toContainText('Do again: Say what became of the specimens')
  await page.keyboard.press('Escape')
  await expect(page.getByLabel('S-001-01, outcome')).toHaveValue('whole')
})

test('2 what something rests on is not undone, and says so', async () => {
  await openRecent()
  await recent()
    .getByRole('button', { name: /^Undo Prepare a print/ })
    .click()
  await expect(recent().getByRole('alert')).toContainText(/undo that first/)
  await page.keyboard.press('Escape')
  await expect(page.getByRole('heading', { level: 1, name: /^R-001/ })).toBeVisible()
})

test('3 a changed machine is put back from its own history, with a reason', async () => {
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Ossik 7' }).click()
  await page.getByLabel('Name', { exact: true }).fill('Ossik 77')
  await page.getByRole('button', { name: /^Save/ }).click()
  await page.getByRole('link', { name: 'Ossik 77' }).click()
  const history = page.getByLabel('History')
  await expect(history).toContainText('name: Ossik 7 → Ossik 77')
  await history.getByRole('button', { name: /^Put M1 as before/ }).press('Enter')
  await page.keyboard.type('a slip of the finger')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: 'Ossik 7', exact: true })).toBeVisible()
  await expect(history).toContainText('name: Ossik 77 → Ossik 7')
  // The change before it cannot be put back again: its field was changed since.
  await history
    .getByRole('button', { name: /^Put M1 as before/ })
    .last()
    .click()
  await history.getByRole('button', { name: 'Put back', exact: true }).click()
  await expect(history.getByRole('alert')).toContainText('its name was changed again since')
})

test('4 all changes, those of a kind, and what was undone', async () => {
  await page.goto('/changes')
  const list = page.getByLabel('Changes')
  await expect(list).toContainText('Undo: Say what became of the specimens')
  await page.getByRole('combobox', { name: 'Of', exact: true }).selectOption('Machines')
  await expect(list).not.toContainText('Say what became')
  await expect(list.getByRole('link', { name: 'M1' }).first()).toBeVisible()
  // The record was backed up by itself meanwhile.
  const safe = page.getByRole('region', { name: 'Safekeeping' })
  await expect(safe).toContainText('every 1 h, each checked; 7 backups kept.')
  await expect(safe.getByRole('listitem').first()).toContainText(/ojime-\d{8}-\d{6}\.zip, \d/)
  expect(await axeFinds(page)).toEqual([])
})
