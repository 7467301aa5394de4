import { expect, test, type Page } from './clock'
import { readFile } from 'node:fs/promises'
import { axeFinds } from './axe'
import { boxSTL } from './mesh'

// Entry as tables, by keyboard and by paste, on an empty record.
test.use({ baseURL: 'http://127.0.0.1:8486' })
test.describe.configure({ mode: 'serial' })

/** Pastes a text where the keyboard is, as a spreadsheet gives it. */
const paste = (page: Page, text: string) =>
  page.evaluate((copied) => {
    const data = new DataTransfer()
    data.setData('text/plain', copied)
    const event = new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true })
    document.activeElement!.dispatchEvent(event)
  }, text)

const cell = (page: Page, label: string, row: number) => page.getByLabel(`${label}, row ${row}`, { exact: true })

test('an empty bench offers ways to begin, and shows the road', async ({ page }) => {
  await page.goto('/')
  const road = page.getByRole('region', { name: 'The road from question to result' })
  await expect(road.getByRole('listitem')).toHaveCount(11)
  await expect(road.locator('[aria-current=step]')).toContainText('State the question')
  await expect(page.getByLabel('Import a record into an empty one')).toBeVisible()
  await expect(page.getByText('ojime demo --data demo')).toBeVisible()
  expect(await axeFinds(page)).toEqual([])
  await page.getByRole('link', { name: 'State your question' }).click()
  await page.getByLabel('Question', { exact: true }).fill('Which for busts?')
  await page.getByRole('button', { name: 'Save the review' }).click()
  await expect(page.getByRole('heading', { name: 'Which for busts?' })).toBeVisible()
  await page.goto('/')
  await expect(road.locator('[aria-current=step]')).toContainText('Enter your first machine')
  await page.getByRole('link', { name: 'Several as a table' }).click()
  await expect(page.getByRole('heading', { name: 'Machines' })).toBeVisible()
})

test('a paste is looked at row by row, mended, undone and kept', async ({ page }) => {
  await page.goto('/tables/machines')
  await cell(page, 'Name', 1).focus()
  await paste(
    page,
    [
      'Light\tName\tPlate width\tPlate depth\tHeight\tPixels across\tPixels deep\tLift\tRetract\tShade',
      'masked LCD\tTarn\t143,4\t89,6\t175\t4096\t2560\t3 at 40; 4 at 120\t7 at 150\tgrey',
      'lamp\tWeir\t120\t67,5\t200\t1920\t1080\t5 at 60\t5 at 150\tblack',
      'projector\tFord\t12 cm\t67,5\t200\t1920\t1080\t5 at 60\t5 at 150\t',
    ].join('\n'),
  )
  await expect(page.getByText('Not read, since no column has the name: Shade.')).toBeVisible()
  await expect(page.getByText('1 row ready to be kept, 2 rows not yet.')).toBeVisible()
  const wrong = page.getByRole('list', { name: 'Rows with something wrong' })
  await expect(wrong).toContainText('Row 2: Light: "lamp" is none of masked lcd, projector, laser')
  await expect(wrong).toContainText('Row 3: Plate width: "12 cm" is in cm; write it in mm')
  await expect(cell(page, 'Light', 2)).toHaveAttribute('aria-invalid', 'true')
  expect(await axeFinds(page)).toEqual([])

  // One is kept; the others wait, mended one by one.
  await page.getByRole('button', { name: 'Keep 1 row' }).click()
  await expect(page.getByText('1 row kept. The others wait here with what is still wrong.')).toBeVisible()
  await expect(cell(page, 'Name', 1)).toHaveValue('Weir')
  await cell(page, 'Light', 1).fill('projector')
  await cell(page, 'Plate width, mm', 2).fill('120')
  await expect(page.getByText('2 rows ready to be kept.')).toBeVisible()

  // What was not kept stands here again after a reload.
  await page.reload()
  await expect(cell(page, 'Name', 2)).toHaveValue('Ford')
  await page.getByRole('button', { name: 'Keep 2 rows' }).click()
  await expect(page.getByText('2 rows kept.')).toBeVisible()
  await expect(page.getByText('Nothing typed yet: begin with the first machine.')).toBeVisible()
})

