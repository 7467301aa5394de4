import { expect, test, type Page } from '@playwright/test'
import { axeFinds } from './axe'
import { bench } from './bench'

// The first days with a machine: what came in the box, what must come off before the first print, how open it is.
test.describe.configure({ mode: 'serial' })
const base = 'http://127.0.0.1:8489'

let page: Page
test.beforeAll(async ({ browser, request }) => {
  await bench(request, base)
  page = await browser.newPage({ baseURL: base })
})
test.afterAll(() => page.close())

const unit = () => page.getByRole('region', { name: 'The very unit' })
const row = (name: string) => unit().getByRole('group', { name, exact: true })

test('1 a machine is unpacked from an empty file, what is usual comes by itself', async () => {
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Ossik 7' }).click()
  await expect(unit()).toContainText('What came in the box is not on record')
  await unit().getByText('Unpack it').click()
  await unit().getByLabel('How it came').selectOption('lent')
  await unit().getByLabel('Received on').fill('2026-09-01')
  await unit().getByLabel('Revision').fill('B')
  await unit().getByLabel('Mass').fill('9,4')
  await unit()
    .getByRole('button', { name: /^Begin with the usual.*In the box/ })
    .click()
  await row('thing 1').getByLabel('Found').selectOption('there')
  await row('thing 4').getByLabel('Found').selectOption('missing')
  await unit()
    .getByRole('button', { name: /^Begin with the usual.*Films and locks/ })
    .click()
  await row('film or lock 3').getByRole('button', { name: 'Remove' }).click()
  await row('film or lock 2').getByLabel('it stays on').check()
  await unit()
    .getByRole('button', { name: /^Begin with the usual.*How open it is/ })
    .click()
  await row('fact 1').getByLabel('Answer').selectOption('yes')
  await unit().getByRole('button', { name: 'Add a question' }).click()
  await row('question 1').getByLabel('About').fill('the scraper')
  await row('question 1').getByLabel('Asked').fill('2026-09-02T09:00')
  await row('question 1').getByLabel('Answered').fill('2026-09-01T09:00')
  expect(await axeFinds(page)).toEqual([])
  await unit().getByRole('button', { name: 'Keep the unit file' }).click()
  // What was typed stays where it is refused.
  await expect(row('question 1').getByRole('alert')).toContainText('lies before the question')
  await row('question 1').getByLabel('Answered').fill('2026-09-03T11:00')
  await unit().getByRole('button', { name: 'Keep the unit file' }).click()
  await expect(unit()).toContainText('a unit on loan, revision B')
  await expect(unit()).toContainText('1 of 11 things there; missing: scraper; 9 not looked for')
  await expect(unit()).toContainText('asked 1 time, answered 1 after 26 h, solved 0')
})

test('2 the first print waits for films to be confirmed', async () => {
  await page.goto('/')
  await page.getByRole('link', { name: /^Planned: T-01 Eight towers/ }).click()
  await page.getByRole('link', { name: 'Prepare the print' }).click()
  await page.getByRole('button', { name: 'Prepare it', exact: true }).click()
  await expect(page.getByText('Ossik 7 (a unit on loan, revision B)')).toBeVisible()
  const preflight = page.getByLabel('Preflight')
  await expect(preflight).toContainText('take off: film on the panel; keep on: film under the vat')
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Ossik 7' }).click()
  await unit().getByRole('button', { name: 'It is off: film on the panel' }).press('Enter')
  await expect(unit().getByRole('button', { name: 'It is off: film on the panel' })).toBeHidden()
  await unit().getByRole('button', { name: 'It stays on: film under the vat' }).click()
  await expect(unit().getByRole('group', { name: 'Before the first print' })).toBeHidden()
  await page.goto('/runs')
  await page.getByRole('link', { name: /R-001/ }).first().click()
  await expect(preflight).toBeVisible()
  await expect(preflight).not.toContainText('Films and locks')
})

