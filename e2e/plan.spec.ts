import { expect, test, type Page } from '@playwright/test'
import { boxSTL } from './mesh'

// Geometry that plans the print, from an empty record: a coupon, a series on
// one plate, an imported piece, a plate with time, resin and labels. The steps
// build on each other.
test.describe.configure({ mode: 'serial' })
const base = 'http://127.0.0.1:8474'

let page: Page
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage({ baseURL: base })
})
test.afterAll(() => page.close())

const fill = (label: string, value: string) => page.getByLabel(label, { exact: true }).first().fill(value)
const press = (name: string | RegExp) =>
  page
    .getByRole('button', { name, exact: typeof name === 'string' })
    .first()
    .click()
const open = (name: string) => page.getByRole('link', { name, exact: true }).first().click()
const figure = (label: string) => page.getByText(label, { exact: true }).locator('..')

test('1 kit: a machine that varies cells, a vat and a claim; a resin with a bottle', async () => {
  await page.goto('/kit/machines/new')
  await fill('Name', 'Ossik 7')
  await fill('Plate widthmm', '160')
  await fill('Plate depthmm', '90')
  await fill('Height it printsmm', '160')
  await fill('Pixels along the width', '4000')
  await fill('Pixels along the depth', '2250')
  await fill('Speed its maker claimsmm/h', '80')
  await page.getByLabel('Cells of one plate can differ').selectOption('together')
  await fill('Lift, first stagemm', '6')
  await page.locator('[name=lift1_mm_min]').fill('60')
  await fill('Retract, firstmm', '6')
  await page.locator('[name=retract1_mm_min]').fill('150')
  await fill('Vat, fullml', '60')
  await fill('Vat, no longer reachedml', '20')
  await fill('Film, stated lifelayers', '30000')
  await fill('Light, stated lifeh lit', '1000')
  await press('Save the machine')
  await expect(page.getByRole('link', { name: 'Ossik 7' })).toBeVisible()
  await page.goto('/kit/resins/new')
  await fill('Name', 'Plain Grey')
  await fill('Bottle by volumeml', '1000')
  await fill('Densityg/ml', '1,1')
  await fill('Price of a bottle', '30')
  await press('Save the resin')
  await fill('Lot', 'A17')
  await press('Add this bottle')
  await expect(page.getByRole('cell', { name: 'A17' })).toBeVisible()
})

test('2 coupon: nonsense is named, sizes are chosen, its features need no typing', async () => {
  await page.goto('/kit?tab=pieces')
  await open('Make a coupon')
  const made = page.getByLabel('The coupon', { exact: true })
  await expect(made).toContainText('19 things to read on it')
  await fill('Posts', '0.3 0.2')
  await expect(page.getByRole('alert')).toContainText('sizes rise')
  await fill('Posts', '0.2; 0,3 0.4')
  for (const ladder of ['Walls', 'Holes', 'Strokes', 'Peg fits']) await fill(ladder, '')
  for (const part of ['Staircase, 0.5 mm a step', 'Ramp of 45°', 'Dome, for stepping'])
    await page.getByLabel(part).uncheck()
  await expect(made).toContainText('7 things to read on it')
  await expect(made.getByRole('img')).toBeVisible()
  await press('Keep this coupon')
  await expect(page.getByRole('heading', { level: 1, name: 'Step coupon' })).toBeVisible()
  await expect(page.locator('[name="features.0.rungs"]')).toHaveValue('0.2; 0.3; 0.4')
  await expect(page.locator('[name="features.2.nominal_mm"]')).toHaveValue('12')
  await expect(figure('Open edges').or(figure('Triangles')).first()).toContainText('watertight')
})

