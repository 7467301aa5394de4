import { expect, test, type Page } from './clock'
import { axeFinds } from './axe'

// A record that is open to a network: who knows the passphrase comes in, a phone comes in as helper, and nobody else.
const base = 'http://127.0.0.2:8493'
test.use({ baseURL: base })
test.describe.configure({ mode: 'serial' })

const passphrase = (page: Page) => page.getByRole('textbox', { name: 'Passphrase' })

async function enter(page: Page, name: string) {
  await page.goto('/')
  await passphrase(page).fill('four words on a door')
  await page.getByLabel('What this device is called').fill(name)
  await page.getByRole('button', { name: 'Come in', exact: true }).click()
  await expect(page.getByRole('navigation', { name: 'Views' })).toBeVisible()
}

test('nobody comes in without the passphrase', async ({ page }) => {
  await page.goto('/kit')
  await expect(passphrase(page)).toBeVisible()
  await expect(page.getByRole('navigation')).toHaveCount(0)
  await expect(page.getByText('This connection is not encrypted')).toBeVisible()
  expect(await axeFinds(page)).toEqual([])
  await passphrase(page).fill('four wrong words here')
  await passphrase(page).press('Enter')
  await expect(page.getByRole('alert')).toHaveText('That is not it.')
  for (const path of ['machines', 'record', 'events', 'bench', 'openapi.json', 'door/log'])
    expect((await page.request.get(`/api/v1/${path}`)).status(), path).toBe(401)
  await passphrase(page).fill('four words on a door')
  await passphrase(page).press('Enter')
  await expect(page.getByRole('heading', { level: 1, name: 'Kit' })).toBeVisible()
  const [cookie] = await page.context().cookies()
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Strict' })
  expect(await page.evaluate(() => document.cookie)).toBe('')
})

test('a phone comes in as helper, and its session is ended', async ({ page, browser }) => {
  await enter(page, 'the bench')
  await page.getByRole('link', { name: 'Door' }).click()
  await page.getByRole('button', { name: 'Draw a code' }).click()
  const code = await page
    .getByRole('region', { name: 'Bring a phone in' })
    .getByRole('status')
    .locator('strong')
    .innerText()
  expect(await axeFinds(page)).toEqual([])

  const phone = await (await browser.newContext({ baseURL: base, viewport: { width: 390, height: 844 } })).newPage()
  await phone.goto(`/door?code=${code}`)
  await phone.getByLabel('What this device is called').fill('Ilse’s phone')
  await phone.getByRole('button', { name: 'Come in as helper' }).click()
  await expect(phone.getByRole('heading', { name: 'You are in as helper, Ilse’s phone' })).toBeVisible()
  expect(await axeFinds(phone)).toEqual([])
  expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)
  await expect(phone.getByRole('navigation', { name: 'Views' }).getByRole('listitem')).toHaveText([
    'Bench',
    'Run',
    'Inspect',
  ])
  await phone.goto('/devices')
  await expect(phone.getByRole('alert').first()).toContainText('this is for the owner')
  const refused = await phone.request.post('/api/v1/machines', { data: { name: 'x' } })
  expect(refused.status()).toBe(403)
  const again = await (await browser.newContext({ baseURL: base })).newPage()
  await again.goto(`/door?code=${code}`)
  await again.getByRole('button', { name: 'Come in as helper' }).click()
  await expect(again.getByRole('alert')).toHaveText('That is not it.')

  await page.reload()
  await page.getByRole('button', { name: 'End the session of Ilse’s phone' }).click()
  await expect(page.getByRole('region', { name: 'Who is in' }).getByRole('row')).not.toContainText(['Ilse'])
  await phone.goto('/runs')
  await expect(passphrase(phone)).toBeVisible()
  await page.getByText('What happened at the door').click()
  const log = page.getByRole('group', { name: 'Events at the door' })
  await expect(log).toContainText('wrong code')
  await expect(log).toContainText('POST /api/v1/machines')
})

test('the record goes out only after the passphrase was entered again', async ({ page }) => {
  await enter(page, 'the desk')
  // As it stands ten minutes later.
  await page.route('**/api/v1/door', async (route) => {
    const answer = await route.fetch()
    await route.fulfill({ response: answer, json: { ...((await answer.json()) as object), confirmed: false } })
  })
  await page.goto('/verdict')
  await page
    .getByRole('link', { name: /record/i })
    .filter({ hasText: /export|save|json/i })
    .first()
    .click()
  const dialog = page.getByRole('dialog', { name: 'The passphrase, once more' })
  await passphrase(page).fill('four wrong words here')
  await dialog.getByRole('button', { name: 'Go on' }).click()
  await expect(dialog.getByRole('alert')).toHaveText('That is not it.')
  expect(await axeFinds(page)).toEqual([])
  const out = page.waitForEvent('download')
  await passphrase(page).fill('four words on a door')
  await dialog.getByRole('button', { name: 'Go on' }).click()
  expect((await out).suggestedFilename()).toMatch(/ojime|record/)
})

test('a phone that came over plain HTTP enters all the same, and is told what it lacks', async ({ page, browser }) => {
  await enter(page, 'the bench')
  await page.getByRole('link', { name: 'Door' }).click()
  await page.getByRole('button', { name: 'Draw a code' }).click()
  const code = await page
    .getByRole('region', { name: 'Bring a phone in' })
    .getByRole('status')
    .locator('strong')
    .innerText()
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage()
  await phone.goto(`http://bench.test:8493/door?code=${code}`)
  expect(
    await phone.evaluate(() => [window.isSecureContext, typeof crypto.randomUUID, 'serviceWorker' in navigator]),
  ).toEqual([false, 'undefined', false])
  await phone.getByRole('button', { name: 'Come in as helper' }).click()
  await phone.getByRole('link', { name: 'In the pocket' }).click()
  await expect(phone.getByText('This page is not encrypted, or its certificate is not trusted')).toBeVisible()
  await expect(phone.getByRole('button', { name: 'Scan with the camera' })).toHaveCount(0)
  await expect(phone.getByText('Photograph the label')).toBeVisible()
  await phone.getByRole('textbox', { name: 'Label of a copy' }).fill('S-097-01')
  await phone.getByRole('textbox', { name: 'Label of a copy' }).press('Enter')
  const copy = phone.getByRole('region', { name: 'Copy S-097-01' })
  await expect(copy).toBeVisible()
  await phone.context().setOffline(true)
  await copy.getByRole('group', { name: 'Finial' }).getByRole('button', { name: 'damaged' }).click()
  const waits = phone.getByRole('region', { name: 'What waits' })
  await expect(waits).toContainText('The network is away')
  await phone.context().setOffline(false)
  await expect(waits.getByRole('status')).toHaveText('Everything is at the bench.')
  await expect(copy.getByRole('group', { name: 'Finial' })).toContainText('(on record: damaged)')
})

test('all sessions end at once', async ({ page, browser }) => {
  await enter(page, 'one')
  const other = await (await browser.newContext({ baseURL: base })).newPage()
  await enter(other, 'two')
  await page.getByRole('link', { name: 'Door' }).click()
  await page.getByRole('button', { name: 'End all sessions, this one too' }).click()
  await expect(passphrase(page)).toBeVisible()
  await other.goto('/')
  await expect(passphrase(other)).toBeVisible()
  // A ballot's link asks for no passphrase, and one that opens nothing says so.
  await other.goto('/ballot/0123456789abcdefghjk')
  await expect(other.getByRole('alert')).toContainText('could not be loaded')
})
