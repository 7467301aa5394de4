import { expect, test, type Page } from './clock'
import { axeFinds } from './axe'
import { bench } from './bench'
import { layerPNG, zipOf } from './stack'

// A sliced print is laid beside a print and beside its settings, and goes out with the review.
test.describe.configure({ mode: 'serial' })
const base = 'http://127.0.0.1:8487'

let page: Page
test.beforeAll(async ({ browser, request }) => {
  await bench(request, base)
  page = await browser.newPage({ baseURL: base })
})
test.afterAll(() => page.close())

const press = (name: string | RegExp) =>
  page
    .getByRole('button', { name, exact: typeof name === 'string' })
    .first()
    .click()

/** Eight towers of 20 mm on the panel of the bench; from layer 21 on, a speck hangs in the air. */
function towers(settings: string) {
  const lit = [500, 1375, 2250, 3125].flatMap((x) => [625, 1500].map((y) => ({ x, y, wide: 500, high: 500 })))
  const [plain, speck] = [lit, [...lit, { x: 60, y: 60, wide: 5, high: 4 }]].map((l) => layerPNG(4000, 2250, l))
  const layers = Array.from({ length: 40 }, (_, i) => ({
    name: `cut/${String(i + 1).padStart(4, '0')}.png`,
    body: (i < 20 ? plain : speck)!,
  }))
  return zipOf([
    ...layers,
    { name: 'settings.txt', body: Buffer.from(settings) },
    { name: 'cover.png', body: layerPNG(9, 9, []) },
  ])
}

const chooseFile = (buffer: Buffer, name = 'eight towers.zip') =>
  page
    .getByLabel('Sliced file', { exact: true })
    .locator('input[type=file]')
    .setInputFiles({ name, mimeType: 'application/zip', buffer })

test('1 a sliced file beside a print: its solid, what hangs in the air, where it differs', async () => {
  await page.goto('/')
  await page.getByRole('link', { name: /^Planned: T-01 Eight towers/ }).click()
  await page.getByRole('link', { name: 'Prepare the print' }).click()
  await press('Prepare it')
  await expect(page.getByRole('heading', { level: 1, name: /^R-001: 8 × Tower/ })).toBeVisible()
  await chooseFile(Buffer.from('something else'), 'other.bin')
  const sliced = page.getByLabel('Sliced file', { exact: true })
  await expect(sliced.getByRole('alert')).toContainText(
    'other.bin: file is no container that is read here: send a zip file',
  )
  await chooseFile(towers('layer height = 0.05 mm\nexposure = 2.2 s\nbottom layers = 5\nsupport tip = 0.3\n'))
  await expect(sliced).toContainText('40 layers of 50 µm: 2 mm high, 6.4 ml; the largest area is 3200 mm² in layer 21')
  await expect(sliced).toContainText('In 1 layer something begins with nothing under it, first in layer 21.')
  const row = (what: string) =>
    sliced.getByRole('row').filter({ has: page.getByRole('rowheader', { name: what, exact: true }) })
  await expect(row('exposure')).toContainText('2.2 s2.5 s✗ differs')
  await expect(row('layer height')).toContainText('50 µm50 µm✓ agrees')
  await expect(row('height')).toContainText('18 mm lower than its tallest piece')
  await expect(row('transition layers')).toContainText('The file does not say it.')
  await sliced.getByText('Its hash, all values that it names').click()
  await expect(sliced).toContainText('support tip')
  await expect(sliced).toContainText('Not read: cover.png.')
  expect(await axeFinds(page)).toEqual([])
  const csv = page.waitForEvent('download')
  await sliced.getByRole('link', { name: 'Layer by layer as CSV' }).click()
  expect((await csv).suggestedFilename()).toBe('eight towers-layers.csv')
})

test('2 another one is laid beside it, taken back by keyboard, and both stay over a reload', async () => {
  const sliced = page.getByLabel('Sliced file', { exact: true })
  await sliced.getByLabel('A note').fill('with the lift of last week')
  await chooseFile(towers('exposure = 2.5 s'), 'anew.zip')
  await expect(sliced).toContainText('with the lift of last week')
  await expect(sliced.getByLabel('A note')).toHaveValue('')
  await expect(sliced.locator('summary').filter({ hasText: 'anew.zip' })).toBeVisible()
  await sliced.getByRole('button', { name: 'Take back anew.zip' }).press('Enter')
  await page.keyboard.type('the wrong file')
  await page.keyboard.press('Enter')
  await expect(sliced).toContainText('Taken back: the wrong file')
  await page.reload()
  await expect(sliced).toContainText('Taken back: the wrong file')
  await expect(sliced).toContainText('eight towers.zip')
})

test('3 beside settings, and out with the review', async ({ request }) => {
  await page.goto('/kit?tab=settings')
  await press(/^Sliced file of/)
  await chooseFile(towers('bottom layers = 6'), 'default.zip')
  await expect(page.getByLabel('Sliced file', { exact: true })).toContainText('One value differs from the record.')
  expect(await axeFinds(page)).toEqual([])
  const [machine, resin, piece] = await Promise.all(
    ['machines', 'resins', 'pieces'].map(async (kind) => {
      const [first] = (await (await request.get(`${base}/api/v1/${kind}`)).json()) as Record<string, { id: string }>[]
      return first![kind.slice(0, -1)]!.id
    }),
  )
  const review = await request.post(`${base}/api/v1/reviews`, {
    data: {
      question: 'Does it print what was sliced?',
      readers: '',
      policy: 'maker_default',
      disclosure: '',
      verdict: '',
      not_tested: '',
      under_test: [],
      machine_ids: [machine],
      resin_ids: [resin],
      piece_ids: [piece],
    },
  })
  const { id } = (await review.json()) as { id: string }
  const text = await (await request.get(`${base}/api/v1/reviews/${id}/write-up.md`)).text()
  expect(text).toContain('### Sliced files')
  expect(text).toMatch(/R-001: eight towers\.zip \(SHA-256 [0-9a-f]{64}\)\. 40 layers of 50 µm/)
  expect(text).toContain('exposure 2.2 s, on record 2.5 s')
  expect(text).not.toContain('anew.zip')
})