test('3 series: all cells on one plate, numbered in order; sizes become errors', async () => {
  await page.goto('/dial-in/new')
  await page.getByLabel('Machine', { exact: true }).selectOption({ label: 'Ossik 7' })
  await page.getByLabel('Resin', { exact: true }).selectOption({ label: 'Plain Grey' })
  await fill('First exposures', '1.5')
  await fill('Steps', '0.5')
  await fill('Cells', '4')
  await fill('Bottom exposures', '30')
  await press('Plan these cells')
  await press('Lay the cells on plates')
  const plates = page.getByLabel('Coupon and plates')
  await expect(plates.getByRole('link', { name: 'E-01, all cells' })).toBeVisible()
  await expect(plates).toContainText('All 4 cells on one plate')
  await expect(plates).toContainText('25 min between plates')
  const [one, each] = await Promise.all([
    plates.getByText('All 4 cells on one plate').locator('..').locator('.num').first().textContent(),
    plates.getByText('4 plates, one a cell').locator('..').locator('.num').first().textContent(),
  ])
  const minutes = (text: string | null) => {
    const [, h, m] = /(?:(\d+) h )?(\d+) min/.exec(text ?? '') ?? []
    return 60 * Number(h ?? 0) + Number(m)
  }
  expect(minutes(one) * 3).toBeLessThan(minutes(each))

  await page.getByLabel('Cell 1, Smallest pin').fill('0.3')
  await page.getByLabel('Cell 1, Block length (12)').fill('12,04')
  await press('Keep cell 1')
  await expect(page.getByRole('row', { name: /Keep cell 1|Kept/ }).first()).toContainText('+40 µm')

  await plates.getByRole('link', { name: 'reading sheet' }).click()
  await expect(page.getByRole('heading', { name: 'Cell 4: 3 s' })).toBeVisible()
  await expect(page.getByRole('img', { name: /with 4 copies/ })).toContainText('1234')
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('button', { name: 'Print' })).toBeHidden()
  await expect(page.getByRole('heading', { name: 'Cell 1: 1.5 s' })).toBeVisible()
  await page.emulateMedia({ media: 'screen' })
  await open('Back to the plate')
  const download = page.waitForEvent('download')
  await open('3MF')
  expect((await download).suggestedFilename()).toMatch(/\.3mf$/)
})

test('4 import: a large file shows its progress and can be stopped; 3MF is read', async () => {
  await page.goto('/kit/pieces/new')
  const file = page.getByLabel('Mesh file (STL, 3MF or OBJ)')
  // The answer waits until the stop was pressed, as a large file's would.
  let release = () => {}
  const held = new Promise<void>((r) => (release = r))
  await page.route('**/api/v1/meshes/inspect*', async (route) => {
    await held
    await route.abort().catch(() => undefined)
  })
  await file.setInputFiles({ name: 'large.stl', mimeType: 'model/stl', buffer: Buffer.from(boxSTL(30, 20, 40)) })
  await expect(page.getByRole('progressbar')).toBeVisible()
  await press('Stop')
  await expect(page.getByRole('alert')).toContainText('Stopped; nothing was kept.')
  release()
  await page.unroute('**/api/v1/meshes/inspect*')

  const pieces = await (await page.request.get(`${base}/api/v1/pieces`)).json()
  const threeMF = await page.request.get(`${base}/api/v1/pieces/${pieces[0].piece.id}/export?format=3mf`)
  await file.setInputFiles({ name: 'again.3mf', mimeType: 'model/3mf', buffer: await threeMF.body() })
  await expect(page.getByLabel('What is in the file')).toContainText('3MF')
  await file.setInputFiles({ name: 'tower.stl', mimeType: 'model/stl', buffer: Buffer.from(boxSTL(30, 20, 40)) })
  await expect(page.getByLabel('What is in the file')).toContainText('30 × 20 × 40')
  await expect(figure('Contact with the plate')).toContainText('600')
  await press('Keep this piece')
  await expect(page.getByRole('heading', { level: 1, name: 'tower' })).toBeVisible()
})

test('5 piece: layers, a prediction, allowances and what eyes see', async () => {
  const layers = page.getByLabel('Layer by layer')
  await layers.getByRole('slider').fill('400')
  await expect(layers).toContainText('cut at 20.03 mm')
  await expect(layers.getByText('Solid area').locator('..')).toContainText('600')
  await layers.getByRole('combobox', { name: 'Seen' }).selectOption('3')
  await expect(layers).toContainText('Squares are the pixels of Ossik 7, 40 µm, to scale.')
  await layers.getByRole('button', { name: 'Predict how this layer is drawn' }).click()
  await expect(page.getByLabel('Prediction', { exact: true })).toContainText('Square pixels of 40 × 40 µm')
  await expect(page.getByLabel('Prediction', { exact: true }).getByRole('img')).toBeVisible()
  await layers.getByRole('button', { name: 'Turn it in 3D' }).click()
  // With or without 3D in this browser, something is shown.
  await expect(layers.locator('canvas').or(layers.getByText('a still view instead'))).toBeVisible()

  await fill('Hollowed to a wall ofmm', '2')
  await fill('Finest feature, as you know itmm', '0,15')
  await press('Save what it needs')
  // 26 × 16 × 36 mm are 15 ml.
  await expect(figure('Hollowing to 2 mm leaves out')).toContainText('15')
  await expect(page.getByLabel('What eyes can see of it')).toContainText('150 µm: 3.75 pixels')
})

