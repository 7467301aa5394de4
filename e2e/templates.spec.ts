import { expect, test, type Page } from './clock'
import { axeFinds } from './axe'
import { bench } from './bench'
import { boxSTL } from './mesh'
import { edgePNG } from './picture'

// What the next entry begins with: the room that a machine stands in, what is looked at on every piece of a kind, and
// the settings that new ones begin with. And pictures of what came in the box.
test.describe.configure({ mode: 'serial' })
const base = 'http://127.0.0.1:8490'

let page: Page
test.beforeAll(async ({ browser, request }) => {
  await bench(request, base)
  page = await browser.newPage({ baseURL: base })
})
test.afterAll(() => page.close())

// A phone that reaches the bench by its address in the room's network is given no ids by its browser.
test.beforeEach(() =>
  page.addInitScript(() => {
    delete (Crypto.prototype as { randomUUID?: unknown }).randomUUID
  }),
)

test('1 a room is said once, and offered to the prints of its machines', async () => {
  await page.goto('/kit')
  const rooms = page.getByRole('region', { name: 'Rooms' })
  await expect(rooms).toContainText('No room yet')
  await rooms.getByRole('button', { name: 'Enter a room' }).click()
  await rooms.getByLabel('Name').fill('Garage')
  await rooms.getByLabel('Usual temperature').fill('19,5')
  await rooms.getByLabel('Humidity').fill('155')
  await rooms.getByRole('button', { name: 'Keep the room' }).click()
  // What was typed stays where it is refused.
  await expect(rooms.getByRole('alert')).toContainText('at most 100')
  await expect(rooms.getByLabel('Usual temperature')).toHaveValue('19,5')
  await rooms.getByLabel('Humidity').fill('55')
  await rooms.getByRole('button', { name: 'Keep the room' }).click()
  await expect(rooms).toContainText('In no room yet: Ossik 7')
  await rooms.getByRole('combobox', { name: 'Machine' }).selectOption({ label: 'M1 Ossik 7' })
  await rooms.getByRole('combobox', { name: 'stands in' }).selectOption({ label: 'Garage' })
  await rooms.getByRole('button', { name: 'It stands there' }).click()
  await expect(rooms).toContainText('K1 Garage: Ossik 7. Usually 19.5 °C, humidity 55 %.')
  expect(await axeFinds(page)).toEqual([])

  await page.goto('/runs/new')
  await page.getByRole('combobox', { name: 'Machine' }).selectOption({ label: 'M1 Ossik 7' })
  const room = page.getByRole('group', { name: 'The room' })
  await expect(room).toContainText('It stood in Garage')
  await expect(page.getByRole('textbox', { name: 'Room temperature' })).toHaveValue('')
  await room.getByRole('button', { name: /^As usual, not read/ }).click()
  await expect(page.getByRole('textbox', { name: 'Room temperature' })).toHaveValue('19.5')
  await expect(page.getByRole('textbox', { name: 'Humidity' })).toHaveValue('55')
  // It is not passed off as read.
  await expect(page.getByLabel('Seen to differ')).toHaveValue('Garage as usual, not read')
})