test('keys alone fill a table, and take a change back', async ({ page }) => {
  await page.goto('/tables/resins')
  await cell(page, 'Name', 1).focus()
  await page.keyboard.type('Slate')
  await page.keyboard.press('Tab')
  await page.keyboard.type('1000')
  for (let i = 0; i < 3; i++) await page.keyboard.press('Tab')
  await page.keyboard.type('32,5')
  await page.keyboard.press('Enter')
  // The next row begins with the name and the size; the keyboard is in the first cell that it leaves open.
  await expect(cell(page, 'Name', 2)).toHaveValue('Slate')
  await expect(cell(page, 'or sold by, g', 2)).toBeFocused()
  await cell(page, 'Name', 2).fill('Dune')
  await cell(page, 'List price', 2).fill('24')
  await cell(page, 'Name', 3).fill('Moss')
  await cell(page, 'Sold by, ml', 3).fill('500')

  // Alt ↓ copies to the row below and goes there; Ctrl Z takes it back, Ctrl Shift Z brings it again.
  await cell(page, 'List price', 2).focus()
  await page.keyboard.press('Alt+ArrowDown')
  await expect(cell(page, 'List price', 3)).toHaveValue('24')
  await expect(cell(page, 'List price', 3)).toBeFocused()
  await page.keyboard.press('Control+z')
  await expect(cell(page, 'List price', 3)).toHaveValue('')
  await page.keyboard.press('Control+Shift+Z')
  await expect(cell(page, 'List price', 3)).toHaveValue('24')
  await page.keyboard.press('ArrowUp')
  await expect(cell(page, 'List price', 2)).toBeFocused()
  await page.getByRole('button', { name: 'Remove row 2' }).click()
  await expect(cell(page, 'Name', 2)).toHaveValue('Moss')
  await page.getByRole('button', { name: 'Undo typing' }).click()
  await expect(page.getByText('3 rows ready to be kept.')).toBeVisible()
  await page.getByRole('button', { name: 'Keep 3 rows' }).focus()
  await page.keyboard.press('Enter')
  await expect(page.getByText('3 rows kept.')).toBeVisible()
})

test('what comes out as a file stands on record when it comes in', async ({ page }) => {
  await page.goto('/tables/machines')
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('link', { name: 'What is on record, as CSV' }).click(),
  ])
  expect(download.suggestedFilename()).toBe('machines.csv')
  const text = (await readFile(await download.path())).toString()
  expect(text).toMatch(/^name,light_engine,width_mm,.*\nTarn,masked lcd,143\.4,/)
  const changed = text.replace('Weir,projector,120,', 'Weir,projector,121,')
  await page
    .getByLabel('From a CSV file')
    .setInputFiles({ name: 'machines.csv', mimeType: 'text/csv', buffer: Buffer.from(changed) })
  await expect(page.getByText('2 rows on record already, 1 row not yet.')).toBeVisible()
  await expect(page.getByRole('list', { name: 'Rows with something wrong' })).toContainText(
    'stands on record as M2 with another plate width',
  )
  await expect(page.getByRole('button', { name: 'Keep 0 rows' })).toBeDisabled()
})

test('several mesh files come in at once, and one that is known is recognised', async ({ page }) => {
  const file = (name: string, ...size: [number, number, number]) => ({
    name,
    mimeType: 'model/stl',
    buffer: Buffer.from(boxSTL(...size)),
  })
  await page.goto('/kit/pieces/new')
  const files = page.getByLabel('Mesh files')
  await files.setInputFiles([file('post.stl', 10, 10, 20), file('slab.stl', 30, 20, 5)])
  await page.getByLabel('Name of slab.stl').fill('Flat slab')
  await page.getByRole('button', { name: 'Keep 2 pieces' }).click()
  await expect(page.getByText('2 pieces kept.')).toBeVisible()
  await files.setInputFiles([
    file('again.stl', 30, 20, 5),
    { ...file('broken.stl', 1, 1, 1), buffer: Buffer.from('no mesh') },
    file('cube.stl', 15, 15, 15),
  ])
  await expect(page.getByRole('row', { name: /again\.stl/ })).toContainText('On record as P2 Flat slab.')
  await expect(page.getByLabel('Keep again.stl')).not.toBeChecked()
  await expect(page.getByLabel('Keep broken.stl')).toBeDisabled()
  expect(await axeFinds(page)).toEqual([])
  await page.getByRole('button', { name: 'Keep 1 piece' }).click()
  await expect(page.getByRole('link', { name: 'cube' })).toBeVisible()
})

