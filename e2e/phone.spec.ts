import { expect, test, type Page } from './clock'
import { axeFinds } from './axe'
import { edgePNG } from './picture'

// The phone in the pocket, in the demo record: labels are scanned and typed, and what is entered while the network is
// away is at the bench once, when it is back.
const base = 'http://127.0.0.1:8492'
test.use({ baseURL: base, viewport: { width: 390, height: 844 } })

const waits = (page: Page) => page.getByRole('region', { name: 'What waits' })

async function take(page: Page, code: string) {
  await page.getByRole('textbox', { name: 'Label of a copy' }).fill(code)
  await page.getByRole('button', { name: 'Take it' }).click()
  await expect(page.getByRole('heading', { level: 2, name: code })).toBeVisible()
}

test('a label is read off a photograph, and the copy is photographed', async ({ page }) => {
  await page.goto('/phone')
  await expect(page.getByRole('region', { name: 'At the bench' }).getByRole('link').first()).toBeVisible()
  const label = await page.request.get(`/api/v1/specimens/S-097-01/qr.png?url=${encodeURIComponent(base)}`)
  await page
    .getByLabel('Photograph the label')
    .setInputFiles({ name: 'label.png', mimeType: 'image/png', buffer: await label.body() })
  await expect(page.getByRole('heading', { level: 2, name: 'S-097-01' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Copy S-097-01' })).toContainText('Cage lantern, Dunnock 5')
  expect(await axeFinds(page)).toEqual([])
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390)

  const group = page.getByRole('group', { name: 'Photograph' })
  await expect(group.getByText('Say the light first')).toBeVisible()
  await group.getByRole('textbox', { name: 'Light' }).fill('the bench lamp')
  await group.getByLabel('Surface').selectOption('primed')
  const sent = page.waitForResponse((r) => r.url().includes('/api/v1/photographs') && r.request().method() === 'POST')
  await group
    .getByLabel('Take a photograph')
    .setInputFiles({ name: 'edge.png', mimeType: 'image/png', buffer: edgePNG(400, 300, 3, 5) })
  expect((await sent).status()).toBe(200)
  await expect(waits(page).getByRole('status')).toHaveText('Everything is at the bench.')
  await page.goto('/specimens/S-097-01')
  await expect(page.getByRole('list', { name: 'Photographs of S-097-01' })).toContainText('the bench lamp')

  await page.goto('/phone')
  await page
    .getByLabel('Photograph the label')
    .setInputFiles({ name: 'nothing.png', mimeType: 'image/png', buffer: edgePNG(400, 300, 9, 6) })
  await expect(page.getByRole('alert')).toContainText('No code was found')
})

test('what is entered while the network is away is kept, and sent once when it is back', async ({ page, context }) => {
  await page.goto('/phone')
  await take(page, 's-099-02')
  await context.setOffline(true)
  const copy = page.getByRole('region', { name: 'Copy S-099-02' })
  await copy.getByRole('button', { name: 'a small defect' }).click()
  await copy.getByLabel('What is wrong').selectOption('surface haze')
  await copy.getByRole('button', { name: 'Keep it' }).click()
  await copy.getByRole('group', { name: 'Finial' }).getByRole('button', { name: 'damaged' }).click()
  await copy.getByRole('form', { name: 'Surface' }).getByLabel('Its surface came to').selectOption('painted')
  await copy.getByRole('button', { name: 'Note it' }).click()
  await expect(waits(page)).toContainText('The network is away')
  await expect(waits(page).getByRole('listitem')).toHaveCount(3)
  // A copy that was looked at before is there still, one that was not is not; and what waits survives the page.
  await page.getByRole('textbox', { name: 'Label of a copy' }).fill('S-085-01')
  await page.getByRole('button', { name: 'Take it' }).click()
  await expect(page.getByRole('alert')).toContainText('was not looked at on this device before')
  await take(page, 'S-099-02')
  // The page itself opens without the network: this one is trusted, and the device has kept it.
  await page.reload()
  await expect(waits(page).getByRole('listitem')).toHaveCount(3)
  await expect(page.getByRole('heading', { level: 2, name: 'S-099-02' })).toBeVisible()

  // The first answer is lost on the way: it arrives, and is sent again.
  let lost = 0
  await page.route('**/outcomes', async (route) => {
    if (lost++ > 0) return route.continue()
    await route.fetch()
    await route.abort()
  })
  await context.setOffline(false)
  await expect(waits(page)).toHaveText(/^Everything is at the bench\.$/)
  expect(lost).toBeGreaterThan(1)
  const specimen = (await (await page.request.get('/api/v1/specimens/S-099-02')).json()) as {
    specimen: { run_id: string; id: string }
  }
  const sheet = (await (await page.request.get(`/api/v1/runs/${specimen.specimen.run_id}`)).json()) as {
    specimens: { id: string; outcome: string; defects: { symptom: string; taken_back_ms?: number }[] }[]
    readings: { specimen_id: string; state: string | null }[]
    stages: { specimen_id: string; stage: string }[]
  }
  const mine = sheet.specimens.find((s) => s.id === specimen.specimen.id)!
  expect(mine.outcome).toBe('micro_defect')
  expect(mine.defects.filter((d) => d.symptom === 'surface haze' && d.taken_back_ms == null)).toHaveLength(1)
  expect(sheet.readings.filter((r) => r.specimen_id === mine.id && r.state === 'damaged')).toHaveLength(1)
  expect(sheet.stages.filter((s) => s.specimen_id === mine.id && s.stage === 'painted')).toHaveLength(1)
})

test('what the bench refuses is said, and waits for somebody to look', async ({ page }) => {
  await page.goto('/phone')
  await take(page, 'S-096-01')
  const size = page.getByRole('group', { name: 'Readings' }).getByRole('form').first()
  await size.getByRole('textbox').fill('400')
  await size.getByRole('button', { name: 'Keep' }).click()
  await expect(waits(page).getByText(/400 mm:/)).toBeVisible()
  expect(await axeFinds(page)).toEqual([])
  await waits(page).getByRole('button', { name: /^Drop/ }).click()
  await expect(waits(page).getByText(/400 mm:/)).toHaveCount(0)
  // A value that is hard to believe is kept once it is said to be right.
  await size.getByRole('textbox').fill('400')
  await size.getByRole('button', { name: 'Keep' }).click()
  await waits(page).getByRole('button', { name: 'It is right: keep it' }).click()
  await expect(waits(page)).toHaveText(/^Everything is at the bench\.$/)
})
