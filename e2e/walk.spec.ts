import { expect, test, type Page } from '@playwright/test'
import { boxSTL } from './mesh'

// From an empty record: two machines, settings by duplicate and change, two mixed
// plates put on record afterwards, one of them stopped and its time corrected,
// an accident, a note that changes; then every page says the same of them. The steps
// build on each other.
test.describe.configure({ mode: 'serial' })
const base = 'http://127.0.0.1:8477'

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage({ baseURL: base })
})
test.afterAll(() => page.close())

const fill = (label: string, value: string) => page.getByLabel(label, { exact: true }).first().fill(value)
const choose = (label: string, option: string) => page.getByLabel(label, { exact: true }).selectOption({ label: option })
const press = (name: string | RegExp) =>
  page
    .getByRole('button', { name, exact: typeof name === 'string' })
    .first()
    .click()

test('1 two machines, a resin and two pieces', async () => {
  for (const [name, width] of [
    ['Ossik 7', '160'],
    ['Grell Mini', '128'],
  ] as const) {
    await page.goto('/kit/machines/new')
    await fill('Name', name)
    await fill('Plate widthmm', width)
    await fill('Plate depthmm', '80')
    await fill('Height it printsmm', '160')
    await fill('Pixels along the width', String(Number(width) * 25))
    await fill('Pixels along the depth', '2000')
    await fill('Lift, first stagemm', '6')
    await page.locator('[name=lift1_mm_min]').fill('60')
    await fill('Retract, firstmm', '6')
    await page.locator('[name=retract1_mm_min]').fill('150')
    await fill('Power while printingW', '50')
    await press('Save the machine')
    await expect(page.getByRole('link', { name })).toBeVisible()
  }
  await page.goto('/kit/resins/new')
  await fill('Name', 'Plain Grey')
  await fill('or by massg', '1100')
  await fill('Densityg/ml', '1.1')
  await fill('Price of a bottle', '30')
  await press('Save the resin')
  await fill('Lot', 'A17')
  await press('Add this bottle')
  await expect(page.getByRole('cell', { name: 'A17' })).toBeVisible()
  for (const [name, size] of [
    ['Turret', 20],
    ['Lattice', 10],
  ] as const) {
    await page.goto('/kit/pieces/new')
    await page.getByLabel('Mesh file (STL, 3MF or OBJ)').setInputFiles({
      name: `${name}.stl`,
      mimeType: 'model/stl',
      buffer: Buffer.from(boxSTL(size, size, 20)),
    })
    await press('Keep this piece')
    await expect(page.getByRole('heading', { level: 1, name })).toBeVisible()
  }
})

test('2 settings: by hand once, then duplicated and changed, named and told apart', async () => {
  await page.goto('/kit?tab=settings')
  await press('Enter settings by hand')
  const form = page.getByRole('form', { name: 'Settings by hand' })
  await choose('Machine', 'Ossik 7')
  await choose('Resin', 'Plain Grey')
  await fill('A name of its own', 'out of the box')
  await fill('Exposures', '2.5')
  await press('Keep these settings')
  await expect(form).toBeHidden()
  await press(/^Duplicate and change P-01/)
  await expect(form.getByLabel('A name of its own')).toBeFocused()
  await fill('A name of its own', 'slower lift')
  await fill('Exposures', '2.4')
  await fill('lifted atmm/min', '30')
  await press('Keep these settings')
  const slower = page.getByRole('listitem').filter({ hasText: 'slower lift' })
  await expect(slower).toContainText('Changed from')
  await expect(slower).toContainText('2.5 s → 2.4 s (-4 %)')
  await expect(slower).toContainText('60 mm/min')
  await expect(slower).toContainText('30 mm/min')
  await press(/^Duplicate and change P-01/)
  await choose('Machine', 'Grell Mini')
  await fill('A name of its own', 'carried over')
  await choose('Basis', 'own, by long use')
  await press('Keep these settings')
  await expect(page.getByRole('heading', { level: 3, name: /carried over/ })).toBeVisible()
})

async function record(o: { machine: string; settings: RegExp; from: string; to: string; how: string; note: string }) {
  await page.goto('/runs/new')
  await choose('Machine', o.machine)
  await page.getByLabel('Piece', { exact: true }).selectOption({ label: 'Turret' })
  await fill('Copies', '2')
  const more = page.getByLabel('Piece 2', { exact: true })
  if ((await more.count()) === 0) await press('Another piece on this plate')
  await more.selectOption({ label: 'Lattice' })
  await fill('Copies 2', '1')
  await choose('Resin', 'Plain Grey')
  const settings = page.getByLabel('Settings', { exact: true })
  const option = await settings.locator('option').filter({ hasText: o.settings }).first().textContent()
  await settings.selectOption({ label: option! })
  await fill('Started', o.from)
  await fill('Ended', o.to)
  await page.getByLabel('How it ended').selectOption(o.how)
  await fill('Notes', o.note)
  await press('Record this print')
  await press('None of these is known')
  await press('Record this print')
}

test('3 a plate of two pieces is put on record afterwards, with a knot older than it', async () => {
  await page.goto('/')
  await press('A machine was changed')
  await choose('Machine', 'Ossik 7')
  await page.getByLabel('new film').check()
  await fill('When', '2026-09-20T08:00')
  await press('Tie this knot')
  await expect(page.getByRole('button', { name: 'A machine was changed' })).toBeVisible()
  await record({
    machine: 'M1 Ossik 7',
    settings: /slower lift/,
    from: '2026-10-02T09:00',
    to: '2026-10-02T11:30',
    how: 'finished',
    note: 'First one.',
  })
})