test('2 what is looked at on a kind of piece is said once', async () => {
  await page.goto('/kit?tab=pieces')
  const kinds = page.getByRole('region', { name: 'Kinds of pieces' })
  await kinds.getByRole('button', { name: 'Enter a kind' }).click()
  await kinds.getByLabel('Kind', { exact: true }).fill('figure')
  await kinds.getByLabel('What is looked at on each').fill('Face: front\nSword tip')
  await kinds.getByRole('button', { name: 'Keep the list' }).click()
  await expect(kinds).toContainText('figure, no piece yet. Looked at on each: Face and Sword tip.')
  expect(await axeFinds(page)).toEqual([])

  await page.goto('/kit/pieces/new')
  await page
    .locator('input[type=file]')
    .first()
    .setInputFiles({ name: 'guard.stl', mimeType: 'model/stl', buffer: Buffer.from(boxSTL(12, 10, 30)) })
  await page.getByLabel('Kind').fill('Figure')
  await page.getByRole('button', { name: 'Keep this piece' }).click()
  const measured = page.getByRole('form', { name: 'What is measured' })
  await expect(measured.getByLabel('Name')).toHaveCount(2)
  await expect(measured.getByLabel('Where to look').first()).toHaveValue('front')

  // An older piece is told its kind, and takes what it lacks; what is looked at on it can become the kind's.
  await page.goto('/kit?tab=pieces')
  await page.getByRole('link', { name: 'Tower' }).click()
  await page.getByRole('combobox', { name: 'Kind of piece' }).fill('figure')
  await page.getByRole('button', { name: 'Keep the kind' }).click()
  const before = await measured.getByLabel('Name').count()
  await measured.getByRole('button', { name: 'Take 2 checkpoints of every figure' }).click()
  await expect(measured.getByLabel('Name')).toHaveCount(before + 2)
  await measured.getByRole('button', { name: 'Save what is measured' }).click()
  await expect(measured.getByRole('status')).toHaveText('Saved.')
  expect(await axeFinds(page)).toEqual([])
})

test('3 new settings begin with those that were made their template', async () => {
  await page.goto('/kit?tab=settings')
  await page.getByRole('button', { name: /^New settings of Ossik 7 begin with U-01/ }).click()
  await expect(page.getByRole('button', { name: /^New settings of Ossik 7 begin with U-01/ })).toHaveText(/✓/)
  await page.getByRole('button', { name: 'Enter settings by hand' }).click()
  const form = page.getByRole('form', { name: 'Settings by hand' })
  await form.getByLabel('Machine', { exact: true }).selectOption({ label: 'Ossik 7' })
  await form.getByLabel('Resin', { exact: true }).selectOption({ label: 'Plain Grey' })
  await form.getByRole('button', { name: /^Begin with U-01/ }).click()
  await expect(form.getByLabel('Exposure', { exact: false }).first()).toHaveValue('2.5')
  await expect(form.getByLabel('lifted at', { exact: false }).first()).toHaveValue('60')
  await form.getByLabel('A name of its own').fill('Twin')
  expect(await axeFinds(page)).toEqual([])
  await form.getByRole('button', { name: 'Keep these settings' }).click()
  await expect(page.getByRole('heading', { name: /U-02 Twin/ })).toBeVisible()
})

test('4 what came in the box is photographed', async () => {
  await page.goto('/kit')
  await page.getByRole('link', { name: 'Ossik 7' }).click()
  const photographs = page.getByRole('group', { name: 'Photographs of the unit' })
  await expect(photographs.getByLabel('Files')).toBeDisabled()
  await photographs.getByLabel('What is on it').fill('damage')
  await photographs.getByLabel('Note').fill('a cracked corner')
  await photographs
    .getByLabel('Files')
    .setInputFiles({ name: 'corner.png', mimeType: 'image/png', buffer: edgePNG(64, 48, 3, 1) })
  await expect(photographs).toContainText('HU-01 damage: a cracked corner')
  await expect(photographs.getByRole('img', { name: 'HU-01, damage' })).toBeVisible()
  expect(await axeFinds(page)).toEqual([])
  await photographs.getByRole('button', { name: 'Take back photograph HU-01' }).click()
  await photographs.getByLabel('Why it is taken back').fill('another machine')
  await photographs.getByRole('button', { name: 'Take it back' }).click()
  await expect(photographs).toContainText('Taken back: another machine')
  await expect(photographs.getByRole('img')).toHaveCount(0)
  // It was this machine after all.
  await photographs.getByRole('button', { name: 'Put photograph HU-01 back' }).click()
  await expect(photographs.getByRole('img', { name: 'HU-01, damage' })).toBeVisible()
  await expect(photographs).not.toContainText('Taken back')
})