test('a page that is left while pieces are being kept names the rest, and leaves once they are kept', async ({
  page,
}) => {
  const file = (name: string, side: number) => ({
    name,
    mimeType: 'model/stl',
    buffer: Buffer.from(boxSTL(side, side, side)),
  })
  let go = () => {}
  const held = new Promise<void>((resolve) => (go = resolve))
  await page.route('**/api/v1/pieces?job=*', async (route) => {
    await held
    await route.continue()
  })
  await page.goto('/kit/pieces/new')
  await page.getByLabel('Mesh files').setInputFiles([file('north.stl', 11), file('south.stl', 12)])
  await page.getByRole('button', { name: 'Keep 2 pieces' }).click()
  await page.getByRole('link', { name: 'Bench', exact: true }).first().click()
  await expect(page.getByRole('alert')).toContainText('Not kept yet: north, south.')
  expect(await axeFinds(page)).toEqual([])
  go()
  await expect(page).toHaveURL('/')
  const pieces = (await (await page.request.get('/api/v1/pieces')).json()) as { piece: { name: string } }[]
  expect(pieces.map((p) => p.piece.name)).toEqual(expect.arrayContaining(['north', 'south']))
})

test('a thousand rows paste and scroll, and only those in sight are drawn', async ({ page }) => {
  await page.goto('/tables/features')
  await cell(page, 'Piece or pieces', 1).focus()
  const rows = Array.from({ length: 1000 }, (_, i) => `cube\tcheckpoint\tedge ${i + 1}`)
  await paste(page, ['piece\tkind\tname', ...rows].join('\n'))
  await expect(page.getByText('300 rows ready to be kept, 700 rows not yet.')).toBeVisible()
  await expect(page.getByText('cube has 300 features; no piece has more').first()).toBeVisible()
  const box = page.getByRole('region', { name: 'What is measured on pieces, as a table' })
  await box.evaluate((e) => e.scrollTo(0, e.scrollHeight))
  await expect(cell(page, 'Name', 1000)).toHaveValue('edge 1000')
  expect(await box.getByRole('row').count()).toBeLessThan(60)
})

test('what is usable of a plate is looked at, drawn and laid by', async ({ page }) => {
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Tarn' }).click()
  const usable = page.getByRole('region', { name: 'What is usable of its plate' })
  await expect(usable).toContainText('143.4 × 89.6 × 175 mm as claimed; nobody looked at what is really usable.')
  await usable.getByLabel('Dead at the left').fill('140')
  await usable.getByLabel('Dead at the right').fill('4')
  await usable.getByRole('button', { name: 'Keep what is usable' }).click()
  await expect(usable.getByRole('alert').first()).toContainText('leaves nothing of the 143.4 mm of the plate')
  await usable.getByLabel('Dead at the left').fill('1,4')
  await usable.getByLabel('Tallest that comes out').fill('168')
  await usable.getByRole('button', { name: 'Mark a spot' }).click()
  await usable.getByLabel('Spot 1: from the left').fill('30')
  await usable.getByLabel('from the front').fill('20')
  await usable.getByLabel('How it was found').fill('a grid was printed')
  expect(await axeFinds(page)).toEqual([])
  await usable.getByRole('button', { name: 'Keep what is usable, with 1 spot' }).click()
  await expect(usable).toContainText('138 × 89.6 × 168 mm are usable, looked at on')
  await expect(usable.getByRole('list', { name: 'Looked at so far' })).toContainText('dead pixel at 30, 20 mm')
  await page.goto('/kit')
  await expect(page.getByRole('row', { name: /Tarn/ })).toContainText('usable 138 × 89.6 × 168')

  await page.getByRole('link', { name: 'Tarn' }).click()
  await usable.getByRole('button', { name: /Take back/ }).click()
  await usable.getByLabel('Why it is taken back').fill('measured on Weir')
  await page.keyboard.press('Enter')
  await expect(usable).toContainText('as claimed; nobody looked')
  await expect(usable).toContainText('Taken back: measured on Weir')
})

test('how even the light is over a plate is measured, mapped and said', async ({ page }) => {
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Weir' }).click()
  const light = page.getByRole('region', { name: 'Light over the plate' })
  await expect(light).toContainText('Not measured over the plate.')
  await light.getByLabel('Deep').selectOption('2')
  // What is pasted lies as the plate does: its first line is the back.
  await light.getByLabel('Reading 1 from the left, 2 from the front').focus()
  await paste(page, '4\t4\t3,2\n4\t4,4')
  await light.getByRole('button', { name: 'Keep these readings' }).click()
  await expect(light.getByLabel('Reading 3 from the left, 1 from the front')).toBeFocused()
  await light.getByLabel('Reading 3 from the left, 1 from the front').fill('4,4')
  await light.getByLabel('Meter').fill('photodiode')
  await light.getByRole('button', { name: 'Keep these readings' }).click()
  await expect(light).toContainText('80 to 110 % of its mean of 4 mW/cm² (3 × 2 readings,')
  await expect(light).toContainText('photodiode); weakest at the back right.')
  await expect(light.getByRole('row').first()).toContainText('80 weakest')
  expect(await axeFinds(page)).toEqual([])
})