test('6 plate: copies are packed, moved by key and pointer, and what is wrong is said', async () => {
  await page.goto('/plan')
  await open('Lay a plate')
  await press('Go on to the pieces')
  await expect(page.getByRole('alert').first()).toBeVisible()
  await page.goto('/kit?tab=settings')
  await press('Enter settings by hand')
  await page.getByLabel('Machine', { exact: true }).first().selectOption({ label: 'Ossik 7' })
  await page.getByLabel('Resin', { exact: true }).first().selectOption({ label: 'Plain Grey' })
  await fill('Layer heightµm', '50')
  await fill('Exposures', '2.5')
  await fill('Bottom exposures', '30')
  await page
    .getByRole('button', { name: /settings/i })
    .last()
    .click()
  await expect(page.getByText('U-01').first()).toBeVisible()

  await page.goto('/plan/new')
  await fill('Name', 'Towers')
  await page.getByLabel('Machine', { exact: true }).selectOption({ label: 'Ossik 7' })
  await page.getByLabel('Settings', { exact: true }).selectOption({ index: 1 })
  await page.getByLabel('Bottle', { exact: true }).selectOption({ index: 1 })
  await press('Go on to the pieces')
  await page.getByRole('combobox', { name: 'Piece', exact: true }).selectOption({ label: 'tower' })
  await fill('Copies', '40')
  await press('Add and lay out')
  await expect(page.getByRole('alert')).toContainText(/Does not fit: \d+ of 40/)
  const copies = page.getByRole('button', { name: /^tower \d+, at/ })
  await expect(copies.first()).toBeVisible()
  const laid = await copies.count()
  expect(laid).toBeGreaterThan(10)

  await copies.first().focus()
  await page.keyboard.press('Delete')
  await expect(copies).toHaveCount(laid - 1)
  for (let n = laid - 1; n > 6; n--) {
    await copies.last().focus()
    await page.keyboard.press('Delete')
    await expect(copies).toHaveCount(n - 1)
  }
  await copies.first().focus()
  const saved = page.waitForResponse((r) => r.request().method() === 'PUT' && r.ok())
  await page.keyboard.press('Shift+ArrowRight')
  await saved
  await expect(page.getByLabel('What is wrong on the plate')).toContainText('overlaps its neighbour')
  await press('Lay out anew')
  await expect(page.getByLabel('What is wrong on the plate')).toHaveCount(0)
  const before = await copies.last().getAttribute('aria-label')
  const box = (await copies.last().boundingBox())!
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2 - 20, { steps: 4 })
  await page.mouse.up()
  await expect(copies.last()).not.toHaveAttribute('aria-label', before!)
})

test('7 plan: time, resin, wear, claim, cost and the week follow', async () => {
  await press('Lay out anew')
  await expect(figure('To plan with')).toContainText('no finished run to put it right by')
  await expect(figure('By the timing model')).toContainText('800 layers of 10.9 s')
  await expect(page.getByText(/The vat runs dry in layer \d+/)).toBeVisible()
  await expect(page.getByText('Claimed: 80 mm/h, which leaves 2.25 s a layer.')).toBeVisible()
  await expect(page.getByText('The claim leaves 2.25 s for a layer, and the exposure alone takes 2.5 s.')).toBeVisible()
  await expect(page.getByRole('heading', { name: /^Panel: 0 % of its stated 1 000 h of light used/ })).toBeVisible()
  await expect(page.getByRole('img', { name: /Prints of a week/ })).toBeVisible()
  await fill('In the vat at the startml', '70')
  await press('Work it out again')
  await expect(figure('The vat gives')).toContainText('of 60 ml in it')
})

test('8 print: a run from the plate gives every specimen a code, a place and a label that opens it', async () => {
  await open('Print it: specimens and labels')
  await expect(page.getByText('6 copies as laid on')).toBeVisible()
  await press('Record this print')
  await press('None of these is known')
  await press('Record this print')
  await expect(page.getByRole('heading', { level: 1, name: /^R-001: tower/ })).toBeVisible()
  await open('Labels')
  await expect(page.getByRole('img', { name: 'Code that opens S-001-06' })).toBeVisible()
  await expect(page.getByRole('img', { name: /with the codes of its specimens/ })).toContainText('S-001-03')
  await page.goto('/specimens/S-001-04')
  await expect(page).toHaveURL(/inspect\/.*specimen=/)
  await page.goto('/specimens/S-999-01')
  await expect(page.getByRole('alert')).toContainText('not found')
  await page.goto('/plan')
  await open('Towers')
  await expect(page.getByText('stays as it was')).toBeVisible()
  await press('Copy it to a new plate')
  await expect(page.getByRole('heading', { level: 1, name: /Towers \(again\)/ })).toBeVisible()
})

test('9 fill: one piece and a full plate are both named', async () => {
  await page.goto('/plan/fill')
  await page.getByRole('combobox', { name: 'Piece', exact: true }).selectOption({ label: 'tower' })
  await expect(page.getByRole('row', { name: /Ossik 7, U-01/ })).toContainText('copies')
  await expect(page.getByRole('img', { name: /Minutes per piece/ })).toBeVisible()
})