test('3 it is levelled, its first layer verifies that, and a move ends it', async () => {
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Ossik 7' }).click()
  const levelling = page.getByRole('region', { name: 'Levelling' })
  await expect(levelling).toContainText('When it was levelled is not on record.')
  await levelling.getByText('Level it').click()
  await levelling.getByLabel('How it is levelled').fill('four screws and a card')
  for (const [corner, mm] of [
    ['back left', '-0,08'],
    ['back right', '0'],
    ['front left', '0,12'],
    ['front right', '0,05'],
  ]) {
    await levelling.getByLabel(`before, ${corner}, mm`).fill(mm!)
    await levelling.getByLabel(`after, ${corner}, mm`).fill('0,01')
  }
  await levelling.getByLabel('incident').uncheck()
  expect(await axeFinds(page)).toEqual([])
  await levelling.getByRole('button', { name: 'It is levelled' }).click()
  await expect(levelling).toContainText(
    'corners within 0.2 mm before; corners within 0 mm after; first layer not looked at',
  )
  await levelling.getByLabel('How it was looked at').fill('twelve discs')
  await levelling.getByRole('button', { name: 'even', exact: true }).press('Enter')
  await expect(levelling).toContainText('by an even first layer, and nothing happened since')
  // What it begins with the next time is what was said this time.
  await levelling.getByText('Level it').click()
  await expect(levelling.getByLabel('How it is levelled')).toHaveValue('four screws and a card')
  await expect(levelling.getByLabel('incident')).not.toBeChecked()
  await page.goto('/')
  await page.getByLabel('What happened, in one line').fill('moved Ossik to the shelf')
  await expect(page.getByText(/^Ossik 7.*moved/i).first()).toBeVisible()
  await page.keyboard.press('Enter')
  await expect(page.getByRole('form', { name: 'What happened' })).toContainText('Kept:')
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Ossik 7' }).click()
  await expect(levelling).toContainText('ended since by: move')
})

test('4 a piece on the computer: a clock, a crash, and the next version', async () => {
  await page.goto('/kit?tab=pieces')
  await page.getByRole('link', { name: 'Tower' }).click()
  const computer = page.getByRole('region', { name: 'On the computer' })
  await computer.getByRole('button', { name: 'Start the clock' }).press('Enter')
  await expect(computer.getByRole('button', { name: /^Stop/ })).toContainText('1 s')
  await computer.getByRole('button', { name: /^Stop/ }).click()
  await expect(computer.getByLabel('Took')).not.toHaveValue('')
  await computer.getByLabel('Program', { exact: true }).fill('Carver')
  await computer.getByRole('textbox', { name: 'Version' }).fill('2')
  await computer.getByRole('button', { name: 'Keep this step' }).click()
  await expect(computer.getByLabel('Steps so far')).toContainText('import with Carver 2')
  // The next step stands ready; what stays the same stays.
  await expect(computer.getByLabel('Step', { exact: true })).toHaveValue('orient')
  await expect(computer.getByLabel('Program', { exact: true })).toHaveValue('Carver')
  await computer.getByLabel('Step', { exact: true }).selectOption('slice')
  await computer.getByLabel('How it ended').selectOption('crash')
  await computer.getByRole('button', { name: 'Keep this step' }).click()
  await expect(computer.getByRole('alert').first()).toContainText('say what went wrong')
  await computer.getByLabel('What went wrong').fill('the window closed')
  await computer.getByRole('button', { name: 'Keep this step' }).click()
  await expect(computer).toContainText('To be tried again with the next version.')
  await computer.getByLabel('Step', { exact: true }).selectOption('slice')
  await computer.getByRole('textbox', { name: 'Version' }).fill('3')
  await computer.getByLabel('Took').fill('52 s')
  await computer.getByRole('button', { name: 'Keep this step' }).click()
  await expect(computer).toContainText('Tried again with 3: done.')
  await expect(computer).toContainText('1 of 2')
  expect(await axeFinds(page)).toEqual([])
  await computer.getByRole('link', { name: 'All programs and versions' }).click()
  await expect(page.getByLabel('What failed')).toContainText('Tower')
  expect(await axeFinds(page)).toEqual([])
})
